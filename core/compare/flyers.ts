import { meanOf } from './means.ts';
import { tUpperQuantile } from '../base/distributions.ts';

/** A pull held against its siblings as if it had not been made. */
export interface DeletionTest {
  /** Distance from the other pulls of its run, in its own standard errors; NaN for a pull alone in its run. */
  readonly t: number;
  readonly df: number;
  readonly critical: number;
  readonly flag: boolean;
}
/** A dyno’s history of single numbers, lp² with its degrees of freedom. */
export interface FlyerHistory {
  readonly variance: number;
  readonly df: number;
}
/** Chance that a clean session has any pull pointed out. */
export const FLYER_ALPHA = 0.05;

/**
 * Pulls unlike the others of their run. Each is held against the scatter of the session without it; with a history of
 * the dyno that scatter is pooled with it. It points out and asks for a cause; nothing is ever left out by it: dropping
 * pulls by such a rule makes intervals too narrow. Without history it equals R’s externally studentised residuals of
 * `lm(a ~ factor(run))` (checked against R 4.2.2).
 *
 * @param values one number a pull (band average, lp) @param run which run each belongs to
 */
export function deletionTests(
  values: readonly number[],
  run: readonly number[],
  history: FlyerHistory = { variance: 0, df: 0 },
  alpha = FLYER_ALPHA,
): DeletionTest[] {
  const n = values.length;
  const runs = new Set(run);
  const df = n - 1 - runs.size + history.df;
  const critical = df > 0 ? tUpperQuantile(alpha / (2 * n), df) : Infinity;
  return values.map((value, i) => {
    const siblings = values.filter((_, k) => k !== i && run[k] === run[i]);
    if (siblings.length === 0 || df <= 0) return { t: NaN, df, critical, flag: false };
    let ss = 0;
    for (const r of runs) {
      const own = values.filter((_, k) => k !== i && run[k] === r);
      const mean = meanOf(own);
      ss += own.reduce((sum, v) => sum + (v - mean) ** 2, 0);
    }
    const variance = (ss + history.df * history.variance) / df;
    const t = (value - meanOf(siblings)) / Math.sqrt(variance * (1 + 1 / siblings.length));
    return { t, df, critical, flag: Math.abs(t) > critical };
  });
}
