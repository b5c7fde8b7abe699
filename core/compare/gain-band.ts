import { criticalValue } from '../base/critical-value.ts';
import { tUpperQuantile } from '../base/distributions.ts';
import { contrastWeights, mountLoad, type Layout } from '../plan/contrast-weights.ts';
import { armRatio, type ArmRatio } from './arm-ratio.ts';
import { armSplit, type ArmSplit } from './arm-split.ts';
import type { Rows } from './common-grid.ts';
import { contrastCurve, runResiduals, sumOfSquares } from './contrast.ts';
import { roughness } from './roughness.ts';
import { RULE_P, VARIANCE_FLOOR } from '../base/interval-rules.ts';
import { smoothedVariance } from './smoothing.ts';
import { wholeTerms, type ScatterFlag, type Terms } from './terms.ts';

/** The four variances of the contrast, averaged over rpm, of which the largest is used; lp². */
export interface BandVariances {
  readonly byRatio: number;
  readonly pooled: number;
  readonly apart: number;
  readonly floor: number;
}

export interface GainBand {
  readonly rpm: readonly number[];
  readonly weights: readonly number[];
  /** Gain per rpm and its simultaneous limits, lp. */
  readonly d: Float64Array;
  readonly lower: Float64Array;
  readonly upper: Float64Array;
  readonly split: ArmSplit;
  readonly ratio: ArmRatio;
  /** Mean variance of a pull of each arm over rpm, lp²; none where the arm says nothing of its own scatter. */
  readonly armVariance: { readonly a: number; readonly b: number } | null;
  /** Scatter along rpm, arms on one scale; the same smoothed; its mean. lp². */
  readonly sq: Float64Array;
  readonly sm: Float64Array;
  readonly sbar: number;
  readonly variances: BandVariances;
  /** The largest of them. */
  readonly variance: number;
  /** Parts of the variance of the contrast: pulls per rpm, mountings, drift. lp². */
  readonly pw: Float64Array;
  readonly pm: number;
  readonly pd: number;
  readonly uc: Float64Array;
  /** Roughness of the residual curves, alone and weighted by the pulls' share of the variance. */
  readonly roughness: number;
  readonly tau: number;
  /** By how much pooling over rpm multiplies the degrees of freedom. */
  readonly pooling: number;
  /** Effective degrees of freedom, pooled over rpm and at one rpm. */
  readonly df: number;
  readonly dfOneRpm: number;
  readonly u: number;
  readonly uEuler: number;
  readonly uBonferroni: number;
  readonly uOneRpm: number;
  readonly flags: readonly ScatterFlag[];
  /** Whether the band is wider because the arms scatter differently. */
  readonly armsDiffer: boolean;
}

/**
 * Gain curve with the band that holds the whole true curve, by rule P: the variance is pooled over rpm and arms,
 * guarded by what each arm shows alone, and keeps part of its own shape along rpm. No history enters.
 * @param rows smoothed curves in lp, one per counted pull, on the common grid; see `noInterval` for what is refused
 * @param rpm the common grid
 */
// eslint-disable-next-line max-lines-per-function -- the rule in the order it is written down in the method
export function gainBand(rows: Rows, rpm: readonly number[], layout: Layout, terms: Terms): GainBand {
  const weights = contrastWeights(layout);
  const residuals = runResiduals(rows, layout);
  const split = armSplit(weights, layout, residuals);
  const { nu, c2A, c2B, c2, dfA, dfB, known, guard, inB } = split;
  const ratio = armRatio(residuals.rows, split);
  const ssA = sumOfSquares(residuals.rows, (i) => !inB[i]);
  const ssB = sumOfSquares(residuals.rows, (i) => inB[i]);
  const sq = ssA.map((a, j) => (a + ssB[j] / ratio.q) / nu);
  const sm = smoothedVariance(sq, rpm, RULE_P.kernelRpm);
  const sbar = mean(sq);
  const armVariance = known ? { a: mean(ssA) / dfA, b: mean(ssB) / dfB } : null;
  const variances: BandVariances = {
    byRatio: sbar * (c2A + ratio.q * c2B),
    pooled: ratio.pooled * c2,
    apart: armVariance ? RULE_P.apart * (armVariance.a * c2A + armVariance.b * c2B) : 0,
    floor: VARIANCE_FLOOR * c2,
  };
  const variance = Math.max(variances.byRatio, variances.pooled, variances.apart, variances.floor);
  const scale = (variance * guard * guard) / sbar;
  const pw = sq.map((own, j) => scale * Math.max(RULE_P.ownShape * own, (sm[j] + sbar) / 2));
  const pm = (terms.mount?.variance ?? 0) * loadOf(weights, layout);
  const pd = terms.driftVariance ?? 0;
  const whole = wholeTerms(terms);
  const beside = whole.reduce((sum, term) => sum + term.variance, pm + pd);
  const u2 = pw.map((value) => value + beside);
  const uc = u2.map(Math.sqrt);
  const rough = roughness(residuals.rows);
  const tau = roughness(
    residuals.rows,
    pw.map((value, j) => value / u2[j]),
  );
  const pooling = Math.min(RULE_P.mostPooling, 1 + rough / RULE_P.roughnessScale);
  const known2 = whole.reduce(
    (sum, { variance: v, df }) => sum + v ** 2 / df,
    pm > 0 ? pm ** 2 / (terms.mount?.df ?? Infinity) : 0,
  );
  const freedom = (own: number): number =>
    u2.reduce((least, value, j) => Math.min(least, value ** 2 / (pw[j] ** 2 / own + known2)), Infinity);
  const df = freedom(pooling * nu);
  const dfOneRpm = freedom(nu);
  const critical = criticalValue(terms.alpha, df, tau, 'nu2', rpm.length);
  const uOneRpm = tUpperQuantile(terms.alpha, dfOneRpm);
  const u = Math.max(critical.u, uOneRpm);
  const d = contrastCurve(weights, rows);
  return {
    rpm,
    weights,
    d,
    lower: d.map((value, j) => value - u * uc[j]),
    upper: d.map((value, j) => value + u * uc[j]),
    split,
    ratio,
    armVariance,
    sq,
    sm,
    sbar,
    variances,
    variance,
    pw,
    pm,
    pd,
    uc,
    roughness: rough,
    tau,
    pooling,
    df,
    dfOneRpm,
    u,
    uEuler: critical.ec,
    uBonferroni: critical.bonferroni,
    uOneRpm,
    flags: [
      ...(variance === variances.floor ? (['SCATTER_TOO_LOW'] as const) : []),
      ...(known ? [] : (['ARM_SCATTER_UNKNOWN'] as const)),
    ],
    armsDiffer: variance > RULE_P.armsDifferFrom * variances.pooled,
  };
}

/** How much one mounting's level enters the contrast; what is only rounding is nothing. */
export function loadOf(weights: readonly number[], { mount }: Pick<Layout, 'mount'>): number {
  const load = mountLoad(weights, mount);
  return load < 1e-20 ? 0 : load;
}

const mean = (values: Float64Array): number => values.reduce((a, b) => a + b, 0) / values.length;
