/** Rows of air readings as they come out of a spreadsheet or a file, and where they go in the table. */
import { AIR_COLUMNS, type AirColumn } from './air-columns.ts';

export interface Pasted {
  /** Row of the table it goes to. */ readonly row: number;
  readonly column: AirColumn;
  readonly text: string;
}

/** What a head of a column says it holds. */
const HEADS: readonly (readonly [AirColumn | 'label', RegExp])[] = [
  ['humidity', /hum|\brh\b|dew|wet.?bulb/i],
  ['temperature', /temp|^t\b/i],
  ['pressure', /press|baro|^p\b/i],
  ['label', /^(pull|label|id)\b/i],
];
interface Head {
  readonly meant: AirColumn | 'label' | undefined;
  /** Unit in brackets after the head: it goes with every number below it. */ readonly unit: string;
}
const headOf = (head: string): Head => ({
  meant: HEADS.find(([, words]) => words.test(head.trim()))?.[0],
  unit: /[([]\s*([^()[\]]{1,8}?)\s*[)\]]\s*$/.exec(head)?.[1] ?? '',
});

/**
 * Cells of a line: tabs and semicolons part them; commas, too, where they stand between numbers with decimal points or
 * between as many as a row has, never inside a number with a decimal comma.
 */
export function cellsOf(line: string): string[] {
  const cells = line.split(/[\t;]/);
  if (cells.length > 1) return cells.map((cell) => cell.trim());
  const byComma = line.split(',');
  const looksParted =
    byComma.length >= 3 ||
    (byComma.length === 2 && byComma.some((cell) => /[.\s]|[^\d\s]/.test(cell.trim())));
  return (looksParted ? byComma : [line]).map((cell) => cell.trim().replace(/^"(.*)"$/, '$1'));
}

/**
 * Where pasted rows go: downwards and to the right from a cell; with a line of heads by what the heads say, and with a
 * column of labels to the pulls they name.
 *
 * @param labels of the pulls, in the order of the table
 * @returns nothing for a single value, which is pasted as usual
 */
export function pastedRows(
  text: string,
  row: number,
  column: number,
  labels: readonly string[],
): Pasted[] | undefined {
  const lines = text
    .split(/\r?\n/)
    .filter((line) => line.trim() !== '')
    .map(cellsOf);
  if (lines.length === 0 || (lines.length === 1 && lines[0].length === 1)) return undefined;
  const heads = lines[0].map(headOf);
  const hasHead = heads.some(({ meant }) => meant) && lines[0].every((cell) => !/^[\d−+-]/.test(cell));
  const body = hasHead ? lines.slice(1) : lines;
  const rowOf = (label: string): number | undefined => {
    const found = labels.findIndex((known) => known.toLowerCase() === label.toLowerCase());
    return found < 0 ? undefined : found;
  };
  // Without heads a first column that names pulls is one of labels.
  const named = !hasHead && body.every(([first]) => rowOf(first) !== undefined);
  const plain = (meant: AirColumn | 'label'): Head => ({ meant, unit: '' });
  const order: readonly Head[] = hasHead
    ? heads
    : [...(named ? [plain('label')] : []), ...AIR_COLUMNS.slice(named ? 0 : column).map(plain)];
  const label = order.findIndex(({ meant }) => meant === 'label');
  return body.flatMap((cells, i) => {
    const at = label < 0 ? row + i : rowOf(cells[label] ?? '');
    if (at === undefined || at >= labels.length) return [];
    return cells.flatMap((cell, k): Pasted[] => {
      const { meant, unit } = order[k] ?? {};
      if (meant === undefined || meant === 'label' || cell === '') return [];
      return [{ row: at, column: meant, text: unit ? `${cell} ${unit}` : cell }];
    });
  });
}
