import { tUpper, tUpperQuantile } from '../../core/base/distributions.ts';
import type { KnownVariance } from '../../core/register/repeatability.ts';
import { runResiduals, sumOfSquares } from '../../core/compare/contrast.ts';
import { contrastWeights, mountLoad, type Layout } from '../../core/plan/contrast-weights.ts';
import { welchSatterthwaite } from '../../core/base/welch-satterthwaite.ts';
import { VARIANCE_FLOOR } from '../../core/base/interval-rules.ts';
import { kappaSquared } from './kappa.ts';
import { moderatedVariance } from './moderated-variance.ts';

/** What is known beside the pulls of the session. Variances in lp². */
export interface OldTerms {
  /** Repeatability of this quantity from the dyno's history; left out: rule O. */
  readonly history?: KnownVariance | undefined;
  /** Variance of one mounting's level; left out: zero, only right when both arms share every mounting. */
  readonly mount?: KnownVariance | undefined;
  /** Variance bound for drift between the arms (A-B only). */
  readonly driftVariance?: number;
  /** One-sided error. */
  readonly alpha: number;
}

/** One part of the uncertainty: its variance in lp² and its degrees of freedom. */
export interface VariancePart {
  readonly source: 'repeatability' | 'mount' | 'drift';
  readonly variance: number;
  readonly df: number;
}

export interface OldScalar {
  /** Contrast in lp. */
  readonly d: number;
  readonly lower: number;
  readonly upper: number;
  readonly nu: number;
  readonly s2: number;
  readonly f: number | null;
  readonly v: number;
  readonly dfV: number;
  readonly kappa2: number;
  readonly mountLoad: number;
  readonly uc: number;
  /** Effective degrees of freedom (Welch-Satterthwaite). */
  readonly df: number;
  readonly t: number;
  readonly pOneSided: number;
  readonly floored: boolean;
  readonly parts: readonly VariancePart[];
}

/**
 * The interval of one number per pull as it was made before rule S, kept to compare with.
 * @param values one value per pull in lp
 */
export function oldScalar(values: readonly number[], layout: Layout, terms: OldTerms): OldScalar {
  const rows = values.map((value) => Float64Array.of(value));
  const weights = contrastWeights(layout);
  const residuals = runResiduals(rows, layout);
  const s2 = sumOfSquares(residuals.rows)[0] / residuals.nu;
  const moderated = terms.history ? moderatedVariance([s2], residuals.nu, s2, terms.history) : undefined;
  const raw = moderated ? moderated.v[0] : s2;
  const v = Math.max(raw, VARIANCE_FLOOR);
  const dfV = moderated ? moderated.df : residuals.nu;
  const kappa2 = kappaSquared(residuals.rows, layout);
  const load = mountLoad(weights, layout.mount);
  const parts: VariancePart[] = [
    { source: 'repeatability', variance: v * kappa2 * weights.reduce((sum, c) => sum + c * c, 0), df: dfV },
    { source: 'mount', variance: (terms.mount?.variance ?? 0) * load, df: terms.mount?.df ?? Infinity },
    { source: 'drift', variance: terms.driftVariance ?? 0, df: Infinity },
  ];
  const { u2, nu: df } = welchSatterthwaite(
    parts.map((p) => p.variance),
    parts.map((p) => p.df),
  );
  const uc = Math.sqrt(u2);
  const d = weights.reduce((sum, c, i) => sum + c * values[i], 0);
  const t = tUpperQuantile(terms.alpha, df);
  return {
    d,
    lower: d - t * uc,
    upper: d + t * uc,
    nu: residuals.nu,
    s2,
    f: moderated?.f ?? null,
    v,
    dfV,
    kappa2,
    mountLoad: load,
    uc,
    df,
    t,
    pOneSided: tUpper(d / uc, df),
    floored: raw < VARIANCE_FLOOR,
    parts,
  };
}
