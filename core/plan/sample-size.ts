/**
 * What a design can see before it is run: power and the smallest gain it would show, per metric, by
 * the plug-in noncentral t with the interval rules of the analysis itself. Checked against R's
 * power.t.test and noncentral-t values (`evidentia reference`, group "sample size"; docs/method.md).
 */
import { criticalValue } from '../base/critical-value.ts';
import { nctUpper, tUpperQuantile } from '../base/distributions.ts';
import { brent } from '../base/roots.ts';
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import type { KnownVariance, Repeatability } from '../register/repeatability.ts';
import { contrastWeights, mountLoad } from './contrast-weights.ts';
import type { Metric } from './metrics.ts';
import { driftModel } from './protocols.ts';

/** One contrast as it is planned: which runs belong to the baseline (A) and to the part (B). */
export interface PlannedContrast {
  readonly order: readonly ('A' | 'B' | 'other')[];
  readonly pullsPerRun: number;
  readonly warmUps: number;
  readonly remount: boolean;
}

export interface Scatter {
  /** Variance of one pull in this metric, lp². */
  readonly variance: number;
  /** Degrees of freedom of the dyno's history behind it; null plans without one. */
  readonly historyDf: number | null;
  readonly mount: KnownVariance | null;
  /** Drift bound, lp a pull, used where the design has no return. */
  readonly driftBound: number;
}

/** Starting values where a dyno has nothing registered: SD of a pull and of one mounting, lp² (docs/method.md, noise assumed). */
export const ASSUMED = {
  curve: 0.48,
  bandAverage: 0.36,
  peak: 0.4,
  mount: { variance: 0.405, df: 9.3 },
} as const;
/** Roughness of pulls smoothed over 200 rpm, and points of a usual grid, taken for planning an “up to”. */
export const PLANNING = { roughness: 6.6, points: 81 } as const;

const SOURCE: Record<Metric, 'curve' | 'bandAverage' | 'peak'> = {
  upTo: 'curve',
  bandAverage: 'bandAverage',
  peakToPeak: 'peak',
};

/** Scatter of a metric on a dyno: registered where it is, assumed where it is not; `assumed` says which. */
export function scatterFor(
  metric: Metric,
  repeatability: Repeatability,
  driftBound: number,
): Scatter & { assumed: { scatter: boolean; mount: boolean } } {
  const known = repeatability[SOURCE[metric]];
  return {
    variance: known?.variance ?? ASSUMED[SOURCE[metric]],
    historyDf: known?.df ?? null,
    mount: repeatability.mount ?? ASSUMED.mount,
    driftBound,
    assumed: { scatter: known === undefined, mount: repeatability.mount === undefined },
  };
}

export interface DesignPrecision {
  readonly uc: number;
  readonly df: number;
  readonly repeatabilityVariance: number;
  readonly mountVariance: number;
  readonly driftVariance: number;
}

/** Standard uncertainty of the contrast (lp) and its effective degrees of freedom. Undefined for a contrast without both arms or with fewer than 2 df. */
export function designPrecision(contrast: PlannedContrast, scatter: Scatter): DesignPrecision | undefined {
  const n = contrast.pullsPerRun;
  const pulls = contrast.order.flatMap((letter, run) =>
    letter === 'other'
      ? []
      : Array.from({ length: n }, (_, k) => ({
          arm: letter === 'B' ? (1 as const) : (0 as const),
          run,
          order: run * (n + contrast.warmUps) + contrast.warmUps + k + 1,
        })),
  );
  const arm = pulls.map((p) => p.arm);
  if (!arm.includes(0) || !arm.includes(1)) return undefined;
  const letters = contrast.order.filter((letter) => letter !== 'other');
  const alternating = driftModel(contrast.order) === 'linear';
  const order = pulls.map((p) => p.order);
  const weights = contrastWeights({ arm, order, covariate: alternating });
  const within = pulls.length - letters.length - (alternating ? 1 : 0);
  if (within < (scatter.historyDf === null ? 2 : 1)) return undefined;
  const load = mountLoad(
    weights,
    pulls.map((p) => (contrast.remount ? p.run : 0)),
  );
  const mean = (which: 0 | 1): number => {
    const of = pulls.filter((p) => p.arm === which);
    return of.reduce((sum, p) => sum + p.order, 0) / of.length;
  };
  // What a steady drift leaves in the contrast: nothing for a centred design, all of it for A-B.
  const apart = alternating ? 0 : Math.abs(mean(1) - mean(0));
  const parts = [
    scatter.variance * weights.reduce((sum, c) => sum + c * c, 0),
    (scatter.mount?.variance ?? 0) * load,
    (scatter.driftBound * apart) ** 2 / 3,
  ];
  const { u2, nu } = welchSatterthwaite(parts, [
    within + (scatter.historyDf ?? 0),
    scatter.mount?.df ?? Infinity,
    Infinity,
  ]);
  return {
    uc: Math.sqrt(u2),
    df: nu,
    repeatabilityVariance: parts[0],
    mountVariance: parts[1],
    driftVariance: parts[2],
  };
}

/** Multiple of the uncertainty that the lower limit lies below the estimate. */
function multiplier(
  metric: Metric,
  { df }: DesignPrecision,
  alpha: number,
  historyDf: number | null,
): number {
  return metric === 'upTo'
    ? criticalValue(alpha, df, PLANNING.roughness, historyDf === null ? 'nu2' : 't', PLANNING.points).u
    : tUpperQuantile(alpha, df);
}

/**
 * Chance that the lower limit of the metric lies above zero when the true gain is `delta` lp.
 * For “up to” the gain is taken at one rpm alone, so the chance told is the least there is: a broad
 * gain has more places where its limit may rise above zero.
 */
export function designPower(
  metric: Metric,
  contrast: PlannedContrast,
  scatter: Scatter,
  delta: number,
  alpha = 0.025,
): number {
  const precision = designPrecision(contrast, scatter);
  if (!precision) return 0;
  return nctUpper(
    multiplier(metric, precision, alpha, scatter.historyDf),
    precision.df,
    delta / precision.uc,
  );
}

/** Smallest gain (lp) that the design shows with the power asked for; undefined where it cannot be analysed. */
export function smallestGain(
  metric: Metric,
  contrast: PlannedContrast,
  scatter: Scatter,
  power: number,
  alpha = 0.025,
): number | undefined {
  const precision = designPrecision(contrast, scatter);
  if (!precision) return undefined;
  const u = multiplier(metric, precision, alpha, scatter.historyDf);
  const at = (ncp: number): number => nctUpper(u, precision.df, ncp) - power;
  // Above ncp 36 the tail counts as one; a design that wild sees nothing worth planning for.
  return at(36) < 0 ? undefined : brent(at, 0, 36, 1e-9) * precision.uc;
}

/** Fewest counted pulls a run (2 to `most`) that show `delta` with the power asked for; undefined where no number does. */
export function pullsNeeded(
  metric: Metric,
  contrast: Omit<PlannedContrast, 'pullsPerRun'>,
  scatter: Scatter,
  delta: number,
  power: number,
  alpha = 0.025,
  most = 40,
): number | undefined {
  for (let n = 2; n <= most; n++)
    if (designPower(metric, { ...contrast, pullsPerRun: n }, scatter, delta, alpha) >= power) return n;
  return undefined;
}
