import type { Sweep } from '../capture/sweep.ts';

/** Fewest samples in the window of a grid point; fewer give no value. */
export const MIN_WINDOW_SAMPLES = 4;

/** Half-width of the local window in rpm: w = max(step, 2.5 × median rpm spacing of the samples). */
export const windowHalfWidth = (stepRpm: number, medianSpacingRpm: number): number =>
  Math.max(stepRpm, 2.5 * medianSpacingRpm);

/**
 * Torque at each grid rpm by local linear regression on the samples within ±w with tricube weights
 * (1 − |Δ/w|³)³. A grid point with fewer than four samples in the window, or samples on one side
 * only, has no value (NaN): nothing is extrapolated.
 * @param rpm, torqueNm all samples of the pull; @param sweep the part of them to use
 * @param grid evenly spaced rpm, ascending
 */
export function torqueCurve(
  rpm: Float64Array,
  torqueNm: Float64Array,
  sweep: Sweep,
  grid: readonly number[],
  stepRpm: number,
): Float64Array {
  const w = windowHalfWidth(stepRpm, sweep.medianSpacingRpm);
  const order = sweep.indices
    .filter((i) => Number.isFinite(rpm[i]) && Number.isFinite(torqueNm[i]))
    .sort((a, b) => rpm[a] - rpm[b]);
  const x = new Float64Array(order.length);
  const y = new Float64Array(order.length);
  for (let k = 0; k < order.length; k++) {
    x[k] = rpm[order[k]]!;
    y[k] = torqueNm[order[k]]!;
  }
  let first = 0;
  return Float64Array.from(grid, (r) => {
    while (first < x.length && x[first] < r - w) first += 1;
    let count = 0,
      s0 = 0,
      s1 = 0,
      s2 = 0,
      t0 = 0,
      t1 = 0,
      below = false,
      above = false;
    for (let k = first; k < x.length && x[k] <= r + w; k++) {
      const delta = x[k] - r;
      const weight = (1 - Math.abs(delta / w) ** 3) ** 3;
      count += 1;
      below ||= delta <= 0;
      above ||= delta >= 0;
      s0 += weight;
      s1 += weight * delta;
      s2 += weight * delta * delta;
      t0 += weight * y[k];
      t1 += weight * delta * y[k];
    }
    const determinant = s0 * s2 - s1 * s1;
    if (count < MIN_WINDOW_SAMPLES || !below || !above || !(determinant > 1e-12 * s0 * w * w)) return NaN;
    return (s2 * t0 - s1 * t1) / determinant;
  });
}

/** Evenly spaced grid from `fromRpm` to `toRpm` inclusive. */
export function rpmGrid(fromRpm: number, toRpm: number, stepRpm: number): number[] {
  const points = Math.floor((toRpm - fromRpm) / stepRpm + 1e-9) + 1;
  return Array.from({ length: points }, (_, j) => fromRpm + j * stepRpm);
}

/** Largest value of a curve: at the grid, and refined by a parabola through three points for display. */
export function peakOf(
  rpm: readonly number[],
  values: ArrayLike<number>,
):
  | {
      index: number;
      rpm: number;
      value: number;
      refinedRpm: number;
      refinedValue: number;
      /** Whether nothing lies on one side of it: then it is the end of the curve, not a peak. */
      atEdge: boolean;
    }
  | undefined {
  let index = -1;
  for (let j = 0; j < values.length; j++)
    if (Number.isFinite(values[j]) && (index < 0 || values[j] > values[index])) index = j;
  if (index < 0) return undefined;
  const [a, b, c] = [values[index - 1], values[index], values[index + 1]];
  let refinedRpm = rpm[index],
    refinedValue = b;
  if (a !== undefined && c !== undefined && Number.isFinite(a) && Number.isFinite(c) && a - 2 * b + c < 0) {
    const shift = (a - c) / (2 * (a - 2 * b + c));
    refinedRpm += shift * (rpm[index + 1] - rpm[index]);
    refinedValue = b - ((a - c) * shift) / 4;
  }
  const atEdge = !Number.isFinite(a ?? NaN) || !Number.isFinite(c ?? NaN);
  return { index, rpm: rpm[index], value: b, refinedRpm, refinedValue, atEdge };
}
