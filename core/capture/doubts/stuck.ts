/** Stretches in which a finely written channel does not move at all while the engine does. */
import { writtenAs, type Written } from './written.ts';

/** How finely a channel must be written, as a share of its values, for a repeated value to mean anything. */
const FINE = 1e-3;
/** A reading that comes to rest by itself does so in small steps: a channel that sticks goes on with larger ones. */
const RESTS = 5;
/** Samples of one value in a row that are too many: at least so many, and so many times the usual run. */
const LEAST = 8;
const TIMES_USUAL = 5;
const USUAL = 0.95;

/** Places of samples in such stretches, the first of each excepted: it may be a reading. */
export function stuckIn(values: Float64Array, { fine }: Written = writtenAs(values)): number[] {
  const middle = Math.abs(values[values.length >> 1] ?? NaN);
  if (!(fine < FINE * middle)) return [];
  const change = (i: number): number => Math.abs(values[i] - values[i - 1]);
  const { starts, lengths } = runsOf(values);
  const sorted = lengths.slice().sort();
  const usual = sorted[Math.min(sorted.length - 1, Math.floor(USUAL * sorted.length))] ?? 1;
  const many = Math.max(LEAST, TIMES_USUAL * usual);
  const long: { from: number; length: number }[] = [];
  for (let k = 0; k < starts.length; k++)
    if (lengths[k] >= many) long.push({ from: starts[k], length: lengths[k] });
  return long
    .filter(({ from, length }) => {
      const before = from > 0 ? change(from) : 0;
      const behind = from + length < values.length ? change(from + length) : 0;
      return Math.max(before, behind) > RESTS * fine;
    })
    .flatMap((run) => Array.from({ length: run.length - 1 }, (_, k) => run.from + 1 + k));
}

/** Stretches of one value: where each begins, and how many samples it has. */
function runsOf(values: Float64Array): { starts: Int32Array; lengths: Int32Array } {
  const [starts, lengths] = [new Int32Array(values.length), new Int32Array(values.length)];
  let n = 0;
  for (let i = 0; i < values.length; i++) {
    if (i > 0 && values[i] === values[starts[n - 1]]) lengths[n - 1] += 1;
    else {
      starts[n] = i;
      lengths[n] = 1;
      n += 1;
    }
  }
  return { starts: starts.subarray(0, n), lengths: lengths.subarray(0, n) };
}
