/** Torque dips: a local minimum of an arm's mean curve between two maxima, deeper than the noise of its pulls. */
import { tUpperQuantile } from '../base/distributions.ts';
import type { Rows } from './common-grid.ts';
import { columnMeans, meanOf } from './means.ts';
import type { Dip } from './result.ts';

/** Shallower than this is no dip that a driver or a reader would look for, lp. */
export const LEAST_DIP_LP = 0.5;

/**
 * @param rows smoothed torque of one arm's pulls, lp
 * @param alpha one-sided error at which a depth is above the noise; with one pull none can be told
 */
export function torqueDips(rows: Rows, rpm: readonly number[], alpha: number): Dip[] {
  if (rows.length < 2) return [];
  const mean = columnMeans(rows);
  return minima(mean).flatMap(({ at, left, right }): Dip[] => {
    const depths = rows.map((row) => Math.min(row[left], row[right]) - row[at]);
    const depth = Math.min(mean[left], mean[right]) - mean[at];
    return depth >= LEAST_DIP_LP && lowerLimit(depths, alpha) > 0
      ? [
          {
            rpm: rpm[at],
            depth: 100 * (1 - Math.exp(-depth / 100)),
            fromRpm: rpm[left],
            toRpm: rpm[right],
          },
        ]
      : [];
  });
}

function lowerLimit(values: readonly number[], alpha: number): number {
  const n = values.length;
  const mean = meanOf(values);
  const variance = values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (n - 1);
  return mean - tUpperQuantile(alpha, n - 1) * Math.sqrt(variance / n);
}

/** Lowest points between two higher ones, each with the highest points to its sides before the curve falls lower again. */
function minima(curve: readonly number[]): { at: number; left: number; right: number }[] {
  const inner = curve.map((_, j) => j).slice(1, -1);
  return inner
    .filter((j) => curve[j] < curve[j - 1] && curve[j] <= curve[j + 1])
    .map((at) => ({ at, left: shoulder(curve, at, -1), right: shoulder(curve, at, 1) }));
}
function shoulder(curve: readonly number[], at: number, step: 1 | -1): number {
  let highest = at;
  for (let j = at + step; j >= 0 && j < curve.length && curve[j] >= curve[at]; j += step)
    if (curve[j] > curve[highest]) highest = j;
  return highest;
}
