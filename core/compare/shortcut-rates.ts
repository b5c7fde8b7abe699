/**
 * How often a shortcut finds a gain when the part does nothing: of 100 sessions of three pulls before and three after,
 * on the noise of docs/method.md. From `npm run bench -- shortcuts` (seed 20263, 20 000 sessions a number, error at
 * most 0.4); agrees with the study the rules rest on to a point in a hundred.
 */
import type { ContrastResult } from './result.ts';

/** At least 1 and 2 %, in per cent of sessions. */
export interface Found {
  readonly one: number;
  readonly two: number;
}
export type Shortcut = Exclude<keyof ContrastResult['shortcuts'], 'unit'>;

export const SHORTCUT_RATES: Readonly<
  Record<Shortcut, { readonly oneMounting: Found; readonly remounted: Found }>
> = {
  bestAgainstBest: { oneMounting: { one: 12, two: 1 }, remounted: { one: 21, two: 6 } },
  lastAgainstFirst: { oneMounting: { one: 20, two: 4 }, remounted: { one: 25, two: 9 } },
  largestOverlayDifference: { oneMounting: { one: 60, two: 24 }, remounted: { one: 57, two: 29 } },
};
