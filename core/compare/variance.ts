import { digamma, trigamma, trigammaInverse } from '../base/distributions.ts';
import type { KnownVariance } from '../register/repeatability.ts';
import type { Rows } from './common-grid.ts';
import { sumOfSquares } from './contrast.ts';
import { type Layout } from '../plan/contrast-weights.ts';

/** Smallest variance a comparison may rest on, lp² (0.05 lp): below it the scatter is not believable. */
export const VARIANCE_FLOOR = 0.0025;
/** Most degrees of freedom a dyno's history may contribute. */
export const HISTORY_DF_CAP = 10;

/** Rule B for one curve: the history's df are discounted when the session is noisier than the history. */
export function moderatedVariance(
  s2: ArrayLike<number>,
  nu: number,
  sbar: number,
  history: KnownVariance,
): { f: number; df: number; v: Float64Array } {
  const f = Math.max(1, sbar / history.variance);
  const df = history.df / f + nu;
  // The numerator keeps the whole history while the df shrink, so a noisy session widens v as well as its tail.
  return {
    f,
    df,
    v: Float64Array.from({ length: s2.length }, (_, j) => (history.df * history.variance + nu * s2[j]) / df),
  };
}

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

function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const mid = sorted.length >> 1;
  return sorted.length % 2 ? sorted[mid] : (sorted[mid - 1] + sorted[mid]) / 2;
}

/**
 * Inflation of Σc² when the smaller arm is also the noisier one: (2/min(nA,nB))/(1/nA + 1/nB), else 1.
 * `residuals` are about run means (or the covariate fit).
 */
export function kappaSquared(residuals: Rows, { arm, run }: Pick<Layout, 'arm' | 'run'>): number {
  const nB = arm.filter((a) => a === 1).length;
  const nA = arm.length - nB;
  if (nA === nB) return 1;
  const withinArm = (which: 0 | 1): number => {
    const members = arm.flatMap((a, i) => (a === which ? [i] : []));
    const df = members.length - new Set(members.map((i) => run[i])).size;
    if (df <= 0) return NaN;
    const ss = sumOfSquares(residuals, (i) => arm[i] === which);
    return ss.reduce((a, b) => a + b, 0) / ss.length / df;
  };
  const [small, large] = nA < nB ? [withinArm(0), withinArm(1)] : [withinArm(1), withinArm(0)];
  return small > large ? 2 / Math.min(nA, nB) / (1 / nA + 1 / nB) : 1;
}

/**
 * Guard on the registered mount variance, upwards only: pools the mountings seen in this session with it.
 * For equal runs, each on a mounting of its own, and four mountings or more.
 * @param runMeans band average of each run, lp; @param runArm 0 or 1; @param pullsPerRun
 * @param within within-run variance of the band average, lp²
 */
export function guardedMountVariance(
  runMeans: readonly number[],
  runArm: readonly (0 | 1)[],
  pullsPerRun: number,
  within: number,
  registered: KnownVariance,
) {
  const dfb = runMeans.length - 2;
  if (dfb < 2) return { ...registered, f: 1, msb: NaN };
  const armMean = ([0, 1] as const).map((a) => {
    const own = runMeans.filter((_, i) => runArm[i] === a);
    return own.reduce((x, y) => x + y, 0) / own.length;
  });
  const msb = runMeans.reduce((sum, value, i) => sum + (value - armMean[runArm[i]]) ** 2, 0) / dfb;
  const f = Math.max(1, msb / (registered.variance + within / pullsPerRun));
  const df = registered.df / f + dfb;
  const seen = Math.max(registered.variance, msb - within / pullsPerRun);
  return { variance: (registered.df * registered.variance + dfb * seen) / df, df, f, msb };
}
