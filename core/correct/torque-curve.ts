import type { Sweep } from '../capture/sweep.ts';

/** Fewest samples in the window of a grid point; fewer give no value. */
export const MIN_WINDOW_SAMPLES = 4;

/** Half-width of the local window in rpm: w = max(step, 2.5 × median rpm spacing of the samples). */
export const windowHalfWidth = (stepRpm: number, medianSpacingRpm: number): number =>
  Math.max(stepRpm, 2.5 * medianSpacingRpm);

/** Samples around each grid point with what the regression makes of their speeds; the readings come later. */
interface Windows {
  readonly order: Int32Array;
  readonly points: readonly (Window | null)[];
}
interface Window {
  readonly first: number;
  readonly delta: Float64Array;
  readonly weight: Float64Array;
  readonly s1: number;
  readonly s2: number;
  readonly determinant: number;
}

function windowsOf(x: Float64Array, order: Int32Array, grid: readonly number[], w: number): Windows {
  let first = 0;
  const points = grid.map((r) => {
    while (first < x.length && x[first] < r - w) first += 1;
    let last = first;
    while (last < x.length && x[last] <= r + w) last += 1;
    const count = last - first;
    const delta = new Float64Array(count);
    const weight = new Float64Array(count);
    let [s0, s1, s2, below, above] = [0, 0, 0, false, false];
    for (let k = 0; k < count; k++) {
      delta[k] = x[first + k] - r;
      // Products: a power in this loop was a third of the time of a curve.
      const away = Math.abs(delta[k] / w);
      const left = 1 - away * away * away;
      weight[k] = left * left * left;
      below ||= delta[k] <= 0;
      above ||= delta[k] >= 0;
      s0 += weight[k];
      s1 += weight[k] * delta[k];
      s2 += weight[k] * delta[k] * delta[k];
    }
    const determinant = s0 * s2 - s1 * s1;
    const usable = count >= MIN_WINDOW_SAMPLES && below && above && determinant > 1e-12 * s0 * w * w;
    return usable ? { first, delta, weight, s1, s2, determinant } : null;
  });
  return { order, points };
}

function readAt({ order, points }: Windows, values: Float64Array): Float64Array {
  return Float64Array.from(points, (window) => {
    if (!window) return NaN;
    const { first, delta, weight, s1, s2, determinant } = window;
    let [t0, t1] = [0, 0];
    for (let k = 0; k < delta.length; k++) {
      const y = values[order[first + k]];
      t0 += weight[k] * y;
      t1 += weight[k] * delta[k] * y;
    }
    return (s2 * t0 - s1 * t1) / determinant;
  });
}

/**
 * Reads channels of one pull off at the grid: at each grid rpm by local linear regression on the samples within ±w with
 * tricube weights (1 − |Δ/w|³)³. A grid point with fewer than four samples in the window, or samples on one side
 * only, has no value (NaN): nothing is extrapolated. What depends on the speeds alone is worked out once.
 * @param rpm all samples of the pull; @param sweep the part of them to use
 * @param grid evenly spaced rpm, ascending
 * @returns the curve of a channel: one value a sample in, one a grid point out
 */
export function curveReader(
  rpm: Float64Array,
  sweep: Sweep,
  grid: readonly number[],
  stepRpm: number,
): (values: Float64Array) => Float64Array {
  const w = windowHalfWidth(stepRpm, sweep.medianSpacingRpm);
  const bySpeed = Int32Array.from(sweep.indices.filter((i) => Number.isFinite(rpm[i]))).sort(
    (a, b) => rpm[a] - rpm[b],
  );
  const windows = (order: Int32Array): Windows =>
    windowsOf(
      Float64Array.from(order, (i) => rpm[i]),
      order,
      grid,
      w,
    );
  let whole: Windows | undefined;
  return (values) => {
    if (bySpeed.every((i) => Number.isFinite(values[i]))) return readAt((whole ??= windows(bySpeed)), values);
    return readAt(windows(bySpeed.filter((i) => Number.isFinite(values[i]))), values);
  };
}

/** Torque, or another channel, at each grid rpm; see `curveReader`. */
export const torqueCurve = (
  rpm: Float64Array,
  torqueNm: Float64Array,
  sweep: Sweep,
  grid: readonly number[],
  stepRpm: number,
): Float64Array => curveReader(rpm, sweep, grid, stepRpm)(torqueNm);

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
