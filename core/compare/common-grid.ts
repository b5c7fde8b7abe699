import { lp } from '../base/units.ts';

/** A rectangle of curves: one row per pull, one column per rpm of the grid, values in lp. */
export type Rows = readonly Float64Array[];

export interface CommonGrid {
  readonly status: 'ok' | 'too short' | 'no common rpm';
  /** Index of the first column kept, in the grid handed in. */
  readonly from: number;
  readonly rpm: readonly number[];
  readonly rows: Rows;
}

/** What a comparison needs at least; a shorter range is `TOO_SHORT`. */
export const MIN_GRID_POINTS = 11;
export const MIN_GRID_SPAN_RPM = 1000;
/** Longest interior gap, in grid points, that is bridged by a straight line in lp. */
export const MAX_GAP_POINTS = 2;

/**
 * Common grid of several pulls. Readings that are missing, not finite or not above zero are missing;
 * interior gaps of up to two points are interpolated linearly in lp per pull; the longest run of
 * columns complete in every pull is kept (the first of equals).
 * @param values one row per pull, power or torque (any unit), NaN where there is no value
 * @param rpm the grid, evenly spaced, ascending
 */
export function commonGrid(values: readonly ArrayLike<number | null>[], rpm: readonly number[]): CommonGrid {
  const rows = values.map((row) => bridged(row, rpm));
  let best = { from: 0, length: 0 };
  let start = -1;
  for (let j = 0; j <= rpm.length; j++) {
    const complete = j < rpm.length && rows.length > 0 && rows.every((row) => !Number.isNaN(row[j]));
    if (complete && start < 0) start = j;
    if (!complete && start >= 0) {
      if (j - start > best.length) best = { from: start, length: j - start };
      start = -1;
    }
  }
  const end = best.from + best.length;
  const kept = rpm.slice(best.from, end);
  const longEnough = kept.length >= MIN_GRID_POINTS && kept[kept.length - 1] - kept[0] >= MIN_GRID_SPAN_RPM;
  return {
    status: kept.length === 0 ? 'no common rpm' : longEnough ? 'ok' : 'too short',
    from: best.from,
    rpm: kept,
    rows: rows.map((row) => row.slice(best.from, end)),
  };
}

function bridged(values: ArrayLike<number | null>, rpm: readonly number[]): Float64Array {
  const row = Float64Array.from({ length: rpm.length }, (_, j) => {
    const value = values[j];
    return typeof value === 'number' && value > 0 && Number.isFinite(value) ? lp(value) : NaN;
  });
  let last = -1;
  for (let j = 0; j < row.length; j++) {
    if (Number.isNaN(row[j])) continue;
    const gap = j - last - 1;
    if (last >= 0 && gap >= 1 && gap <= MAX_GAP_POINTS) {
      for (let k = last + 1; k < j; k++) {
        row[k] = row[last] + ((row[j] - row[last]) * (rpm[k] - rpm[last])) / (rpm[j] - rpm[last]);
      }
    }
    last = j;
  }
  return row;
}
