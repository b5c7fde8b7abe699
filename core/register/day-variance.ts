/** How much a gain differs from day to day on one car: from repeated tests of the same vehicle and part. */
import type { KnownVariance } from './repeatability.ts';

/** One repeated test: the gain of each of its sessions, lp, and the variance each had by itself, lp². */
export interface RepeatedTest {
  readonly d: readonly number[];
  readonly u2: readonly number[];
}
export interface DayRegistration extends KnownVariance {
  readonly registered: boolean;
  /** Sessions beyond the first of each test. */ readonly J: number;
  /** What the sessions of one test scatter by, lp², and what they would by their own uncertainty. */
  readonly MS: number;
  readonly u2: number;
  /** The difference of the two, before it is kept from being taken too small. */ readonly raw: number;
}
/** Fewest repeated sessions to register from; what is assumed without, lp² (0.6 lp). */
export const DAY_RULE = { repeats: 6, policy: { variance: 0.36, df: Infinity } } as const;

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/**
 * Variance of a gain between days. At least a quarter of what is seen, however large the sessions’ own uncertainty.
 *
 * @returns undefined where no test was repeated
 */
export function registerDayVariance(tests: readonly RepeatedTest[]): DayRegistration | undefined {
  const repeated = tests.filter(({ d }) => d.length > 1);
  const J = repeated.reduce((sum, { d }) => sum + d.length - 1, 0);
  if (J === 0) return undefined;
  const ss = repeated.reduce((sum, { d }) => {
    const centre = mean(d);
    return sum + d.reduce((s, v) => s + (v - centre) ** 2, 0);
  }, 0);
  const MS = ss / J;
  const u2 = mean(repeated.flatMap((t) => [...t.u2]));
  const raw = MS - u2;
  const variance = Math.max(raw, MS / 4);
  return { registered: J >= DAY_RULE.repeats, J, MS, u2, raw, variance, df: J * (variance / MS) ** 2 };
}
