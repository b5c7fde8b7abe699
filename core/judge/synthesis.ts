/** Gains of several vehicles put together: their mean, how far they differ, and what another vehicle may show. */
import { chisqUpper, normalQuantile, normalUpper, tUpper, tUpperQuantile } from '../base/distributions.ts';
import { brent } from '../base/roots.ts';

/** Gain of one vehicle and the variance of it; lp, lp². */
export interface VehicleGain {
  readonly gain: number;
  readonly variance: number;
}
/** How the variance between vehicles is estimated; the first is used, the others are for comparison. */
export type BetweenMethod = 'PM' | 'REML' | 'DL';

const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

interface Weighted {
  readonly w: readonly number[];
  readonly mu: number;
  /** Σ w (y − μ)². */ readonly q: number;
}
function weighted(gains: readonly VehicleGain[], tau2: number): Weighted {
  const w = gains.map((g) => 1 / (g.variance + tau2));
  const mu = sum(gains.map((g, i) => w[i] * g.gain)) / sum(w);
  return { w, mu, q: sum(gains.map((g, i) => w[i] * (g.gain - mu) ** 2)) };
}

/** First upper end at which a falling function is below zero. */
function upperEnd(f: (x: number) => number): number {
  let end = 1;
  while (f(end) > 0 && end < 1e12) end *= 2;
  return end;
}
const rootFrom0 = (f: (x: number) => number): number => (f(0) <= 0 ? 0 : brent(f, 0, upperEnd(f)));

/**
 * Variance between vehicles, lp². `PM`: the value at which the weighted squares are what chance gives (Paule and
 * Mandel 1982); `REML`: where the restricted likelihood is largest; `DL`: by moments (DerSimonian and Laird 1986).
 * Checked against R metafor 3.8-1.
 */
export function betweenVariance(gains: readonly VehicleGain[], method: BetweenMethod = 'PM'): number {
  const free = gains.length - 1;
  if (method === 'PM') return rootFrom0((tau2) => weighted(gains, tau2).q - free);
  const shareOf = (w: readonly number[]): number => sum(w) - sum(w.map((x) => x * x)) / sum(w);
  if (method === 'DL') {
    const { w, q } = weighted(gains, 0);
    return Math.max(0, (q - free) / shareOf(w));
  }
  return rootFrom0((tau2) => {
    const { w, mu } = weighted(gains, tau2);
    return sum(gains.map((g, i) => (w[i] * (g.gain - mu)) ** 2)) - shareOf(w);
  });
}

/** Heterogeneity: chance of so much difference if all vehicles gained alike, and the share of it that is not chance. */
export interface Heterogeneity {
  readonly Q: number;
  readonly p: number;
  /** %, and total over sampling variance. */ readonly I2: number;
  readonly H2: number;
}
export function heterogeneity(gains: readonly VehicleGain[], tau2: number): Heterogeneity {
  const { w, q } = weighted(gains, 0);
  const typical = (gains.length - 1) / (sum(w) - sum(w.map((x) => x * x)) / sum(w));
  return {
    Q: q,
    p: chisqUpper(q, gains.length - 1),
    I2: (100 * tau2) / (tau2 + typical),
    H2: tau2 / typical + 1,
  };
}

/** How the mean's standard error is taken: as the weights give it, by the spread, or the larger of both. */
export type MeanTest = 'z' | 'knha' | 'adhoc';
export interface PooledMean {
  readonly tau2: number;
  readonly mu: number;
  readonly se: number;
  readonly lower: number;
  readonly upper: number;
  readonly z: number;
  readonly p: number;
  /** Where the true gain of another vehicle is expected, by the model. */
  readonly anotherLower: number;
  readonly anotherUpper: number;
}
/** Mean over vehicles by a random-effects model; two-sided 95 %. */
export function pooledMean(
  gains: readonly VehicleGain[],
  method: BetweenMethod = 'PM',
  test: MeanTest = 'adhoc',
): PooledMean {
  const tau2 = betweenVariance(gains, method);
  const { w, mu, q } = weighted(gains, tau2);
  const df = gains.length - 1;
  const spread = q / df;
  const factor = test === 'z' ? 1 : test === 'knha' ? spread : Math.max(1, spread);
  const se = Math.sqrt(factor / sum(w));
  const critical = test === 'z' ? normalQuantile(0.975) : tUpperQuantile(0.025, df);
  const z = mu / se;
  const another = critical * Math.sqrt(se ** 2 + tau2);
  return {
    tau2,
    mu,
    se,
    lower: mu - critical * se,
    upper: mu + critical * se,
    z,
    p: 2 * (test === 'z' ? normalUpper(Math.abs(z)) : tUpper(Math.abs(z), df)),
    anotherLower: mu - another,
    anotherUpper: mu + another,
  };
}

/** What several vehicles say together. */
export interface Synthesis {
  readonly k: number;
  readonly tau2: number;
  readonly mu: number;
  /** Spread of the gains about the mean, in what their weights give. */ readonly q: number;
  readonly seWald: number;
  readonly se: number;
  readonly t: number;
  readonly lower: number;
  readonly upper: number;
  readonly heterogeneity: Heterogeneity;
  /** Plain mean and standard deviation, and the range in which another vehicle’s measured gain is expected. */
  readonly mean: number;
  readonly sd: number;
  readonly anotherLower: number;
  readonly anotherUpper: number;
}

/**
 * The rule of the method: Paule-Mandel, standard error no smaller than the spread, t with k − 1; the range for
 * another vehicle from the observed spread, which holds where the model’s is too narrow with few vehicles.
 *
 * @returns undefined with fewer than two vehicles: one says nothing of others
 */
export function synthesise(gains: readonly VehicleGain[], alpha = 0.025): Synthesis | undefined {
  const k = gains.length;
  if (k < 2) return undefined;
  const tau2 = betweenVariance(gains);
  const { w, mu, q } = weighted(gains, tau2);
  const seWald = 1 / Math.sqrt(sum(w));
  const spread = q / (k - 1);
  const se = seWald * Math.sqrt(Math.max(1, spread));
  const t = tUpperQuantile(alpha, k - 1);
  const mean = sum(gains.map((g) => g.gain)) / k;
  const sd = Math.sqrt(sum(gains.map((g) => (g.gain - mean) ** 2)) / (k - 1));
  const another = t * sd * Math.sqrt(1 + 1 / k);
  return {
    k,
    tau2,
    mu,
    q: spread,
    seWald,
    se,
    t,
    lower: mu - t * se,
    upper: mu + t * se,
    heterogeneity: heterogeneity(gains, tau2),
    mean,
    sd,
    anotherLower: mean - another,
    anotherUpper: mean + another,
  };
}
