/** Sessions of one vehicle on several days: whether they agree, and what may be claimed where they do not. */
import { chisqQuantile } from '../base/distributions.ts';
import type { ScalarGain } from './scalar-gain.ts';

/** Chance that days which differ as much as is registered are said to disagree. */
const ALPHA = 0.025;

export interface DayGuard {
  /** Mean of the sessions’ own variances, arms taken apart, lp². */ readonly u2: number;
  readonly statistic: number;
  readonly critical: number;
  readonly disagree: boolean;
  /** Limits that may be claimed: the joint ones, or the widest of all where the days disagree; lp. */
  readonly lower: number;
  readonly upper: number;
}

type OneDay = Pick<ScalarGain, 'd' | 'lower' | 'upper' | 'candidates'>;
/** Variance of a session by itself with its arms taken apart; pooled where an arm says nothing of its own scatter. */
const ownVariance = ({ candidates }: OneDay): number => candidates[candidates.length - 1].variance;

/**
 * @param joint all sessions together, with the day in its variance
 * @param sessions each by itself
 * @param dayVariance variance of the gain between days, lp²
 */
export function guardDays(
  joint: Pick<ScalarGain, 'lower' | 'upper'>,
  sessions: readonly OneDay[],
  dayVariance: number,
): DayGuard {
  const mean = sessions.reduce((sum, s) => sum + s.d, 0) / sessions.length;
  const u2 = sessions.reduce((sum, s) => sum + ownVariance(s), 0) / sessions.length;
  const statistic = sessions.reduce((sum, s) => sum + (s.d - mean) ** 2, 0) / (u2 + dayVariance);
  const critical = chisqQuantile(1 - ALPHA, sessions.length - 1);
  const disagree = statistic > critical;
  const all = disagree ? [joint, ...sessions] : [joint];
  return {
    u2,
    statistic,
    critical,
    disagree,
    lower: Math.min(...all.map((s) => s.lower)),
    upper: Math.max(...all.map((s) => s.upper)),
  };
}
