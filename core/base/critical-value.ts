import { tUpper, tUpperQuantile } from './distributions.ts';
import { brent } from './roots.ts';

/**
 * Which exponent the expected Euler characteristic uses: `nu2` (ν/2) when the session's own smoothed
 * variance is used alone, `t` ((ν−1)/2) when the dyno's history is joined in.
 */
export type EcForm = 'nu2' | 't';

export interface CriticalValue {
  readonly u: number;
  readonly ec: number;
  readonly bonferroni: number;
}

/** EC(u) = P(T_ν > u) + τ/(2π)·(1 + u²/ν)^(−m): the Kac-Rice bound on one-sided excursions of a t field. */
export function expectedEuler(u: number, nu: number, tau: number, form: EcForm): number {
  const m = form === 'nu2' ? nu / 2 : (nu - 1) / 2;
  const excursions = nu === Infinity ? Math.exp((-u * u) / 2) : (1 + (u * u) / nu) ** -m;
  return tUpper(u, nu) + (tau / (2 * Math.PI)) * excursions;
}

/**
 * Simultaneous critical value u = min(EC, Bonferroni) for a one-sided error alpha.
 * @param nu effective degrees of freedom; @param tau roughness of the residual curves; @param points grid points
 */
export function criticalValue(
  alpha: number,
  nu: number,
  tau: number,
  form: EcForm,
  points: number,
): CriticalValue {
  const excess = (lnU: number): number => expectedEuler(Math.exp(lnU), nu, tau, form) - alpha;
  const [low, high] = [Math.log(1e-6), Math.log(1e4)];
  const ec = excess(high) > 0 ? Infinity : Math.exp(brent(excess, low, high));
  const bonferroni = tUpperQuantile(alpha / points, nu);
  return { u: Math.min(ec, bonferroni), ec, bonferroni };
}
