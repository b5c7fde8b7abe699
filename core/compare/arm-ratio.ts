import { brent } from '../base/roots.ts';
import type { ArmSplit } from './arm-split.ts';
import type { Rows } from './common-grid.ts';
import { ARM_RATIO } from '../base/interval-rules.ts';

/** How many times the variance of the baseline (A) the other arm (B) has, told from the whole curves. */
export interface ArmRatio {
  readonly q: number;
  /** Independent components that the ratio rests on. */
  readonly components: number;
  /** Sums of squares per cosine component, baseline and other arm; weight of each. */
  readonly a: readonly number[];
  readonly b: readonly number[];
  readonly weights: readonly number[];
  /** Mean over rpm of the pooled variance, lp². */
  readonly pooled: number;
}

/**
 * Ratio q = variance of arm B over that of arm A. The residual curves are split into cosine components; q is where
 * each arm's share of the scatter, weighted by how much scatter a component carries, is the share its degrees of
 * freedom give it.
 * @param residuals pulls × rpm, lp
 */
export function armRatio(residuals: Rows, split: ArmSplit): ArmRatio {
  const { inB, nu, dfB, known } = split;
  const G = residuals[0].length;
  const K = Math.min(ARM_RATIO.components, G);
  const a = new Array<number>(K).fill(0);
  const b = new Array<number>(K).fill(0);
  let total = 0;
  const cosines = cosinesOf(K, G);
  residuals.forEach((row, i) => {
    for (const value of row) total += value * value;
    cosines.forEach((phi, k) => {
      let c = 0;
      for (let j = 0; j < G; j++) c += row[j] * phi[j];
      (inB[i] ? b : a)[k] += c * c;
    });
  });
  const pooled = total / G / nu;
  if (pooled === 0) return { q: 1, components: 1, a, b, weights: new Array<number>(K).fill(0), pooled };
  const weights = a.map((value, k) => {
    const share = (value + b[k]) / (nu * pooled);
    return share / (share + ARM_RATIO.halfWeightShare);
  });
  const sum = weights.reduce((x, y) => x + y, 0);
  const components = sum ** 2 / weights.reduce((x, w) => x + w * w, 0);
  if (!known) return { q: 1, components, a, b, weights, pooled };
  const target = (dfB / nu) * sum;
  const excess = (lnQ: number): number => {
    const scale = Math.exp(-lnQ);
    let share = 0;
    for (let k = 0; k < K; k++) {
      if (a[k] + b[k] === 0) continue;
      share += (weights[k] * b[k] * scale) / (a[k] + b[k] * scale);
    }
    return share - target;
  };
  const end = Math.log(ARM_RATIO.limit);
  const q =
    excess(-end) <= 0
      ? 1 / ARM_RATIO.limit
      : excess(end) >= 0
        ? ARM_RATIO.limit
        : Math.exp(brent(excess, -end, end));
  return { q, components, a, b, weights, pooled };
}

const kept = new Map<string, Float64Array[]>();
/** φ_k(j)/G, φ_0 = 1, φ_k = √2·cos(πk(j + ½)/G); kept per grid, as every contrast of a test has the same. */
function cosinesOf(K: number, G: number): Float64Array[] {
  const key = `${K} ${G}`;
  let cosines = kept.get(key);
  if (!cosines) {
    cosines = Array.from({ length: K }, (_, k) =>
      Float64Array.from({ length: G }, (__, j) =>
        k === 0 ? 1 / G : (Math.SQRT2 / G) * Math.cos((Math.PI * k * (j + 0.5)) / G),
      ),
    );
    if (kept.size > 16) kept.clear();
    kept.set(key, cosines);
  }
  return cosines;
}
