import Papa from 'papaparse';
import { PullFileError } from '../base/errors.ts';
import { readHeader } from './columns.ts';
import { readUnit } from './unit-spellings.ts';
import { MAX_PREAMBLE_CHARS } from './limits.ts';
import { looksNumeric, looksMissing } from './numbers.ts';
import type { PullFile } from './pull-file-types.ts';

// ── Where the table is ──────────────────────────────────────────────────────
export interface Layout {
  delimiter: string;
  headerRow: number;
  unitsRow: number | null;
  dataRow: number;
  header: string[];
  units: string[];
  metadata: Record<string, string>;
}
export const DELIMITERS = [',', ';', '\t', '|'] as const;
/** How much of the file is looked at to find the table: a little first, more when a long preamble hides it. */
export const HEAD_CHARS = [12000, 200000] as const;
export const trimmedRow = (row: readonly string[]): string[] => {
  const cells = row.map((cell) => cell.trim());
  while (cells.length && cells.at(-1) === '') cells.pop();
  return cells;
};
export function parseRows(text: string, delimiter: string): string[][] {
  // Without quotes a table is its lines cut at the delimiter, as the parser would cut them.
  if (isUnquoted(text)) return text === '' ? [] : text.split('\n').map((line) => line.split(delimiter));
  const parsed = Papa.parse<string[]>(text, { delimiter });
  // A stray quote swallows what follows, up to the next one or the end: then quotes are ordinary characters here.
  // Without a quote no cell can hold a line end.
  if (!text.includes('"')) return parsed.data;
  return parsed.errors.some((e) => e.type === 'Quotes') || parsed.data.some(swallowsRows)
    ? Papa.parse<string[]>(text, { delimiter, quoteChar: '\u0000' }).data
    : parsed.data;
}
const isUnquoted = (text: string): boolean =>
  !text.includes('"') && !text.includes('\r') && !text.startsWith('\ufeff');
const swallowsRows = (row: readonly string[]): boolean => row.some((cell) => cell.includes('\n'));
export const isBlank = (row: readonly string[]): boolean => row.every((cell) => cell.trim() === '');
export function findLayout(text: string): Layout {
  const within = (chars: number) => {
    const head = text.length > chars ? text.slice(0, text.lastIndexOf('\n', chars) + 1 || chars) : text;
    // What stands nowhere parts nothing: a table has two columns at least.
    return DELIMITERS.filter((delimiter) => head.includes(delimiter))
      .map((delimiter) => layoutWith(parseRows(head, delimiter), delimiter))
      .filter((x) => x !== undefined)
      .sort((a, b) => b.score - a.score)[0];
  };
  const best = within(HEAD_CHARS[0]) ?? (text.length > HEAD_CHARS[0] ? within(HEAD_CHARS[1]) : undefined);
  if (!best) {
    throw new PullFileError(
      'NO_TABLE',
      'No table of numbers was found.',
      'A pull file has one header line that names the columns and one row ' +
        'of numbers a sample, separated by commas, semicolons, tabs or bars.',
    );
  }
  return best.layout;
}

/** Rows without the empty cells at their ends, each worked out when it is first looked at: few of a long file are. */
function trimmedWhenRead(raw: readonly string[][]): { readonly length: number; at(i: number): string[] } {
  const known: (string[] | undefined)[] = new Array<string[] | undefined>(raw.length);
  return { length: raw.length, at: (i) => (known[i] ??= trimmedRow(raw[i])) };
}

// eslint-disable-next-line max-lines-per-function -- one walk over the head of a file
export function layoutWith(
  raw: readonly string[][],
  delimiter: string,
): { layout: Layout; score: number } | undefined {
  const rows = trimmedWhenRead(raw);
  const numericShare = (row: readonly string[]): number => {
    const filled = row.filter((cell) => cell !== '');
    return filled.length === 0
      ? 0
      : filled.filter((cell) => looksNumeric(cell) || looksMissing(cell)).length / filled.length;
  };
  const isData = (row: readonly string[]): boolean =>
    row.length >= 2 && numericShare(row) >= 0.5 && row.some(looksNumeric);
  for (let i = 0; i < rows.length; i++) {
    const own = rows.at(i);
    if (!isData(own)) continue;
    const following = raw
      .slice(i + 1, i + 12)
      .map((_, k) => rows.at(i + 1 + k))
      .filter((row) => row.length > 0)
      .slice(0, 4);
    const above: number[] = [];
    for (let k = i - 1; k >= 0 && above.length < 2; k--) if (rows.at(k).length > 0) above.push(k);
    const [last, before] = above;
    // Cells that are empty at the end of a row are not counted: a logger that comes later leaves such rows.
    const most = last === undefined ? 0 : rows.at(last).length;
    const isAlike = (row: readonly string[]): boolean =>
      Math.abs(row.length - own.length) <= 1 || Math.max(row.length, own.length) <= most;
    const alike = following.filter((row) => isData(row) && isAlike(row)).length;
    if (following.length > 0 && alike < Math.ceil(following.length / 2)) continue;
    if (
      last === undefined ||
      rows.at(last).length < 2 ||
      rows.at(last).some((cell) => looksNumeric(cell) && !/[a-z]/i.test(cell))
    )
      return undefined;
    const unitish = (row: readonly string[]): boolean =>
      row
        .filter((cell) => cell !== '')
        .every((cell) => readUnit(cell) !== undefined || /^[([{].*[)\]}]$|^-$/.test(cell));
    const hasUnits =
      before !== undefined &&
      unitish(rows.at(last)) &&
      rows.at(before).length >= 2 &&
      Math.abs(rows.at(before).length - own.length) <= 1;
    const headerRow = hasUnits ? before : last;
    const header = rows.at(headerRow);
    const recognised = header.filter(
      (cell, k) => readHeader(cell, hasUnits ? rows.at(last)[k] : '').quantity,
    ).length;
    const metadata = preamble(raw.slice(0, headerRow), delimiter);
    return {
      layout: {
        delimiter,
        headerRow,
        unitsRow: hasUnits ? last : null,
        dataRow: i,
        header,
        units: hasUnits ? rows.at(last) : [],
        metadata,
      },
      score: recognised * 100 + header.length,
    };
  }
  return undefined;
}
/** Lines above the table that name a value: “Operator: …”, “# Cell = 2”. */
function preamble(lines: readonly string[][], delimiter: string): Record<string, string> {
  const metadata: Record<string, string> = {};
  for (const row of lines) {
    const line = row.join(delimiter).slice(0, MAX_PREAMBLE_CHARS);
    const at = line.search(/[:=]/);
    if (at < 0) continue;
    const name = trimmedOf(line.slice(0, at), '#; \t');
    const value = trimmedOf(line.slice(at + 1), ' \t', ',;|');
    if (name !== '' && name.length <= MAX_PREAMBLE_NAME && value !== '') metadata[name] = value;
  }
  return metadata;
}
const MAX_PREAMBLE_NAME = 60;
/** Without some marks around it: `start` in front, those of `end` and blanks behind. */
function trimmedOf(text: string, start: string, end = ''): string {
  let [from, to] = [0, text.length];
  while (from < to && start.includes(text[from])) from += 1;
  while (to > from && (' \t' + end).includes(text[to - 1])) to -= 1;
  return text.slice(from, to).trim();
}
/** How most lines of a file end. */
export function lineEndOf(text: string): PullFile['lineEnd'] {
  const head = text.slice(0, 20000);
  const pairs = head.split('\r\n').length - 1;
  const feeds = head.split('\n').length - 1;
  return pairs > 0 && 2 * pairs >= feeds ? 'CRLF' : feeds > 0 ? 'LF' : 'CR';
}
/** How many cells the rows of a table usually have: a column that is empty throughout is not missing from the last one. */
export function usualLength(rows: readonly string[][], layout: Layout, last: number): number {
  const counts = new Map<number, number>();
  for (let i = Math.max(layout.dataRow, last - 60); i < last; i++)
    if (!isBlank(rows[i])) counts.set(rows[i].length, (counts.get(rows[i].length) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? layout.header.length;
}
