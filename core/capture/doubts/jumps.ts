/**
 * Jumps of a channel from one sample to the next that are far beyond how it moves elsewhere. A jump there and back
 * within a few samples is an outlier; one that does not come back is a step.
 */
import { median, spread } from './robust.ts';

/** Beyond how many spreads of the usual change a change is a jump; and beyond what share of the value. */
const SPREADS = 12;
const SHARE = 0.02;
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
export function jumpsIn(values: Float64Array, least: number): Jumps {
  const n = values.length - 1;
  if (n < 2 * AROUND) return { outliers: [], steps: [] };
  const change = Float64Array.from({ length: n }, (_, i) => values[i + 1] - values[i]);
  const usual = localMedians(change);
  const sd = spread(
    change.map((c, i) => c - usual[i]),
    0,
  );
  const typical = Math.abs(median(values));
  const jumps: number[] = [];
  for (let i = 0; i < n; i++) {
    // Of the value it comes from or goes to: a tenth of a value is no small change of it.
    const size = Math.max(SHARE * Math.min(Math.abs(values[i]), Math.abs(values[i + 1]), typical), least);
    if (Math.abs(change[i] - usual[i]) > Math.max(SPREADS * sd, size)) jumps.push(i);
  }
  return paired(jumps, change, values.length);
}

function localMedians(change: Float64Array): Float64Array {
  return change.map((_, i) => {
    const from = Math.max(0, Math.min(i - AROUND, change.length - 2 * AROUND - 1));
    return median(change.subarray(from, from + 2 * AROUND + 1));
  });
}

/** A jump is closed by the next one the other way, when that comes soon and brings it back by most of it. */
function paired(jumps: readonly number[], change: Float64Array, n: number): Jumps {
  const outliers: number[] = [];
  const steps: number[] = [];
  for (let k = 0; k < jumps.length; k++) {
    const [out, back] = [jumps[k], jumps[k + 1]];
    const comesBack =
      back !== undefined &&
      back - out <= Math.max(3, STRETCH * n) &&
      change[out] * change[back] < 0 &&
      Math.abs(change[out] + change[back]) < 0.5 * Math.abs(change[out]);
    if (comesBack) {
      for (let i = out + 1; i <= back; i++) outliers.push(i);
      k += 1;
    } else steps.push(out + 1);
  }
  return { outliers, steps };
}
