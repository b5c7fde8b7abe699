/**
 * What a design can see before it is run: power and the smallest gain it would show, per metric, by
 * the plug-in noncentral t with the interval rules of the analysis itself. Checked against R's
 * power.t.test and noncentral-t values (`evidentia reference`, group "sample size"; docs/method.md).
 */
import { criticalValue } from '../base/critical-value.ts';
import { nctUpper, tUpperQuantile } from '../base/distributions.ts';
import { brent } from '../base/roots.ts';
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import type { Guard } from '../base/guard.ts';
import { RULE_P } from '../base/interval-rules.ts';
import type { KnownVariance, Repeatability } from '../register/repeatability.ts';
import { contrastWeights, mountLoad } from './contrast-weights.ts';
import type { Metric } from './metrics.ts';
import { DAY_RULE } from '../register/day-variance.ts';
import { CONTROL_PULLS } from './one-way.ts';
import { guardCost } from './planning-factors.ts';
import { driftModel } from './protocols.ts';

/** One contrast as it is planned: which runs belong to the baseline (A) and to the part (B). */
export interface PlannedContrast {
  readonly order: readonly ('A' | 'B' | 'other')[];
  readonly pullsPerRun: number;
  readonly warmUps: number;
  readonly remount: boolean;
  /** Nothing returns: the days of the arms enter in the place of a drift within the session. */
  readonly oneWay?: boolean | undefined;
  /** Days on which the same session is run, put together afterwards; left out: one. */
  readonly days?: number | undefined;
}

export interface Scatter {
  /** Variance of one pull in this metric, lp². */
  readonly variance: number;
  readonly mount: KnownVariance | null;
  /** Variance of a day, for what cannot be undone. */
  readonly day?: KnownVariance | undefined;
  /** Drift bound, lp a pull, used where the design has no return. */
  readonly driftBound: number;
  /** Guard of the intervals of single numbers; `none` plans with the plain formula, as the handbooks have it. */
  readonly guard: Guard | 'none';
}

/** Starting values where a dyno has nothing registered: SD of a pull and of one mounting, lp² (docs/method.md, noise assumed). */
export const ASSUMED = {
  curve: 0.68,
  bandAverage: 0.5,
  peak: 0.67,
  mount: { variance: 0.405, df: 9.3 },
} as const;
/**
 * Taken for planning an “up to”: roughness of pulls smoothed over 200 rpm, by how much pooling over rpm multiplies
 * the degrees of freedom at that roughness, and points of a usual grid.
 */
export const PLANNING = { roughness: 6.6, pooling: 1 + 6.6 / RULE_P.roughnessScale, points: 81 } as const;

/** Days whose level enters a gain where each arm has one of its own. */
const DAYS_APART = 2;

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
  guard: Guard,
): Scatter & { assumed: { scatter: boolean; mount: boolean } } {
  const known = repeatability[SOURCE[metric]];
  return {
    variance: known?.variance ?? ASSUMED[SOURCE[metric]],
    mount: repeatability.mount ?? ASSUMED.mount,
    day: repeatability.day ?? DAY_RULE.policy,
    driftBound,
    guard,
    assumed: { scatter: known === undefined, mount: repeatability.mount === undefined },
  };
}

/**
 * What a plan without return carries beside pulls and mountings: each arm on a day of its own, or what the control
 * vehicle leaves open in its own movement (four checks, each on a mounting of its own, weighing a half); the larger.
 */
const withoutReturn = ({ variance, mount }: Scatter, day: number): number =>
  Math.max(DAYS_APART * day, (mount?.variance ?? 0) + variance / CONTROL_PULLS);

export interface DesignPrecision {
  readonly uc: number;
  readonly df: number;
  /** Degrees of freedom where the scatter is pooled over a whole curve. */
  readonly pooledDf: number;
  readonly repeatabilityVariance: number;
  readonly mountVariance: number;
  readonly driftVariance: number;
  /** Of days, or of the control vehicle that stands in for a return. */ readonly dayVariance: number;
}

/**
 * Standard uncertainty of the contrast (lp) and its effective degrees of freedom. Undefined for a contrast
 * without both arms or with fewer than 2 df.
 */
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
  if (within < 2) return undefined;
  const load = mountLoad(
    weights,
    pulls.map((p) => (contrast.remount ? p.run : 0)),
  );
  const mean = (which: 0 | 1): number => {
    const of = pulls.filter((p) => p.arm === which);
    return of.reduce((sum, p) => sum + p.order, 0) / of.length;
  };
  // What a steady drift leaves in the contrast: nothing for a centred design, all of it for A-B.
  const apart = alternating || contrast.oneWay ? 0 : Math.abs(mean(1) - mean(0));
  const K = contrast.days ?? 1;
  const day = scatter.day?.variance ?? 0;
  const parts = [
    (scatter.variance * weights.reduce((sum, c) => sum + c * c, 0)) / K,
    ((scatter.mount?.variance ?? 0) * load) / K,
    (scatter.driftBound * apart) ** 2 / 3 / K,
    contrast.oneWay ? withoutReturn(scatter, day) : K > 1 ? day / K : 0,
  ];
  const effective = (own: number) =>
    welchSatterthwaite(parts, [own, scatter.mount?.df ?? Infinity, Infinity, scatter.day?.df ?? Infinity]);
  const { u2, nu } = effective(K * within);
  return {
    uc: Math.sqrt(u2),
    df: nu,
    pooledDf: effective(PLANNING.pooling * K * within).nu,
    repeatabilityVariance: parts[0],
    mountVariance: parts[1],
    driftVariance: parts[2],
    dayVariance: parts[3],
  };
}

/** Multiple of the uncertainty that the lower limit lies below the estimate, and the degrees of freedom it is used with. */
function multiplier(
  metric: Metric,
  contrast: PlannedContrast,
  { guard }: Scatter,
  precision: DesignPrecision,
  alpha: number,
): { u: number; df: number } {
  const { df, pooledDf, uc, repeatabilityVariance: own } = precision;
  const cost = guard === 'none' ? 1 : guardCost(metric, runsOfArms(contrast), contrast.pullsPerRun, guard);
  // The guards widen what the pulls' scatter gives; mountings and drift stay as they are.
  const widened = Math.sqrt(1 + ((cost ** 2 - 1) * own) / uc ** 2);
  if (metric !== 'upTo') return { u: widened * tUpperQuantile(alpha, df), df };
  const tau = PLANNING.roughness * Math.sqrt(own / uc ** 2);
  const band = criticalValue(alpha, pooledDf, tau, 'nu2', PLANNING.points).u;
  return { u: widened * Math.max(band, tUpperQuantile(alpha, df)), df: pooledDf };
}

const runsOfArms = ({ order }: PlannedContrast): [number, number] => [
  order.filter((letter) => letter === 'A').length,
  order.filter((letter) => letter === 'B').length,
];

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
  const { u, df } = multiplier(metric, contrast, scatter, precision, alpha);
  return nctUpper(u, df, delta / precision.uc);
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
  const { u, df } = multiplier(metric, contrast, scatter, precision, alpha);
  const at = (ncp: number): number => nctUpper(u, df, ncp) - power;
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
