import { median } from '../base/robust.ts';
import { digamma, trigamma, trigammaInverse } from '../base/distributions.ts';

/**
 * What a dyno's past sessions say of its scatter. It serves the repeatability gate and planning; no interval rests
 * on it.
 */

/** Most degrees of freedom a dyno's history may contribute. */
export const HISTORY_DF_CAP = 10;

/**
 * Prior from past sessions of one dyno in one measuring mode.
 * @param sessions residual variance curves s²(r) in lp², one row a session, same points each
 * @param df residual degrees of freedom of each session
 * @returns df hat before and after the cap, and the pooled variance s0²; `evar` is the excess variance of ln s²
 */
export function historyPrior(
  sessions: readonly ArrayLike<number>[],
  df: readonly number[],
  cap = HISTORY_DF_CAP,
) {
  const M = sessions.length;
  const G = sessions[0]?.length ?? 0;
  const curves = sessions.map((row) => Float64Array.from(row));
  for (let j = 0; j < G; j++) {
    const floor = 1e-5 * median(curves.map((row) => row[j]));
    for (const row of curves) row[j] = Math.max(row[j], floor);
  }
  let spread = 0;
  for (let j = 0; j < G; j++) {
    const e = curves.map((row, i) => Math.log(row[j]) - digamma(df[i] / 2) + Math.log(df[i] / 2));
    const m = e.reduce((a, b) => a + b, 0) / M;
    spread += e.reduce((sum, value) => sum + (value - m) ** 2, 0) / (M - 1) / G;
  }
  const evar = spread - df.reduce((sum, value) => sum + trigamma(value / 2), 0) / M;
  const total = df.reduce((a, b) => a + b, 0);
  const d0Hat = evar > 0 ? 2 * trigammaInverse(evar) : Infinity;
  const s0sq = curves.reduce((sum, row, i) => sum + df[i] * (row.reduce((a, b) => a + b, 0) / G), 0) / total;
  return { evar, d0Hat, d0: Math.min(d0Hat, cap, total), s0sq };
}

/** A history may be used from four past sessions with twenty degrees of freedom between them. */
export const historyIsEnough = (df: readonly number[]): boolean =>
  df.length >= 4 && df.reduce((a, b) => a + b, 0) >= 20;
