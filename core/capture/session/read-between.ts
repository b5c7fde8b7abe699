/** A log’s channel at another recorder’s moments. */
/** Farthest apart two readings of a logger may be that a value is read between them, s. */
const BRIDGES_S = 0.5;

/** A log’s channel at the pull’s moments: between two readings in proportion, nothing beyond. */
export function readBetween(t: Float64Array, values: Float64Array, at: number, from: number): number | null {
  let k = from;
  while (k + 1 < t.length && t[k + 1] < at) k += 1;
  const [a, b] = [k, k + 1];
  if (b >= t.length || at < t[a] || at > t[b] || t[b] - t[a] > BRIDGES_S) return null;
  const share = t[b] > t[a] ? (at - t[a]) / (t[b] - t[a]) : 0;
  const value = values[a] + share * (values[b] - values[a]);
  return Number.isFinite(value) ? value : null;
}
