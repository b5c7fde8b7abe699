/** Middle and spread that a few wrong values do not move. */
const NORMAL = 1.4826;

/** Median of some values; NaN of none. Sorts a copy. */
export const median = (values: ArrayLike<number>): number => medianOf(new Float64Array(values).sort());
/** Median of values that are in order; NaN of none. */
export function medianOf(sorted: Float64Array): number {
  if (sorted.length === 0) return NaN;
  const half = sorted.length >> 1;
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}
/** Median absolute deviation from a centre, as the SD of a normal distribution with the same. */
export function spread(values: ArrayLike<number>, centre: number): number {
  const off = new Float64Array(values.length);
  for (let i = 0; i < off.length; i++) off[i] = Math.abs(values[i] - centre);
  return NORMAL * median(off);
}

/** The smallest step between values that differ: how finely they are written. Infinity where they do not differ. */
export const resolution = (values: ArrayLike<number>): number =>
  resolutionOf(new Float64Array(values).sort());
/** The same of values that are in order. */
export function resolutionOf(sorted: Float64Array): number {
  let least = Infinity;
  for (let i = 1; i < sorted.length; i++) {
    const step = sorted[i] - sorted[i - 1];
    // What arithmetic in another unit leaves is no step.
    if (step > 1e-9 * Math.abs(sorted[i]) && step < least) least = step;
  }
  return least;
}
