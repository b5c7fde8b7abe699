import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import type { Rng } from '../../base/rng.ts';

/** Scatter of a dyno as assumed in docs/method.md; standard deviations in lp (per cent). */
export interface NoiseLevels {
  /** Level of a whole pull. */
  readonly level: number;
  /** Smooth wander along rpm with a correlation length of 1 500 rpm. */
  readonly slow: number;
  /** The same with 400 rpm. */
  readonly quick: number;
  /** Independent scatter of each grid point. */
  readonly white: number;
  /** Difference between two mountings of the same car (one mounting has this over √2). */
  readonly remountStep: number;
}
export const TYPICAL_NOISE: NoiseLevels = { level: 0.6, slow: 0.4, quick: 0.4, white: 0.1, remountStep: 0.9 };

export const SLOW_RPM = 1500;
export const QUICK_RPM = 400;

/** Draws smooth Gaussian curves on a grid: squared-exponential correlation, unit variance. */
export function smoothProcess(rpm: readonly number[], lengthRpm: number): (rng: Rng) => Float64Array {
  const covariance = new Matrix(
    rpm.map((a, i) => rpm.map((b, j) => Math.exp(-0.5 * ((a - b) / lengthRpm) ** 2) + (i === j ? 1e-8 : 0))),
  );
  const lower = new CholeskyDecomposition(covariance).lowerTriangularMatrix.to2DArray();
  return (rng) => {
    const z = rpm.map(() => rng.normal());
    return Float64Array.from(lower, (row, i) => {
      let sum = 0;
      for (let j = 0; j <= i; j++) sum += row[j] * z[j];
      return sum;
    });
  };
}

/** Draws the noise curve (lp) of one pull on a grid; processes are prepared once per grid. */
export function pullNoise(rpm: readonly number[], noise: NoiseLevels): (rng: Rng) => Float64Array {
  const slow = smoothProcess(rpm, SLOW_RPM);
  const quick = smoothProcess(rpm, QUICK_RPM);
  return (rng) => {
    const level = noise.level * rng.normal();
    const [a, b] = [slow(rng), quick(rng)];
    return a.map((v, j) => level + noise.slow * v + noise.quick * b[j] + noise.white * rng.normal());
  };
}

/** Level shift of one mounting, lp. */
export const mountShift = (noise: NoiseLevels, rng: Rng): number =>
  (noise.remountStep / Math.SQRT2) * rng.normal();
