/**
 * The usual body of a log, read without making a string of every cell: one line a row, every cell a plain decimal
 * number, as many as there are names. Whatever is otherwise anywhere in it is left to the reader that goes cell by
 * cell, which finds out what it is and says so.
 */
import { STYLE_ROWS } from './pull-columns.ts';
import { trimmedRow, type Layout } from './pull-layout.ts';

export interface PlainTable {
  readonly count: number;
  /** By column as the header names them: the numbers as they are written. */
  readonly values: readonly Float64Array[];
}
/**
 * Up to so many digits a whole number and a power of ten are exact, so that their quotient is the nearest double, the
 * same that `Number` gives (Clinger 1990; memory).
 */
const MOST_EXACT_DIGITS = 15;
const POWERS_OF_TEN = Float64Array.from({ length: MOST_EXACT_DIGITS + 1 }, (_, k) => 10 ** k);
const [FEED, SPACE, ZERO, NINE, POINT, MINUS] = [10, 32, 48, 57, 46, 45];

/** Where a line begins; the length of the text where it has fewer lines. */
export function lineStart(text: string, line: number): number {
  let at = 0;
  for (let k = 0; k < line; k++) {
    const end = text.indexOf('\n', at);
    if (end < 0) return text.length;
    at = end + 1;
  }
  return at;
}
function linesFrom(text: string, from: number): number {
  let n = 0;
  for (let at = text.indexOf('\n', from); at >= 0; at = text.indexOf('\n', at + 1)) n += 1;
  return n;
}

/**
 * One cell among the first must show that the point is a decimal mark.
 * @param text with plain line ends; undefined where it is no plain table from `layout.dataRow` to its end
 */
export function plainTable(text: string, layout: Layout): PlainTable | undefined {
  if (text.includes('"') || !text.endsWith('\n')) return undefined;
  const columns = trimmedRow(layout.header).length;
  const delimiter = layout.delimiter.charCodeAt(0);
  const start = lineStart(text, layout.dataRow);
  const most = linesFrom(text, start);
  if (columns < 2 || most === 0) return undefined;
  const values = Array.from({ length: columns }, () => new Float64Array(most));
  let row = 0;
  let column = 0;
  let whole = 0;
  let digits = 0;
  // Digits behind the point; below zero: there is none yet.
  let point = -1;
  let first = -1;
  let isNegative = false;
  let isDone = false;
  let pointIsDecimal = false;
  for (let i = start; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code >= ZERO && code <= NINE) {
      if (isDone) return undefined;
      if (digits === 0) first = code;
      whole = 10 * whole + (code - ZERO);
      digits += 1;
      if (point >= 0) point += 1;
    } else if (code === delimiter || code === FEED) {
      if (digits === 0 || digits > MOST_EXACT_DIGITS || column >= columns) {
        const isEmpty = code === FEED && column === 0 && digits === 0 && point < 0 && !isNegative;
        // Empty lines behind the last row are none.
        if (isEmpty && isBlankFrom(text, i)) break;
        return undefined;
      }
      if (point >= 0 && row < STYLE_ROWS && !mayGroup(digits - point, point, first)) pointIsDecimal = true;
      const value = point < 0 ? whole : whole / POWERS_OF_TEN[point];
      values[column][row] = isNegative ? -value : value;
      whole = 0;
      digits = 0;
      point = -1;
      isNegative = false;
      isDone = false;
      column += 1;
      if (code === FEED) {
        if (column !== columns) return undefined;
        column = 0;
        row += 1;
      }
    } else if (code === POINT && point < 0 && !isDone) {
      point = 0;
    } else if (code === MINUS && digits === 0 && point < 0 && !isNegative) {
      isNegative = true;
    } else if (code === SPACE) {
      if (digits > 0) isDone = true;
      else if (isNegative || point >= 0) return undefined;
    } else return undefined;
  }
  return pointIsDecimal ? { count: row, values: values.map((v) => v.subarray(0, row)) } : undefined;
}

/** Whether a point could be a mark between thousands: “1.234”. */
const mayGroup = (before: number, behind: number, first: number): boolean =>
  behind === 3 && before >= 1 && before <= 3 && first !== ZERO;

const isBlankFrom = (text: string, from: number): boolean => {
  for (let i = from; i < text.length; i++) if (text.charCodeAt(i) !== FEED) return false;
  return true;
};
