import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import { contrastWeights, type Layout } from '../plan/contrast-weights.ts';
import type { KnownVariance } from '../register/repeatability.ts';
import { armRatio, type ArmRatio } from './arm-ratio.ts';
import { armSplit, type ArmSplit } from './arm-split.ts';
import type { Rows } from './common-grid.ts';
import { runResiduals } from './contrast.ts';
import { loadOf } from './gain-band.ts';
import { RULE_S, VARIANCE_FLOOR } from '../base/interval-rules.ts';
import type { Guard } from '../base/guard.ts';
import { limitAt, wholeTerms, type ScatterFlag, type Terms } from './terms.ts';

/** One part of the uncertainty: its variance in lp² and its degrees of freedom. */
export interface VariancePart {
  readonly source: 'repeatability' | 'mount' | 'drift' | 'start temperature' | 'day';
  readonly variance: number;
  readonly df: number;
}

/** One of the three intervals of rule S; the widest is used. */
export interface Candidate {
  /** `pooled` over the arms, by their `ratio`, each arm `apart`. */
  readonly name: 'pooled' | 'ratio' | 'apart';
  /** Variance of the contrast from the pulls, lp², and its degrees of freedom. */
  readonly variance: number;
  readonly df: number;
  /** Standard uncertainty with mountings and drift, its effective degrees of freedom, t and half-width in lp. */
  readonly uc: number;
  readonly dfEffective: number;
  readonly t: number;
  readonly half: number;
}

export interface ScalarGain {
  /** Contrast in lp. */
  readonly d: number;
  readonly lower: number;
  readonly upper: number;
  readonly split: ArmSplit;
  /** None where there are no curves to tell it from, or an arm says nothing of its own scatter. */
  readonly ratio: ArmRatio | null;
  readonly ssA: number;
  readonly ssB: number;
  /** Pooled variance of one pull, lp², with `split.nu` degrees of freedom. */
  readonly s2: number;
  readonly candidates: readonly Candidate[];
  /** The widest of them. */
  readonly used: Candidate;
  readonly pm: number;
  readonly flags: readonly ScatterFlag[];
  readonly parts: readonly VariancePart[];
}

/**
 * Gain in one number per pull (band average or peak) by rule S: the widest of three t intervals. No history enters.
 * @param values one value per pull in lp; see `noInterval` for what is refused
 * @param curves the smoothed curves of the same pulls, from which the ratio of the arms' scatter is told; null without
 */
export function scalarGain(
  values: readonly number[],
  curves: Rows | null,
  layout: Layout,
  terms: Terms,
  guard: Guard,
): ScalarGain {
  const weights = contrastWeights(layout);
  const residuals = runResiduals(
    values.map((value) => Float64Array.of(value)),
    layout,
  );
  const split = armSplit(weights, layout, residuals);
  const sumOf = (b: boolean): number =>
    residuals.rows.reduce((sum, [e], i) => (split.inB[i] === b ? sum + e * e : sum), 0);
  const [ssA, ssB] = [sumOf(false), sumOf(true)];
  const ratio = curves && split.known ? armRatio(runResiduals(curves, layout).rows, split) : null;
  const raw = [
    pooled(split, ssA + ssB),
    ...(ratio ? [byRatio(split, ratio, ssA, ssB)] : []),
    ...(split.known ? [apart(split, ssA, ssB, guard)] : []),
  ];
  const floor = VARIANCE_FLOOR * split.c2;
  const pm = (terms.mount?.variance ?? 0) * loadOf(weights, layout);
  const pd = terms.driftVariance ?? 0;
  const dm = terms.mount?.df ?? Infinity;
  const whole = wholeTerms(terms);
  const beside = [{ variance: pm, df: dm }, { variance: pd, df: Infinity }, ...whole];
  const candidates = raw.map((one) => {
    const variance = Math.max(one.variance, floor) * split.guard ** 2;
    return candidate({ ...one, variance }, beside, terms);
  });
  const used = candidates.reduce((widest, c) => (c.half > widest.half ? c : widest));
  const d = weights.reduce((sum, c, i) => sum + c * values[i], 0);
  return {
    d,
    lower: d - used.half,
    upper: d + used.half,
    split,
    ratio,
    ssA,
    ssB,
    s2: (ssA + ssB) / split.nu,
    candidates,
    used,
    pm,
    flags: [
      ...(split.known ? [] : (['ARM_SCATTER_UNKNOWN'] as const)),
      ...(raw.every(({ variance }) => variance < floor) ? (['SCATTER_TOO_LOW'] as const) : []),
    ],
    parts: [
      { source: 'repeatability', variance: used.variance, df: used.df },
      { source: 'mount', variance: pm, df: dm },
      { source: 'drift', variance: pd, df: Infinity },
      ...named('start temperature', terms.temperature),
      ...named('day', terms.day),
    ],
  };
}

const named = (source: VariancePart['source'], term: KnownVariance | undefined): VariancePart[] =>
  term ? [{ source, variance: term.variance, df: term.df }] : [];

function candidate(own: Raw, beside: readonly KnownVariance[], terms: Terms): Candidate {
  const { u2, nu } = welchSatterthwaite(
    [own.variance, ...beside.map((term) => term.variance)],
    [own.df, ...beside.map((term) => term.df)],
  );
  const [uc, t] = [Math.sqrt(u2), limitAt(terms, nu)];
  return { ...own, uc, dfEffective: nu, t, half: t * uc };
}

type Raw = Pick<Candidate, 'name' | 'variance' | 'df'>;

const pooled = ({ c2, nu }: ArmSplit, ss: number): Raw => ({
  name: 'pooled',
  variance: (c2 * ss) / nu,
  df: nu,
});

function byRatio({ c2A, c2B, dfA, dfB, nu }: ArmSplit, ratio: ArmRatio, ssA: number, ssB: number): Raw {
  const { q, components } = ratio;
  const share = (q * c2B) / (c2A + q * c2B);
  return {
    name: 'ratio',
    variance: ((1 + RULE_S.ratioEstimated / components) * (c2A + q * c2B) * (ssA + ssB / q)) / nu,
    df: 1 / (1 / nu + ((share - dfB / nu) ** 2 * nu) / (dfA * dfB * components)),
  };
}

function apart({ c2A, c2B, dfA, dfB, nu }: ArmSplit, ssA: number, ssB: number, guard: Guard): Raw {
  const [a, b] = [(ssA * c2A) / dfA, (ssB * c2B) / dfB];
  const variance = a + b;
  return guard === 'strict'
    ? {
        name: 'apart',
        variance,
        // Pulls alike to the last digit say nothing of their arms.
        df: Math.max(nu / 2, variance > 0 ? variance ** 2 / (a ** 2 / dfA + b ** 2 / dfB) : 0),
      }
    : { name: 'apart', variance: RULE_S.usualApart * variance, df: nu };
}
