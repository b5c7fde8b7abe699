import type { PullFile } from '../../capture/pull-file-types.ts';
import { found, type Found } from '../finding.ts';
import type { HeldPull } from './held-pull.ts';

/** Consecutive samples alike to the last digit that no two recordings have by chance, and their share of the shorter one. */
const COPY = { run: 20, share: 0.3 };
/** Two recordings whose ratio is this constant are one, scaled; common practice, far below any pull-to-pull scatter. */
const CONSTANT_RATIO = { least: 5e-6, most: 4e-4 };

/** A recording by its samples: a number for each, and where each stands. */
interface Keyed {
  readonly keys: Float64Array;
  readonly at: ReadonlyMap<number, number>;
}
/** Any factor that makes no whole number of any two readings: samples of one key are one, but for a chance in 10¹⁰. */
const APART = Math.PI * 1e5;
function keyed({ rpm, torqueNm }: PullFile): Keyed {
  const keys = rpm.map((speed, i) => speed * APART + torqueNm[i]);
  const at = new Map<number, number>();
  keys.forEach((key, i) => at.set(key, i));
  return { keys, at };
}

/** A run that is long enough has one of every so many samples in it: where none of those is known, there is none. */
function mayShare(a: Keyed, b: Keyed): boolean {
  for (let i = 0; i < b.keys.length; i += COPY.run) if (a.at.has(b.keys[i])) return true;
  return false;
}
/** Longest run of samples that stand in both files one after the other, rpm and torque alike; 0 where it is short. */
function longestSharedRun(a: Keyed, b: Keyed): number {
  if (!mayShare(a, b)) return 0;
  let longest = 0;
  let run = 0;
  let last = -2;
  for (const key of b.keys) {
    const i = a.at.get(key);
    run = i === undefined ? 0 : i === last + 1 ? run + 1 : 1;
    last = i ?? -2;
    if (run > longest) longest = run;
  }
  return longest;
}

/** Smallest step between torque readings, N·m: how finely the file is written. */
function resolution(values: Float64Array): number {
  const sorted = Float64Array.from(values.subarray(0, 400)).sort();
  let least = Infinity;
  for (let i = 1; i < sorted.length; i++) {
    const step = sorted[i] - sorted[i - 1];
    if (step > 1e-9 && step < least) least = step;
  }
  return Number.isFinite(least) ? least : 0;
}

/** Whether one file is the other times a number: sample by sample at the same engine speeds, a constant ratio. */
function isScaled(a: PullFile, b: PullFile): boolean {
  if (a.rpm.length !== b.rpm.length) return false;
  let n = 0;
  let sum = 0;
  let squares = 0;
  let level = 0;
  for (let i = 0; i < a.rpm.length; i++) {
    if (a.rpm[i] !== b.rpm[i] || !(a.torqueNm[i] > 0) || !(b.torqueNm[i] > 0)) continue;
    const ratio = b.torqueNm[i] / a.torqueNm[i];
    n += 1;
    sum += ratio;
    squares += ratio * ratio;
    level += a.torqueNm[i];
  }
  if (n < 0.9 * a.rpm.length || n < COPY.run) return false;
  const mean = sum / n;
  const sd = Math.sqrt(Math.max(0, squares / n - mean * mean)) / mean;
  const written = (0.6 * resolution(a.torqueNm)) / (level / n);
  return sd < Math.min(CONSTANT_RATIO.most, Math.max(CONSTANT_RATIO.least, written));
}

/** Pulls that are one recording: the same samples, also under other air, trimmed, with a digit changed, or scaled. */
export function copies(pulls: readonly HeldPull[]): Found[] {
  const samples = pulls.map(({ file }) => keyed(file));
  return pulls.flatMap((a, k) =>
    pulls.slice(k + 1).flatMap((b, offset) => {
      const shared = longestSharedRun(samples[k], samples[k + 1 + offset]);
      if (shared >= COPY.run && shared >= COPY.share * Math.min(a.file.samples, b.file.samples))
        return [found('plausible', 'fail', 'COPIED_SAMPLES', a.id, b.id, shared)];
      return isScaled(a.file, b.file) ? [found('plausible', 'fail', 'SCALED_COPY', a.id, b.id)] : [];
    }),
  );
}
