/**
 * Jumps of a channel from one sample to the next that are far beyond how it moves elsewhere. A jump there and back
 * within a few samples is an outlier; one that does not come back is a step.
 */
import { spread } from '../../base/robust.ts';
import { writtenAs, type Written } from './written.ts';

/** Beyond how many spreads of the usual change a change is a jump; and beyond what share of the value. */
const SPREADS = 12;
const SHARE = 0.02;
/** And beyond how many of the steps it is written in: a coarse channel moves by one of them or not at all. */
const WRITTEN_STEPS = 4;
/** What does not come back may be the engine's own (a valve train that changes over): only a large change is in doubt. */
const STEP_SHARE = 0.1;
/** Longest stretch of wrong samples that is taken to come back, as a share of the sweep. */
const STRETCH = 0.1;
/** Changes on each side that a change is held against. */
const AROUND = 4;

export interface Jumps {
  /** Places of samples that jump away and come back. */
  readonly outliers: readonly number[];
  /** First samples behind a jump that does not come back. */
  readonly steps: readonly number[];
}

/** @param least the smallest change that can be a jump, in the unit of the values */
export function jumpsIn(values: Float64Array, least: number, how: Written = writtenAs(values)): Jumps {
  const n = values.length - 1;
  if (n <= 2 * AROUND) return { outliers: [], steps: [] };
  const change = new Float64Array(n);
  for (let i = 0; i < n; i++) change[i] = values[i + 1] - values[i];
  const usual = localMedians(change);
  const off = new Float64Array(n);
  for (let i = 0; i < n; i++) off[i] = change[i] - usual[i];
  const sd = spread(off, 0);
  const typical = Math.abs(how.middle);
  // Values that hardly differ do not show how finely they are written; a tenth of them is no step of it.
  const written = Math.min(WRITTEN_STEPS * how.fine, STEP_SHARE * typical);
  const smallest = Math.max(least, written);
  const jumps: number[] = [];
  for (let i = 0; i < n; i++) {
    // Of the value it comes from or goes to: a tenth of a value is no small change of it.
    const size = Math.max(SHARE * Math.min(Math.abs(values[i]), Math.abs(values[i + 1]), typical), smallest);
    if (Math.abs(off[i]) > Math.max(SPREADS * sd, size)) jumps.push(i);
  }
  const { outliers, steps } = paired(jumps, change, values);
  return { outliers, steps: steps.filter((i) => Math.abs(change[i - 1]) > STEP_SHARE * typical) };
}

/** Median of the changes around each one. A few values are sorted by insertion: that is most of the work here. */
function localMedians(change: Float64Array): Float64Array {
  const width = 2 * AROUND + 1;
  const window = new Float64Array(width);
  const out = new Float64Array(change.length);
  for (let i = 0; i < change.length; i++) {
    const from = Math.max(0, Math.min(i - AROUND, change.length - width));
    for (let k = 0; k < width; k++) {
      const value = change[from + k];
      let at = k;
      while (at > 0 && window[at - 1] > value) {
        window[at] = window[at - 1];
        at -= 1;
      }
      window[at] = value;
    }
    out[i] = window[AROUND];
  }
  return out;
}

/**
 * A jump is closed by the first one behind it, soon enough, after which the values are back where they were: within a
 * stretch that reads ten times too much its scatter is ten times as large, and jumps, too.
 */
function paired(jumps: readonly number[], change: Float64Array, values: Float64Array): Jumps {
  const longest = Math.max(3, STRETCH * values.length);
  const outliers: number[] = [];
  const steps: number[] = [];
  for (let k = 0; k < jumps.length; k++) {
    const out = jumps[k];
    const isBack = (back: number): boolean =>
      back - out <= longest && Math.abs(values[back + 1] - values[out]) < 0.5 * Math.abs(change[out]);
    let close = k + 1;
    while (close < jumps.length && jumps[close] - out <= longest && !isBack(jumps[close])) close += 1;
    if (close < jumps.length && isBack(jumps[close])) {
      for (let i = out + 1; i <= jumps[close]; i++) outliers.push(i);
      k = close;
    } else steps.push(out + 1);
  }
  return { outliers, steps };
}
