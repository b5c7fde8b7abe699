/** Numbers as loggers and spreadsheets write them. */
import { MAX_NUMBER_CHARS } from './limits.ts';

export interface NumberStyle {
  readonly decimal: '.' | ',';
  readonly thousands: string;
}

const NUMERIC = /^[+-]?(?:\d[\d.,'’\u0020\u00a0\u202f]*|[.,]\d+)(?:[eE][+-]?\d+)?\s*%?$/;
const CLOCK = /^(?:(\d{1,3}):)?(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)$/;

/** A time stamp with its date, as ISO 8601 writes it; the zone does not matter where only differences count. */
const STAMP = /^(\d{4})-(\d{2})-(\d{2})[T ](\d{2}):(\d{2}):(\d{2}(?:[.,]\d+)?)(?:Z|[+-]\d{2}:?\d{2})?$/;

/** Whether a cell looks like a number in any style (or a time of day, or a time stamp). */
export const looksNumeric = (cell: string): boolean =>
  cell.length <= MAX_NUMBER_CHARS && (NUMERIC.test(cell) || CLOCK.test(cell) || STAMP.test(cell));
/** Whether a cell says that there is no reading. */
export const looksMissing = (cell: string): boolean =>
  cell.length <= MAX_NUMBER_CHARS && /^(?:|-+|n\/?a|nan|null|none|\*+|#n\/a|inf|-inf)$/i.test(cell);

/**
 * Tells decimal point from decimal comma over a sample of cells. A mark followed by anything but three
 * digits is a decimal mark; where both marks occur in one cell the last is. Marks that only ever group
 * three digits are thousands marks when the other mark is the decimal one, and when reading them as
 * decimals would leave no engine speed (`implausible` decides).
 */
export function numberStyle(
  cells: readonly string[],
  delimiter: string,
  implausible: (style: NumberStyle) => boolean,
): NumberStyle {
  let point = 0,
    comma = 0,
    pointGroups = 0,
    commaGroups = 0,
    spaces = false,
    apostrophes = false;
  for (const cell of cells) {
    if (/\d[\u0020\u00a0\u202f]\d{3}/.test(cell)) spaces = true;
    if (/\d['’]\d{3}/.test(cell)) apostrophes = true;
    const lastPoint = cell.lastIndexOf('.'),
      lastComma = cell.lastIndexOf(',');
    if (lastPoint >= 0 && lastComma >= 0) {
      if (lastPoint > lastComma) point += 1;
      else comma += 1;
      continue;
    }
    if (lastPoint >= 0) {
      if (/^[+-]?[1-9]\d{0,2}(\.\d{3})+$/.test(cell)) pointGroups += 1;
      else point += 1;
    }
    if (lastComma >= 0) {
      if (/^[+-]?[1-9]\d{0,2}(,\d{3})+$/.test(cell)) commaGroups += 1;
      else comma += 1;
    }
  }
  const blank = spaces ? ' ' : apostrophes ? "'" : '';
  let decimal: '.' | ',' = '.';
  if (comma > point) decimal = ',';
  else if (point === 0 && comma === 0 && commaGroups > pointGroups && delimiter !== ',') decimal = ',';
  const style: NumberStyle = {
    decimal,
    thousands: (decimal === '.' ? commaGroups : pointGroups) > 0 ? (decimal === '.' ? ',' : '.') : blank,
  };
  if (point === 0 && comma === 0 && implausible(style)) {
    const other: NumberStyle =
      decimal === '.' ? { decimal: ',', thousands: '.' } : { decimal: '.', thousands: ',' };
    if (!implausible(other)) return other;
  }
  return style;
}

/** A comma in a file with decimal points that groups thousands; any other can only be a decimal mark. */
const GROUPED: Record<'.' | ',', RegExp> = {
  '.': /^[+-]?\d{1,3}(,\d{3})+(\.\d+)?(e[+-]?\d+)?$/i,
  ',': /^[+-]?\d{1,3}(\.\d{3})+(,\d+)?(e[+-]?\d+)?$/i,
};
/** Whether a cell has the other decimal mark where the file's own would stand: “210,5” among “210.5”. */
export function hasOtherDecimal(cell: string, style: NumberStyle): boolean {
  const [own, other] = style.decimal === '.' ? ['.', ','] : [',', '.'];
  if (cell.length > MAX_NUMBER_CHARS || !cell.includes(other)) return false;
  const text = cell.trim();
  return !text.includes(own) && NUMERIC.test(text) && !GROUPED[style.decimal].test(text);
}

/**
 * A reader of cells in one style; NaN for what is not a number. A clock time is given in seconds, a time stamp in
 * seconds since 1970. A mark that cannot group thousands is a decimal mark, whatever the rest of the file uses.
 */
export function numberReader(style: NumberStyle): (cell: string) => number {
  const plain = style.decimal === '.' && style.thousands === '';
  const strip = style.decimal === '.' ? /[,'’\u0020\u00a0\u202f]/g : /[.'’\u0020\u00a0\u202f]/g;
  return (cell) => {
    if (plain) {
      // Number('') and Number(' ') are 0: an empty cell must not become a reading.
      const quick = Number(cell);
      if (quick === 0 && cell.trim() === '') return NaN;
      // Number() also takes 0x10 and Infinity; a logger means neither as a reading.
      if (Number.isFinite(quick) && !/[xob]/i.test(cell)) return quick;
    }
    if (cell.length > MAX_NUMBER_CHARS) return NaN;
    let text = cell.trim();
    if (text === '') return NaN;
    const clock = CLOCK.exec(text);
    if (clock)
      return Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3].replace(',', '.'));
    const stamp = STAMP.exec(text);
    if (stamp) {
      const [y, mo, d, h, mi] = stamp.slice(1, 6).map(Number) as [number, number, number, number, number];
      return Date.UTC(y, mo - 1, d, h, mi) / 1000 + Number(stamp[6].replace(',', '.'));
    }
    if (!NUMERIC.test(text)) return NaN;
    if (hasOtherDecimal(text, style)) return Number(text.replace(/[\s'’]/g, '').replace(',', '.'));
    if (text.endsWith('%')) text = text.slice(0, -1).trim();
    text = text.replace(strip, '');
    if (style.decimal === ',') text = text.replace(',', '.');
    const value = Number(text);
    // “1e400” is a number nobody measured.
    return Number.isFinite(value) ? value : NaN;
  };
}
