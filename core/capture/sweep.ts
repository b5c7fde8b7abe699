import { PullFileError } from '../base/errors.ts';
import { median } from '../base/robust.ts';

/** Samples of one pull in time order. `timeS`, `throttle` are optional; all arrays have one length. */
export interface Samples {
  readonly timeS?: Float64Array | undefined;
  readonly rpm: Float64Array;
  readonly throttlePct?: Float64Array | undefined;
}

export interface Sweep {
  /** Indices into the samples, first to last inclusive. */
  readonly indices: Int32Array;
  readonly fromRpm: number;
  readonly toRpm: number;
  /** Where the engine speed began to rise, before the ramp-in was cut. */
  readonly beganRpm: number;
  /** Mean rate of rise, rpm/s; NaN without time. */
  readonly rampRpmPerS: number;
  readonly medianSpacingRpm: number;
  /** The next longest rise in the recording, rpm gained; 0 where there is none. */
  readonly secondRiseRpm: number;
}

export interface SweepPolicy {
  /** Cut from the beginning of the rise, until torque has passed the first rise after tip-in. */
  readonly rampInRpm: number;
  /** Share of the largest throttle that counts as full. */
  readonly fullThrottle: number;
}
export const SWEEP_POLICY: SweepPolicy = { rampInRpm: 300, fullThrottle: 0.95 };

/** A rise may pause by this much (rpm) on a quiet speed signal without ending; on a noisy one by four of its SDs after smoothing. */
const PAUSE_RPM = 15;
/** How quiet smoothing makes the speed signal, SD in rpm, and the largest share of the recording it may blur to get there. */
const QUIET = { sdRpm: 3, share: 1 / 12 };

/**
 * SD of the noise on a speed signal, rpm: from second differences, which a steady rise does not enter.
 * For white noise they have six times its variance; the median absolute one keeps jumps out.
 */
export function speedNoiseRpm(rpm: Float64Array): number {
  if (rpm.length < 8) return 0;
  const second = new Float64Array(rpm.length - 2);
  for (let i = 0; i < second.length; i++) second[i] = Math.abs(rpm[i + 2] - 2 * rpm[i + 1] + rpm[i]);
  second.sort();
  return (second[second.length >> 1] * 1.4826) / Math.sqrt(6);
}

/** Half-width of the moving mean, samples, that brings the noise down to what the search for a rise can bear. */
function halfWidth(rpm: Float64Array): { half: number; pause: number } {
  const sd = speedNoiseRpm(rpm);
  const least = Math.max(2, Math.round(rpm.length / 400));
  const wanted = Math.ceil(((sd / QUIET.sdRpm) ** 2 - 1) / 2);
  const half = Math.max(least, Math.min(wanted, Math.floor(rpm.length * QUIET.share)));
  return { half, pause: Math.max(PAUSE_RPM, (4 * sd) / Math.sqrt(2 * half + 1)) };
}

/** A stretch at full throttle in which smoothed engine speed rises: places of its samples, and rpm gained. */
export interface Rise {
  readonly from: number;
  readonly to: number;
  readonly gain: number;
}

/** Every rise of a recording in its order, with how far smoothing reaches (samples). */
export function risesIn(
  { rpm, throttlePct: throttle }: Samples,
  policy: SweepPolicy = SWEEP_POLICY,
): { readonly rises: readonly Rise[]; readonly half: number } {
  const n = rpm.length;
  const { half, pause } = halfWidth(rpm);
  const smooth = movingMean(rpm, half);
  const fullFrom = throttle ? policy.fullThrottle * largest(throttle) : -Infinity;
  const rises: Rise[] = [];
  let from = 0;
  let peak = 0;
  const close = (): void => {
    if (peak > from) rises.push({ from, to: peak, gain: smooth[peak] - smooth[from] });
  };
  for (let i = 0; i < n; i++) {
    if (throttle && throttle[i] < fullFrom) {
      close();
      from = peak = i + 1;
      continue;
    }
    if (i === from || smooth[i] > smooth[peak]) peak = i;
    if (smooth[i] < smooth[from] - (peak > from ? pause : 0)) {
      close();
      from = peak = i;
    } else if (smooth[i] < smooth[peak] - pause) {
      close();
      from = peak = i;
    }
  }
  if (from < n) close();
  return { rises, half };
}

/**
 * Usable part of a pull: the longest stretch at full throttle in which smoothed engine speed rises,
 * up to the rev peak, with the ramp-in cut. "Longest" is in rpm gained.
 * Throws `PullFileError` NO_SWEEP when nothing rises.
 */
// eslint-disable-next-line max-lines-per-function -- one walk along the speed; pieces would hand each other its whole state
export function findSweep(samples: Samples, policy: SweepPolicy = SWEEP_POLICY): Sweep {
  const n = samples.rpm.length;
  const throttle = samples.throttlePct;
  const fullFrom = throttle ? policy.fullThrottle * largest(throttle) : -Infinity;
  const { rises, half } = risesIn(samples, policy);
  let best: Rise = { from: 0, to: -1, gain: 0 };
  let second = 0;
  for (const rise of rises) {
    if (rise.gain > best.gain) {
      second = best.gain;
      best = rise;
    } else if (rise.gain > second) second = rise.gain;
  }
  if (best.to < best.from || best.gain <= 0) {
    throw new PullFileError(
      'NO_SWEEP',
      'The engine speed never rises for long enough to be a pull.',
      'Check that the file is a pull and that the engine speed column is the right one.',
    );
  }
  // Smoothing blurs the two ends: extend to the lowest and highest raw speed next to them.
  let { from: start, to: end } = best;
  const reach = half + 1;
  for (let i = Math.max(best.from, best.to - reach); i <= Math.min(n - 1, best.to + reach); i++) {
    if ((!throttle || throttle[i] >= fullFrom) && samples.rpm[i] > samples.rpm[end]) end = i;
  }
  for (let i = best.from; i <= Math.min(best.from + reach, end); i++)
    if (samples.rpm[i] < samples.rpm[start]) start = i;
  const began = samples.rpm[start];
  const cut = began + policy.rampInRpm;
  const kept: number[] = [];
  let passed = false;
  for (let i = start; i <= end; i++) {
    passed ||= samples.rpm[i] >= cut;
    if (passed) kept.push(i);
  }
  if (kept.length < 2) {
    throw new PullFileError(
      'NO_SWEEP',
      `The engine speed rises by ${Math.round(samples.rpm[end] - began)} rpm only, less than the ${policy.rampInRpm} rpm cut as ramp-in.`,
      'Check that the whole pull was recorded.',
    );
  }
  const indices = Int32Array.from(kept);
  const rpmOf = (k: number): number => samples.rpm[indices[k]];
  const spacing = new Float64Array(indices.length - 1);
  for (let k = 0; k < spacing.length; k++) spacing[k] = Math.abs(rpmOf(k + 1) - rpmOf(k));
  const [first, last] = [indices[0], indices[indices.length - 1]];
  const seconds = samples.timeS ? samples.timeS[last] - samples.timeS[first] : NaN;
  let low = Infinity,
    high = -Infinity;
  for (const i of indices) {
    low = Math.min(low, samples.rpm[i]);
    high = Math.max(high, samples.rpm[i]);
  }
  return {
    indices,
    fromRpm: low,
    toRpm: high,
    beganRpm: began,
    rampRpmPerS: (samples.rpm[last] - samples.rpm[first]) / seconds,
    secondRiseRpm: second,
    medianSpacingRpm: median(spacing),
  };
}

function movingMean(values: Float64Array, half: number): Float64Array {
  const out = new Float64Array(values.length);
  let sum = 0;
  let from = 0,
    to = -1;
  for (let i = 0; i < values.length; i++) {
    const a = Math.max(0, i - half),
      b = Math.min(values.length - 1, i + half);
    while (to < b) sum += values[++to];
    while (from < a) sum -= values[from++];
    out[i] = sum / (b - a + 1);
  }
  return out;
}

function largest(values: Float64Array): number {
  let max = -Infinity;
  for (let i = 0; i < values.length; i++) if (values[i] > max) max = values[i]!;
  return max;
}
