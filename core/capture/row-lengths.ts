/** Rows that do not have as many cells as the table: what stands in them stands in the wrong columns. */
import { PullFileError } from '../base/errors.ts';
import { isBlank, trimmedRow, type Layout } from './pull-layout.ts';
import type { PullFinding } from './pull-file-types.ts';

/** Share of rows that must be of one length for another length to be wrong. */
const ALIKE = 0.95;
/** More odd rows than this share, and than a few, and the file is not to be used. */
const ODD_SHARE = 0.02;
const A_FEW = 5;

export interface RowLengths {
  readonly isOdd: (row: readonly string[]) => boolean;
}

/** Cells up to the last that is not empty, without making a copy. */
function filled(row: readonly string[]): number {
  let n = row.length;
  while (n > 0 && row[n - 1].trim() === '') n -= 1;
  return n;
}

/**
 * What rows of this table are long. Throws `PullFileError` MORE_CELLS_THAN_COLUMNS when most rows have more cells than
 * there are names above them: then numbers are cut apart at their own marks.
 */
export function rowLengths(rows: readonly string[][], layout: Layout): RowLengths {
  const counts = new Map<number, number>();
  let body = 0,
    overlong = 0,
    firstLong = -1;
  const named = trimmedRow(layout.header).length;
  for (let i = layout.dataRow; i < rows.length; i++) {
    const row = rows[i];
    if (isBlank(row)) continue;
    body += 1;
    counts.set(row.length, (counts.get(row.length) ?? 0) + 1);
    if (filled(row) > named) {
      overlong += 1;
      if (firstLong < 0) firstLong = i;
    }
  }
  if (overlong > 0.5 * body) throw moreCells(rows[firstLong], named, layout, firstLong);
  const [usual, times] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [named, 0];
  const alike = times >= ALIKE * body;
  return { isOdd: (row) => (alike ? row.length !== usual : false) || filled(row) > named };
}

function moreCells(row: readonly string[], named: number, layout: Layout, at: number): PullFileError {
  return new PullFileError(
    'MORE_CELLS_THAN_COLUMNS',
    `Rows have ${filled(row)} cells under ${named} column ` +
      `names.${layout.delimiter === ',' ? ' Numbers with decimal commas cannot be told apart in a file that separates by commas.' : ''}`,
    layout.delimiter === ','
      ? 'Export with decimal points, or with semicolons between the columns.'
      : 'Export the pull again with a name for every column.',
    { line: at + 1, column: layout.header[named - 1] ?? '' },
  );
}

/** Odd rows as a finding, or as a refusal when there are too many to leave out. */
export function oddRowsFinding(odd: number, body: number, firstLine: number): PullFinding | undefined {
  if (odd === 0) return undefined;
  const what = `${odd} ${odd === 1 ? 'row has' : 'rows have'} another number of cells than the rest`;
  if (odd > Math.max(A_FEW, ODD_SHARE * body))
    throw new PullFileError(
      'ROWS_DIFFER',
      `${what}: columns cannot be told apart in them.`,
      'Export the pull again; look at the first of these rows for a mark too many or too few.',
      { line: firstLine },
    );
  return {
    code: 'ROW_LENGTH',
    message: `${what}, and ${odd === 1 ? 'is' : 'are'} left out.`,
    line: firstLine,
  };
}
