/** Stretches in which a finely written channel does not move at all while the engine does. */
import { resolution } from '../../base/robust.ts';

/** How finely a channel must be written, as a share of its values, for a repeated value to mean anything. */
const FINE = 1e-3;
/** A reading that comes to rest by itself does so in small steps: a channel that sticks goes on with larger ones. */
const RESTS = 5;
/** Samples of one value in a row that are too many: at least so many, and so many times the usual run. */
const LEAST = 8;
const TIMES_USUAL = 5;
const USUAL = 0.95;

/** Places of samples in such stretches, the first of each excepted: it may be a reading. */
export function stuckIn(values: Float64Array): number[] {
  const middle = Math.abs(values[values.length >> 1] ?? NaN);
  const fine = resolution(values);
  if (!(fine < FINE * middle)) return [];
  const change = (i: number): number => Math.abs(values[i] - values[i - 1]);
  const runs: { from: number; length: number }[] = [];
  for (let i = 0; i < values.length; i++) {
    const last = runs.at(-1);
    if (last && values[i] === values[last.from]) last.length += 1;
    else runs.push({ from: i, length: 1 });
  }
  const lengths = Float64Array.from(runs, (run) => run.length).sort();
  const usual = lengths[Math.min(lengths.length - 1, Math.floor(USUAL * lengths.length))] ?? 1;
  return runs
    .filter((run) => run.length >= Math.max(LEAST, TIMES_USUAL * usual))
    .filter(({ from, length }) => {
      const before = from > 0 ? change(from) : 0;
      const behind = from + length < values.length ? change(from + length) : 0;
      return Math.max(before, behind) > RESTS * fine;
    })
    .flatMap((run) => Array.from({ length: run.length - 1 }, (_, k) => run.from + 1 + k));
}
