import { PullFileError } from '../base/errors.ts';
import { UNITS, type Unit } from '../base/units.ts';
import { type ColumnGuess, readHeader, TOLD_BY } from './columns.ts';
import {
  DIMENSION_OF,
  QUANTITY_NAMES,
  quantityOfKey,
  type ColumnKey,
  type Quantity,
} from '../base/quantities.ts';
import { mayBeReading } from './header-words.ts';
import { readUnit } from './unit-spellings.ts';
import { numberStyle, numberReader, looksNumeric, type NumberStyle, looksMissing } from './numbers.ts';
import type { ColumnChoice, FoundColumn, PullFileOptions } from './pull-file-types.ts';
import type { PlainTable } from './plain-table.ts';
import type { Layout } from './pull-layout.ts';

// ── What the columns are ────────────────────────────────────────────────────
export interface Resolved {
  all: FoundColumn[];
  used: Map<Quantity, { index: number; unit: Unit | null; header: string; gauge?: boolean | undefined }>;
  style: NumberStyle;
  /** Columns that somebody said hold something else than their name says. */
  renamed: { header: string; quantity: Quantity; byName: Quantity | null }[];
  /** Columns whose stated unit somebody has overruled. */
  overruled: { header: string; stated: string; read: string }[];
  /** Columns whose name and unit cannot both be right, as they stand in the file. */
  contradicted: { header: string; unit: string; quantity: Quantity }[];
  /** Channels that two columns could be: neither is used until somebody says which. */
  several: { quantity: Quantity; columns: string[] }[];
}
/** What a comparison cannot do without: two columns that could be it are asked for. */
const DECISIVE: readonly Quantity[] = ['engineSpeed', 'torque', 'power'];
/** Quantities whose unit changes the result: asked for when the file does not say. */
export const UNIT_MATTERS: readonly Quantity[] = ['torque', 'power', 'rollerForce', 'rollerSpeed'];
export const unitsFor = (quantity: Quantity): string =>
  Object.values(UNITS)
    .filter((u) => u.id && DIMENSION_OF[quantity].includes(u.dimension))
    .map((u) => u.id)
    .join(', ');
export function findColumn(
  guesses: readonly ColumnGuess[],
  header: readonly string[],
  wanted: string,
): number {
  const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();
  const exact = header.findIndex((cell) => same(cell, wanted));
  if (exact >= 0) return exact;
  const byName = guesses.findIndex((guess) => same(guess.header.replace(/\s*[[({].*$/, ''), wanted));
  return byName >= 0 ? byName : guesses.findIndex((guess) => same(guess.name, wanted));
}
const PLAIN_STYLE: NumberStyle = { decimal: '.', thousands: '' };
/** Rows of a table that tell how numbers are written in it. */
export const STYLE_ROWS = 120;
const guessesOf = (layout: Layout): ColumnGuess[] =>
  layout.header.map((cell, i) => readHeader(cell, layout.units[i] ?? ''));
export function styleOf(
  layout: Layout,
  rows: readonly string[][],
  guesses: readonly ColumnGuess[],
): NumberStyle {
  const sample = rows.slice(layout.dataRow, layout.dataRow + STYLE_ROWS);
  const cells = sample.flatMap((row) => row.map((cell) => cell.trim()).filter(looksNumeric));
  const speed = guesses.findIndex((guess) => guess.quantity === 'engineSpeed');
  return numberStyle(cells, layout.delimiter, (style) => {
    if (speed < 0) return false;
    const read = numberReader(style);
    return !(Math.max(...sample.map((row) => read((row[speed] ?? '').trim())).filter(Number.isFinite)) > 100);
  });
}
/** No recording of one pull lasts longer, in seconds; the shortest in milliseconds is above it. Common practice. */
export const LONGEST_PULL_S = 900;
// ── The samples ─────────────────────────────────────────────────────────────
/** A channel with fewer readings than this share of another's was logged more slowly. */
export const SPARSE = 0.9;
export function readingsIn(rows: readonly string[][], from: number, column: number): number {
  let n = 0;
  for (let i = from; i < rows.length; i++) if (!looksMissing((rows[i][column] ?? '').trim())) n += 1;
  return n;
}
/** Columns by what they look like. One told less surely gives way. */
function candidates(guesses: readonly ColumnGuess[], chosen: ReadonlySet<number>): Map<Quantity, number[]> {
  const found = new Map<Quantity, number[]>();
  for (const by of TOLD_BY) {
    const known = new Set(found.keys());
    guesses.forEach((guess, index) => {
      if (!guess.quantity || guess.by !== by || chosen.has(index) || known.has(guess.quantity)) return;
      found.set(guess.quantity, [...(found.get(guess.quantity) ?? []), index]);
    });
  }
  return found;
}
// eslint-disable-next-line max-lines-per-function -- questions in the order they are asked; each answer narrows the next
export function resolveColumns(
  layout: Layout,
  rows: readonly string[][],
  options: PullFileOptions,
  plain?: PlainTable,
): Resolved {
  const guesses = guessesOf(layout);
  const where = { line: layout.headerRow + 1 };
  const style = plain ? PLAIN_STYLE : styleOf(layout, rows, guesses);
  const used: Resolved['used'] = new Map();
  const unitFrom = new Map<number, FoundColumn['unitFrom']>();
  const chosen = new Set<number>();
  const overruled: Resolved['overruled'] = [];
  const renamed: Resolved['renamed'] = [];
  for (const [key, choice] of Object.entries(options.columns ?? {}) as [
    ColumnKey,
    ColumnChoice | undefined,
  ][]) {
    if (!choice) continue;
    const quantity = quantityOfKey(key);
    const index = findColumn(guesses, layout.header, choice.column);
    if (index < 0) {
      throw new PullFileError(
        'COLUMN_NOT_FOUND',
        `There is no column “${choice.column}” for ${QUANTITY_NAMES[quantity]}.`,
        `The columns are: ${layout.header.filter(Boolean).join(', ')}.`,
        where,
      );
    }
    let unit =
      guesses[index].unit && DIMENSION_OF[quantity].includes(guesses[index].unit.dimension)
        ? guesses[index].unit
        : null;
    unitFrom.set(index, unit ? 'file' : null);
    if (choice.unit !== undefined) {
      const named = UNITS[choice.unit] ?? readUnit(choice.unit)?.unit;
      if (!named || !DIMENSION_OF[quantity].includes(named.dimension)) {
        throw new PullFileError(
          'UNIT_UNKNOWN',
          `“${choice.unit}” is not a unit of ${QUANTITY_NAMES[quantity]}.`,
          `Use one of: ${unitsFor(quantity)}.`,
          { ...where, column: choice.column },
        );
      }
      if (unit && unit.id !== named.id)
        overruled.push({ header: layout.header[index], stated: unit.id, read: named.id });
      unit = named;
      unitFrom.set(index, 'caller');
    }
    const byName = guesses[index].quantity ?? null;
    if (byName === null ? !mayBeReading(guesses[index].name, 'other') : byName !== quantity)
      renamed.push({ header: layout.header[index], quantity, byName });
    used.set(quantity, { index, unit, header: layout.header[index] });
    chosen.add(index);
  }
  const several: Resolved['several'] = [];
  for (const [quantity, indices] of candidates(guesses, chosen)) {
    if (used.has(quantity)) continue;
    if (indices.length > 1) {
      const columns = indices.map((i) => guesses[i].header);
      if (DECISIVE.includes(quantity))
        throw new PullFileError(
          'AMBIGUOUS_COLUMNS',
          `${columns.map((c) => `“${c}”`).join(' and ')} ` +
            `${indices.length === 2 ? 'both' : 'all'} look like ${QUANTITY_NAMES[quantity]}.`,
          'Say which one to use.',
          where,
          { quantity, columns },
        );
      several.push({ quantity, columns });
      continue;
    }
    const [index] = indices;
    const guess = guesses[index];
    used.set(quantity, { index, unit: guess.unit ?? null, header: guess.header, gauge: guess.gauge });
    unitFrom.set(index, guess.unit ? 'file' : null);
  }
  // Who names power and not torque (or the other way round) means that one alone.
  if (options.columns?.power && !options.columns.torque) used.delete('torque');
  if (options.columns?.torque && !options.columns.power) used.delete('power');
  settleUnits(layout, rows, used, unitFrom, style, plain);
  requireColumns(layout, used, options);
  const quantityAt = new Map([...used].map(([quantity, { index }]) => [index, quantity]));
  const all = guesses.map((guess, index): FoundColumn => {
    const quantity = quantityAt.get(index);
    const unit = quantity ? used.get(quantity)!.unit : (guess.unit ?? null);
    return {
      index,
      header: guess.header,
      quantity: quantity ?? null,
      unit: unit?.id ?? null,
      unitFrom: unitFrom.get(index) ?? (unit ? 'file' : null),
      ...(guess.gauge === undefined ? {} : { gauge: guess.gauge }),
    };
  });
  const contradicted = guesses.flatMap(({ stray, quantity }, index) =>
    stray && quantity ? [{ header: layout.header[index], unit: stray.id, quantity }] : [],
  );
  return { all, used, style, renamed, overruled, contradicted, several };
}
/** Fills in units that the values decide beyond doubt, and asks for those that matter and cannot be told. */

// eslint-disable-next-line max-lines-per-function -- questions in the order they are asked; each answer narrows the next
export function settleUnits(
  layout: Layout,
  rows: readonly string[][],
  used: Resolved['used'],
  unitFrom: Map<number, FoundColumn['unitFrom']>,
  style: NumberStyle,
  plain?: PlainTable,
): void {
  const read = numberReader(style);
  const largest = (index: number): number => {
    let max = -Infinity;
    if (plain) {
      for (const v of plain.values[index]) if (v > max) max = v;
      return max;
    }
    for (let i = layout.dataRow; i < rows.length; i++) {
      const v = read((rows[i][index] ?? '').trim());
      if (v > max) max = v;
    }
    return max;
  };
  const span = (index: number): number => {
    let least = Infinity;
    if (plain) {
      for (const v of plain.values[index]) if (v < least) least = v;
      return largest(index) - least;
    }
    for (let i = layout.dataRow; i < rows.length; i++) {
      const v = read((rows[i][index] ?? '').trim());
      if (v < least) least = v;
    }
    return largest(index) - least;
  };
  const speed = used.get('engineSpeed');
  if (speed && !speed.unit) {
    const max = largest(speed.index);
    if (!(max >= 500 && max <= 25000)) {
      throw new PullFileError(
        'UNIT_UNKNOWN',
        `The unit of engine speed is not stated and its values (up to ${max}) are not rpm.`,
        `Say which it is: ${unitsFor('engineSpeed')}.`,
        { line: layout.headerRow + 1, column: speed.header },
        { quantity: 'engineSpeed' },
      );
    }
    speed.unit = UNITS.rpm!;
    unitFrom.set(speed.index, 'values');
  }
  const time = used.get('time');
  if (time && !time.unit) {
    // A session clock may stand at any number: how long the recording lasted tells seconds from milliseconds.
    time.unit = span(time.index) < LONGEST_PULL_S ? UNITS.s : UNITS.ms;
    unitFrom.set(time.index, 'values');
  }
  for (const quantity of ['humidity', 'throttle'] as const) {
    const column = used.get(quantity);
    if (!column || column.unit) continue;
    // A share never passes one, per cent of a full throttle or of damp air always does.
    column.unit = largest(column.index) <= 1.05 ? UNITS.share : UNITS['%'];
    unitFrom.set(column.index, 'values');
  }
  for (const quantity of UNIT_MATTERS) {
    const column = used.get(quantity);
    if (!column || column.unit) continue;
    // Torque without a unit does no harm where power with one is there to work from, and the other way round.
    const other =
      quantity === 'torque' ? used.get('power') : quantity === 'power' ? used.get('torque') : undefined;
    if (
      other?.unit ||
      ((quantity === 'rollerForce' || quantity === 'rollerSpeed') &&
        (used.get('torque')?.unit || used.get('power')?.unit))
    ) {
      used.delete(quantity);
      continue;
    }
    throw new PullFileError(
      'UNIT_UNKNOWN',
      `The unit of ${QUANTITY_NAMES[quantity]} is not stated.`,
      `Say which it is: ${unitsFor(quantity)}.`,
      { line: layout.headerRow + 1, column: column.header },
      { quantity, column: column.header },
    );
  }
}
export function requireColumns(layout: Layout, used: Resolved['used'], options: PullFileOptions): void {
  const where = { line: layout.headerRow + 1 };
  const names = layout.header.filter(Boolean).join(', ');
  // A log may do without: its clock tells where it belongs.
  const hasClock = options.torque === 'optional' && used.has('time') && used.size > 1;
  if (!hasClock && !used.has('engineSpeed') && !(used.has('vehicleSpeed') && options.rpmPerKmh)) {
    throw new PullFileError(
      'NO_ENGINE_SPEED',
      'No column holds engine speed, and there is no way to work it out.',
      `Name the column, or log engine speed with the pull. The columns are: ${names}.`,
      where,
      { columns: layout.header },
    );
  }
  if (
    options.torque !== 'optional' &&
    !used.has('torque') &&
    !used.has('power') &&
    !(used.has('rollerForce') && (used.has('rollerSpeed') || used.has('vehicleSpeed')))
  ) {
    throw new PullFileError(
      'NO_TORQUE_NOR_POWER',
      'No column holds torque or power, nor roller force with roller speed.',
      'Name the column, or export torque or power with the pull; the log of an engine is joined to the pull ' +
        `it belongs to. The columns are: ${names}.`,
      where,
      { columns: layout.header },
    );
  }
}
