import { criticalValue, type EcForm } from '../../core/base/critical-value.ts';
import { roughness } from '../../core/compare/roughness.ts';
import type { Rows } from '../../core/compare/common-grid.ts';
import { contrastCurve, runResiduals, sumOfSquares } from '../../core/compare/contrast.ts';
import { contrastWeights, mountLoad, type Layout } from '../../core/plan/contrast-weights.ts';
import type { OldTerms } from './old-scalar.ts';
import { smoothedVariance } from '../../core/compare/smoothing.ts';
import { VARIANCE_FLOOR } from '../../core/base/interval-rules.ts';
import { kappaSquared } from './kappa.ts';
import { moderatedVariance } from './moderated-variance.ts';

export interface OldBand {
  readonly rpm: readonly number[];
  readonly weights: readonly number[];
  /** Gain per rpm and its simultaneous limits, lp. */
  readonly d: Float64Array;
  readonly lower: Float64Array;
  readonly upper: Float64Array;
  readonly nu: number;
  readonly s2: Float64Array;
  readonly s2Smooth: Float64Array;
  readonly sbar: number;
  /** Discount on the history, null without one. */
  readonly f: number | null;
  readonly v: Float64Array;
  readonly dfV: number;
  readonly kappa2: number;
  readonly mountLoad: number;
  readonly uc: Float64Array;
  readonly df: number;
  readonly tau: number;
  readonly u: number;
  readonly uEc: number;
  readonly uBonferroni: number;
  readonly floored: boolean;
  readonly rule: 'no history' | 'history';
}

/**
 * The band as it was made before rule P, kept to compare with: rule O (the session's own variance, the
 * larger of the pointwise and the smoothed one) or rule B (the dyno's history joined in, discounted
 * when the session is noisier).
 * @param rows smoothed curves in lp, one per counted pull, on the common grid
 * @param rpm the common grid
 */
export function oldBand(rows: Rows, rpm: readonly number[], layout: Layout, terms: OldTerms): OldBand {
  const weights = contrastWeights(layout);
  const d = contrastCurve(weights, rows);
  const residuals = runResiduals(rows, layout);
  const nu = residuals.nu;
  const s2 = sumOfSquares(residuals.rows).map((ss) => ss / nu);
  const s2Smooth = smoothedVariance(s2, rpm);
  const m2 = s2.map((own, j) => Math.max(own, s2Smooth[j]));
  const sbar = s2.reduce((a, b) => a + b, 0) / s2.length;
  const moderated = terms.history ? moderatedVariance(m2, nu, sbar, terms.history) : undefined;
  const form: EcForm = moderated ? 't' : 'nu2';
  const raw = moderated?.v ?? m2;
  const v = raw.map((value) => Math.max(value, VARIANCE_FLOOR));
  const dfV = moderated?.df ?? nu;
  const kappa2 = kappaSquared(residuals.rows, layout);
  const load = mountLoad(weights, layout.mount);
  const squares = weights.reduce((sum, c) => sum + c * c, 0);
  const pm = (terms.mount?.variance ?? 0) * load;
  const dm = terms.mount?.df ?? Infinity;
  const pd = terms.driftVariance ?? 0;
  const pw = v.map((value) => value * kappa2 * squares);
  const u2 = pw.map((value) => value + pm + pd);
  let df = Infinity;
  for (let j = 0; j < u2.length; j++) {
    const denominator = pw[j] ** 2 / dfV + (pm > 0 && Number.isFinite(dm) ? pm ** 2 / dm : 0);
    df = Math.min(df, u2[j] ** 2 / denominator);
  }
  const tau = roughness(
    residuals.rows,
    pw.map((value, j) => value / u2[j]),
  );
  const critical = criticalValue(terms.alpha, df, tau, form, rpm.length);
  const uc = u2.map(Math.sqrt);
  return {
    rpm,
    weights,
    d,
    lower: d.map((value, j) => value - critical.u * uc[j]),
    upper: d.map((value, j) => value + critical.u * uc[j]),
    nu,
    s2,
    s2Smooth,
    sbar,
    f: moderated?.f ?? null,
    v,
    dfV,
    kappa2,
    mountLoad: load,
    uc,
    df,
    tau,
    u: critical.u,
    uEc: critical.ec,
    uBonferroni: critical.bonferroni,
    floored: raw.some((value) => value < VARIANCE_FLOOR),
    rule: moderated ? 'history' : 'no history',
  };
}
