/**
 * A number as a person types it: decimal comma or point, thin or plain blanks and apostrophes between thousands, a true
 * minus, the unit after it. What is no number is told with what does not belong; nothing is dropped to make it one.
 */

/** A unit that may stand after the number, as it may be written, and what a value in it is in the field's own. */
export interface TypedUnit {
  readonly names: readonly string[];
  /** Left out: it is the field's own unit. */ readonly toField?: (value: number) => number;
}
export type Typed =
  | { readonly is: 'empty' }
  | { readonly is: 'number'; readonly value: number }
  | { readonly is: 'wrong'; readonly why: string };

const BLANK = /[\s\u00a0\u2009\u202f\u2007]/g;
const MINUS = /^[-\u2212\u2012\u2013]/;
/** Longer than any number people type. */
const MOST = 40;

const wrong = (why: string): Typed => ({ is: 'wrong', why });
const plain = (text: string): string => text.normalize('NFKC').replace(BLANK, '').toLowerCase();

/** Parts the number from the unit after it; undefined where what stands after it is no unit of the field. */
function withoutUnit(
  text: string,
  units: readonly TypedUnit[],
): { digits: string; toField: (value: number) => number } | { stray: string } {
  const end = /[^\d.,'’\s]*\s*$/u;
  // A unit may hold digits or a point (m², N·m, in Hg): the longest name the text ends with is it.
  const tail = plain(text);
  const named = units
    .flatMap(({ names, toField }) => names.map((name) => ({ name: plain(name), toField })))
    .filter(({ name }) => name !== '' && tail.endsWith(name))
    .sort((a, b) => b.name.length - a.name.length)[0];
  if (named) {
    const digits = tail.slice(0, tail.length - named.name.length);
    // Blanks between thousands matter for what is left: take them from the text as it was typed.
    let left = text.trimEnd();
    while (plain(left) !== digits && left.length > 0) left = left.slice(0, -1);
    return { digits: left.trim(), toField: named.toField ?? ((value) => value) };
  }
  const stray = (end.exec(text)?.[0] ?? '').trim();
  return stray === '' || MINUS.test(stray) ? { digits: text.trim(), toField: (value) => value } : { stray };
}

/** Blanks and apostrophes part thousands, and nothing else. */
const GROUPED = /^\d{1,3}(?:[\s'’]\d{3})+$/;
function wholePart(text: string, mark: string | undefined): string | undefined {
  const inGroups = mark === undefined ? text : text.split(mark).join(' ');
  if (/^\d*$/.test(inGroups)) return inGroups;
  return GROUPED.test(inGroups) ? inGroups.replace(/[\s'’]/g, '') : undefined;
}

/** @param units units that may stand after the number; without any a unit after it is refused */
export function typedNumber(typed: string, units: readonly TypedUnit[] = []): Typed {
  const text = typed.replace(/[\u00a0\u2009\u202f\u2007]/g, ' ').trim();
  if (text === '') return { is: 'empty' };
  if (text.length > MOST) return wrong(`“${text.slice(0, MOST)}…” is longer than any number.`);
  const parted = withoutUnit(text, units);
  if ('stray' in parted) {
    const known = units.map(({ names }) => names[0]).join(', ');
    return wrong(
      `“${text}” is no number: “${parted.stray}” does not belong.` + (known ? ` Write it in ${known}.` : ''),
    );
  }
  const isNegative = MINUS.test(parted.digits);
  const digits = parted.digits.replace(MINUS, '').replace(/^\+/, '').trim();
  const bad = /[^\d.,'’\s]/u.exec(digits)?.[0];
  if (bad !== undefined) return wrong(`“${text}” is no number: “${bad}” does not belong.`);
  const value = valueOf(digits);
  if (value === undefined) return wrong(`“${text}” is no number: write it as 1234.5.`);
  if (value === 'either')
    return wrong(
      `“${text}” may be read in two ways: write ${digits.replace(',', '')} or ${digits.replace(',', '.')}.`,
    );
  const own = isNegative && value !== 0 ? -value : value;
  return { is: 'number', value: parted.toField(own) };
}

/** Value of digits with their marks; `either` where a comma may be a decimal comma or part thousands. */
function valueOf(digits: string): number | 'either' | undefined {
  const [point, comma] = [digits.lastIndexOf('.'), digits.lastIndexOf(',')];
  const count = (mark: string): number => digits.split(mark).length - 1;
  let decimal: '.' | ',' | undefined;
  let thousands: string | undefined;
  if (point >= 0 && comma >= 0) {
    decimal = point > comma ? '.' : ',';
    thousands = decimal === '.' ? ',' : '.';
  } else if (point >= 0 || comma >= 0) {
    const mark = point >= 0 ? '.' : ',';
    if (count(mark) > 1) thousands = mark;
    else decimal = mark;
  }
  if (decimal && count(decimal) > 1) return undefined;
  if (decimal === ',' && thousands === undefined && /^[1-9]\d{0,2},\d{3}$/.test(digits)) return 'either';
  const [whole, rest = ''] = decimal ? digits.split(decimal) : [digits];
  const read = wholePart(whole, thousands);
  if (read === undefined || !/^\d*$/.test(rest) || read + rest === '') return undefined;
  return Number(`${read === '' ? '0' : read}.${rest === '' ? '0' : rest}`);
}
