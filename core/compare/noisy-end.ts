/** An end of the range where the pulls scatter far more than elsewhere. */
export interface NoisyEnd {
  readonly side: 'low' | 'high';
  /** From here outwards. */
  readonly rpm: number;
  /** Scatter (SD) at the end over that of the middle of the range. */
  readonly times: number;
}

/**
 * An end is called noisy from this ratio on: even scatter reaches it in 0.3 % of tests of three pulls a run,
 * three times the SD in 79 % (simulated).
 */
export const NOISY_END = 1.8;

/**
 * The noisier end of the range, where it is noisy; the band is valid there, but it costs width everywhere.
 * @param scatter variance along rpm, smoothed, lp²
 */
export function noisyEnd(scatter: Float64Array, rpm: readonly number[]): NoisyEnd | null {
  const usual = [...scatter].sort((x, y) => x - y)[scatter.length >> 1];
  const times = (j: number): number => Math.sqrt(scatter[j] / usual);
  const last = rpm.length - 1;
  const [low, high] = [times(0), times(last)];
  if (!(Math.max(low, high) >= NOISY_END)) return null;
  // Inwards from the end, up to where the scatter is nearer to the usual than to the end's.
  const outer = (worst: number): number => (1 + worst) / 2;
  let j = low >= high ? 0 : last;
  if (low >= high) while (j < last && times(j) > outer(low)) j += 1;
  else while (j > 0 && times(j) > outer(high)) j -= 1;
  return { side: low >= high ? 'low' : 'high', rpm: rpm[j], times: Math.max(low, high) };
}
