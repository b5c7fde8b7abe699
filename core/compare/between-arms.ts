/**
 * Arms against each other, beside each against the baseline: the stages of a ladder over the one before, or every pair
 * of parts. Told, never claimed: a stage may give another gain in another order, and a part is sold against stock.
 */
import type { TestDefinition } from '../capture/test-definition.ts';
import type { ComparedPair, ContrastPair } from './compare-test.ts';
import type { Interval, Refusal } from './result.ts';

/** What one arm gave over another: average in per cent with its limits, and “up to” in kW. */
export interface PairTold {
  readonly arm: string;
  readonly against: string;
  readonly average: Interval | null;
  readonly upTo: { readonly kw: number; readonly rpm: number } | null;
  /** Why they cannot be compared, in words. */ readonly why: string | null;
}
export interface BetweenArms {
  readonly kind: 'stages' | 'all pairs';
  readonly pairs: readonly PairTold[];
}

/** Which arms are held against each other, a family that pays for its number; none where there is one part. */
export function pairsBetween(
  { arms }: Pick<TestDefinition, 'arms'>,
  baseline: string,
): { readonly kind: BetweenArms['kind']; readonly pairs: readonly ContrastPair[] } | undefined {
  const parts = arms.filter((arm) => arm.id !== baseline);
  const stages = parts.flatMap(({ id, from }) =>
    from !== undefined && from !== id && parts.some((arm) => arm.id === from)
      ? [{ arm: id, against: from }]
      : [],
  );
  if (stages.length > 0) return { kind: 'stages', pairs: stages };
  const pairs = parts.flatMap((arm, i) =>
    parts.slice(0, i).map((other) => ({ arm: arm.id, against: other.id })),
  );
  return pairs.length > 0 ? { kind: 'all pairs', pairs } : undefined;
}

/** @param words what is said of a contrast that cannot be computed */
export function pairTold({ pair, outcome }: ComparedPair, words: (refused: Refusal) => string): PairTold {
  if (!outcome.ok) return { ...pair, average: null, upTo: null, why: words(outcome.refused) };
  const { relative, power } = outcome.value.result;
  const { gain, lower, upper } = relative.bandAverage;
  return {
    ...pair,
    average: { gain, lower, upper },
    upTo: { kw: power.upTo.gain, rpm: power.upTo.rpm },
    why: null,
  };
}
