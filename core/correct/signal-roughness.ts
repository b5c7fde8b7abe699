import type { Channels } from './channel-curves.ts';

/**
 * How rough a signal is from sample to sample, as a share of its mean: its noise estimated from second differences,
 * which a smooth rise leaves at nothing (Gasser, Sroka & Jennen-Steinmetz, Biometrika 1986; memory).
 * @param indices samples of the sweep in time order
 * @returns undefined with fewer than 20 samples or a mean that is not above zero
 */
export function signalRoughness(
  values: Channels[keyof Channels],
  indices: ArrayLike<number>,
): number | undefined {
  const n = indices.length;
  if (!values || n < LEAST_SAMPLES) return undefined;
  let [sum, squares] = [0, 0];
  for (let k = 0; k < n; k++) sum += values[indices[k]];
  for (let k = 1; k < n - 1; k++) {
    const second = values[indices[k - 1]] - 2 * values[indices[k]] + values[indices[k + 1]];
    squares += second * second;
  }
  const mean = sum / n;
  // A second difference of independent noise has six times its variance.
  return mean > 0 ? Math.sqrt(squares / (6 * (n - 2))) / mean : undefined;
}
const LEAST_SAMPLES = 20;
