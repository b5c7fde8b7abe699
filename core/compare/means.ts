import type { Rows } from './common-grid.ts';

export const meanOf = (values: readonly number[]): number =>
  values.reduce((a, b) => a + b, 0) / values.length;

/** Mean of each column over the rows. */
export const columnMeans = (rows: Rows): number[] =>
  Array.from(rows[0], (_, j) => meanOf(rows.map((row) => row[j])));
