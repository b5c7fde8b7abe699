/** Two recorders on one car, each with its own clock: by how much the one has to be shifted to meet the other. */

/** Engine speed over a recorder’s own time, s, ascending; rpm. */
export interface SpeedTrace {
  readonly t: ArrayLike<number>;
  readonly rpm: ArrayLike<number>;
}
export interface Alignment {
  /** To be added to the log’s time to give the pull’s, s. */
  readonly offsetS: number;
  /** Correlation of the two speeds at that offset, −1 to 1. */
  readonly correlation: number;
  /** Seconds in which both have a reading. */
  readonly overlapS: number;
}

const STEP_S = 0.05;
/** Less than this in common says nothing. */
const LEAST_OVERLAP_S = 2;
/** From which correlation on two traces count as one engine. */
export const SAME_ENGINE = 0.995;
/** From which on a lag of the raster is looked at more closely. */
const ALIKE = 0.9;
/** Parts of a step that are looked at. */
const FINE = 10;

/** A trace on an even raster from its first to its last moment; gaps are bridged. */
function raster({ t, rpm }: SpeedTrace): { from: number; values: Float64Array } {
  const known: number[] = [];
  for (let i = 0; i < t.length; i++) if (Number.isFinite(t[i]) && Number.isFinite(rpm[i])) known.push(i);
  if (known.length < 2) return { from: 0, values: new Float64Array(0) };
  const from = t[known[0]];
  const count = Math.floor((t[known[known.length - 1]] - from) / STEP_S) + 1;
  const values = new Float64Array(Math.max(0, count));
  let k = 0;
  for (let i = 0; i < count; i++) {
    const at = from + i * STEP_S;
    while (k + 2 < known.length && t[known[k + 1]] < at) k += 1;
    const [a, b] = [known[k], known[k + 1]];
    const share = t[b] > t[a] ? Math.min(1, Math.max(0, (at - t[a]) / (t[b] - t[a]))) : 0;
    values[i] = rpm[a] + share * (rpm[b] - rpm[a]);
  }
  return { from, values };
}

const ENDS = 5;
const inner = ({ from, values }: ReturnType<typeof raster>): ReturnType<typeof raster> =>
  values.length > 16 * ENDS
    ? { from: from + ENDS * STEP_S, values: values.subarray(ENDS, values.length - ENDS) }
    : { from, values };

function correlationAt(a: Float64Array, b: Float64Array, lag: number): { r: number; n: number } {
  const first = Math.max(0, lag);
  const last = Math.min(a.length, b.length + lag);
  const n = last - first;
  if (n < 3) return { r: NaN, n: 0 };
  let sa = 0,
    sb = 0;
  for (let i = first; i < last; i++) {
    sa += a[i];
    sb += b[i - lag];
  }
  const [ma, mb] = [sa / n, sb / n];
  let saa = 0,
    sbb = 0,
    sab = 0;
  for (let i = first; i < last; i++) {
    const [da, db] = [a[i] - ma, b[i - lag] - mb];
    saa += da * da;
    sbb += db * db;
    sab += da * db;
  }
  return { r: sab / Math.sqrt(saa * sbb), n };
}

/**
 * Shifts a log over a pull until their engine speeds agree best. Correlation alone knows no scale; two ramps alike in
 * slope correlate anywhere, so the difference of the speeds decides among the lags that correlate.
 *
 * @returns undefined where they have too little in common, or are not one engine at any shift
 */
export function alignLog(pull: SpeedTrace, log: SpeedTrace): Alignment | undefined {
  // Where a recording begins and ends the one recorder is a little earlier than the other.
  const [a, b] = [inner(raster(pull)), raster(log)];
  const least = Math.round(LEAST_OVERLAP_S / STEP_S);
  if (a.values.length < least || b.values.length < least) return undefined;
  let best: { lag: number; off: number } | undefined;
  // At least half of the shorter one must lie within the other.
  const wanted = Math.max(least, Math.floor(Math.min(a.values.length, b.values.length) / 2));
  for (let lag = wanted - b.values.length; lag <= a.values.length - wanted; lag++) {
    const { r, n } = correlationAt(a.values, b.values, lag);
    if (!(r >= ALIKE) || n < wanted) continue;
    const off = differenceAt(a.values, b.values, lag);
    if (!best || off < best.off) best = { lag, off };
  }
  if (!best) return undefined;
  const fine = finest(a.values, b.values, best.lag);
  // Between two steps of the raster they may meet far better than on it: only there it is judged.
  return fine.r >= SAME_ENGINE
    ? {
        offsetS: a.from - b.from + fine.lag * STEP_S,
        correlation: fine.r,
        overlapS: fine.n * STEP_S,
      }
    : undefined;
}

/** A trace moved by a share of a step, 0 to 1. */
const moved = (values: Float64Array, share: number): Float64Array =>
  values.map((v, i) => (i + 1 < values.length ? v + share * (values[i + 1] - v) : v));
/** Looks between the steps of the raster, on both sides of a lag. */
function finest(a: Float64Array, b: Float64Array, lag: number): { lag: number; r: number; n: number } {
  let best = { lag, ...correlationAt(a, b, lag), off: differenceAt(a, b, lag) };
  for (let k = 1; k < 2 * FINE; k++) {
    // Moved to the left by a share of a step is as if it lagged that much less.
    const [whole, share] = k < FINE ? [lag, k / FINE] : [lag + 1, (k - FINE) / FINE];
    if (share === 0) continue;
    const shifted = moved(b, share);
    const off = differenceAt(a, shifted, whole);
    if (off < best.off) best = { lag: whole - share, ...correlationAt(a, shifted, whole), off };
  }
  return best;
}
/** Mean square of the difference of two speeds at a lag, rpm². */
function differenceAt(a: Float64Array, b: Float64Array, lag: number): number {
  const first = Math.max(0, lag);
  const last = Math.min(a.length, b.length + lag);
  let sum = 0;
  for (let i = first; i < last; i++) sum += (a[i] - b[i - lag]) ** 2;
  return last > first ? sum / (last - first) : Infinity;
}
