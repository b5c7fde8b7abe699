/**
 * Reads the file of a weather station: delimited text or JSON lines with time, temperature, pressure and humidity.
 * Says what it found; asks (by a typed error) for what the file does not say and the number hangs on: whether the
 * pressure is the station's or reduced to sea level, which of two columns is meant, which way round a date is.
 */
import { AirError, PullFileError } from '../base/errors.ts';
import { nextDay } from '../base/site-time.ts';
import { decodeText, withPlainLineEnds, type Encoding } from '../base/text.ts';
import { toInternal, type Unit } from '../base/units.ts';
import { readAirHeader, type AirColumn, type AirQuantity } from './air-columns.ts';
import type { AirReading, Humidity } from './air-reading.ts';
import { momentAt, clockSeconds, dayIn, readMoment, slashedOrder, type SlashedOrder } from './moments.ts';
import { looksMissing, looksNumeric, numberReader, numberStyle } from './numbers.ts';
import { findLayout, parseRows, isBlank } from './pull-layout.ts';
import { recordedIn } from './recorded.ts';
import { refuseCells, refuseLines } from './shape.ts';

export const MAX_AIR_FILE_BYTES = 5 * 1024 * 1024;
const DAY_S = 86_400;

export interface AirFileOptions {
  readonly file?: string;
  /** Zone of the site's clock: what a stamp without a zone means. */
  readonly timeZone: string;
  /** Said by a person where the file does not say. */
  readonly pressureKind?: 'station' | 'sea level' | undefined;
  /** Header of the temperature to use, where there are several. */
  readonly temperature?: string | undefined;
  /** How far the station's clock is ahead of the site's, s. */
  readonly clockAheadS?: number | undefined;
}
/** One reading of the station; `at` in ms since 1970. */
export interface StationReading extends Omit<AirReading, 'siteHeightM'> {
  readonly at: number;
  readonly line: number;
}
export interface AirFile {
  readonly encoding: Encoding;
  readonly layout: 'table' | 'JSON lines';
  readonly columns: readonly {
    readonly header: string;
    readonly quantity: AirQuantity | null;
    readonly unit: string | null;
  }[];
  readonly pressureKind: 'station' | 'sea level';
  /** In the order of their time. */
  readonly readings: readonly StationReading[];
  readonly findings: readonly {
    readonly code: AirFileFinding;
    readonly message: string;
    readonly line?: number;
  }[];
}
export type AirFileFinding = 'READINGS_LEFT_OUT' | 'TIME_NOT_RISING' | 'SEVERAL_HUMIDITIES';

interface Table {
  readonly layout: AirFile['layout'];
  readonly header: readonly string[];
  readonly units: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** Line in the file of each row. */
  readonly lines: readonly number[];
  readonly metadata: Readonly<Record<string, string>>;
  readonly delimiter: string;
}

const unreadable = (what: string, action: string, where = {}, details = {}): AirError =>
  new AirError('AIR_FILE_UNREADABLE', what, action, where, details);

/** Throws `AirError`; never returns half a file. */
export function readAirFile(bytes: Uint8Array, options: AirFileOptions): AirFile {
  try {
    return read(bytes, options);
  } catch (error) {
    const said =
      error instanceof PullFileError
        ? unreadable(error.what, error.action, error.where, { code: error.code })
        : error;
    throw said instanceof AirError && options.file ? said.at({ file: options.file }) : said;
  }
}

function read(bytes: Uint8Array, options: AirFileOptions): AirFile {
  if (bytes.length > MAX_AIR_FILE_BYTES)
    throw unreadable(
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; the file of a station may have 5 MB.`,
      'Export the day of the session only.',
    );
  const decoded = decodeText(bytes);
  const text = withPlainLineEnds(decoded.text);
  refuseLines(text);
  const table = /^\s*\{/.test(text) ? jsonTable(text) : delimitedTable(text);
  const columns = table.header.map((cell, i) => readAirHeader(cell, table.units[i] ?? '', i));
  const used = chosenColumns(columns, options);
  const { readings, findings } = readingsOf(table, used, options);
  return {
    encoding: decoded.encoding,
    layout: table.layout,
    columns: columns.map(({ header, quantity, unit }) => ({ header, quantity, unit: unit?.id ?? null })),
    pressureKind: used.pressureKind,
    readings,
    findings: [...used.findings, ...findings],
  };
}

// ── The table ───────────────────────────────────────────────────────────────
function delimitedTable(text: string): Table {
  const layout = findLayout(text);
  refuseCells(text, layout.delimiter);
  const all = parseRows(text, layout.delimiter);
  const kept = all.flatMap((row, i) => (i >= layout.dataRow && !isBlank(row) ? [i] : []));
  return {
    layout: 'table',
    header: layout.header,
    units: layout.units,
    rows: kept.map((i) => all[i]),
    lines: kept.map((i) => i + 1),
    metadata: layout.metadata,
    delimiter: layout.delimiter,
  };
}
/** One object a line; nested objects give names joined by blanks. */
function jsonTable(text: string): Table {
  const header: string[] = [];
  const rows: string[][] = [];
  const lines: number[] = [];
  text.split('\n').forEach((line, i) => {
    if (line.trim() === '') return;
    const row: string[] = [];
    for (const [name, value] of Object.entries(flat(parsed(line, i + 1)))) {
      if (!header.includes(name)) header.push(name);
      row[header.indexOf(name)] = value;
    }
    rows.push(Array.from(row, (cell) => cell ?? ''));
    lines.push(i + 1);
  });
  return { layout: 'JSON lines', header, units: [], rows, lines, metadata: {}, delimiter: '' };
}
function parsed(line: string, at: number): object {
  try {
    const value: unknown = JSON.parse(line);
    if (value !== null && typeof value === 'object' && !Array.isArray(value)) return value;
  } catch {
    // Told below with the line it is in.
  }
  throw unreadable('The line is not a JSON object.', 'Write one object a line, as the station gives them.', {
    line: at,
  });
}
const MOST_NESTED = 3;
function flat(value: object, before = '', depth = 0): Record<string, string> {
  const out: Record<string, string> = {};
  for (const [key, item] of Object.entries(value as Record<string, unknown>)) {
    const name = before ? `${before} ${key}` : key;
    if (item !== null && typeof item === 'object') {
      if (depth < MOST_NESTED) Object.assign(out, flat(item, name, depth + 1));
    } else if (typeof item === 'string' || typeof item === 'number') out[name] = String(item);
  }
  return out;
}

// ── Which column is which ───────────────────────────────────────────────────
interface Chosen {
  readonly at:
    (AirColumn & { readonly date?: AirColumn }) | { readonly date: AirColumn; readonly clock: AirColumn };
  readonly temperature: AirColumn & { readonly unit: Unit };
  readonly pressure: AirColumn & { readonly unit: Unit };
  readonly humidity: AirColumn & { readonly unit: Unit };
  readonly pressureKind: 'station' | 'sea level';
  readonly findings: AirFile['findings'];
}
const withUnit = (column: AirColumn, what: string, units: string): AirColumn & { readonly unit: Unit } => {
  if (column.unit) return { ...column, unit: column.unit };
  throw unreadable(`The unit of ${what} is not stated.`, `Write it into the header: ${units}.`, {
    column: column.header,
  });
};
/** The one column of its kind, where several could be meant those elsewhere are left out first. */
function theOne(columns: readonly AirColumn[], what: string, wanted?: string): AirColumn {
  const named = wanted === undefined ? undefined : columns.find((c) => c.header === wanted);
  if (named) return named;
  const here = columns.filter((c) => !c.elsewhere);
  const left = here.length > 0 ? here : columns;
  if (left.length === 1) return left[0];
  const names = columns.map((c) => c.header);
  if (left.length === 0)
    throw unreadable(`No column holds ${what}.`, `Export ${what} with the readings.`, {});
  throw unreadable(
    `${names.map((n) => `“${n}”`).join(' and ')} could each be ${what}.`,
    'Say which one is taken where the engine breathes.',
    {},
    { columns: names },
  );
}
function chosenColumns(columns: readonly AirColumn[], options: AirFileOptions): Chosen {
  const of = (quantity: AirQuantity): AirColumn[] => columns.filter((c) => c.quantity === quantity);
  const temperature = theOne(of('temperature'), 'the air temperature', options.temperature);
  const atSite = of('pressure').filter((c) => c.pressureKind === 'station');
  const pressure = theOne(atSite.length > 0 ? atSite : of('pressure'), 'the pressure');
  const pressureKind = pressure.pressureKind ?? options.pressureKind;
  if (!pressureKind)
    throw unreadable(
      `“${pressure.header}” does not say whether it is read at the site or reduced to sea level.`,
      'Say which it is: the two differ by about 1 % for every 85 m of height.',
      { column: pressure.header },
      { pressureKind: ['station', 'sea level'] },
    );
  const kinds = (['relative humidity', 'dew point', 'wet bulb'] as const).filter((q) => of(q).length > 0);
  const humidity = theOne(of(kinds[0] ?? 'relative humidity'), 'the humidity');
  return {
    at: timeColumns(of),
    temperature: withUnit(temperature, 'the temperature', '°C, °F or K'),
    pressure: withUnit(pressure, 'the pressure', 'hPa, kPa, inHg, mmHg or psi'),
    humidity: withUnit(humidity, 'the humidity', '% or °C'),
    pressureKind,
    findings:
      kinds.length > 1
        ? [
            {
              code: 'SEVERAL_HUMIDITIES',
              message: `Humidity stands there as ${kinds.join(' and ')}; the ${kinds[0]} is used.`,
            },
          ]
        : [],
  };
}
function timeColumns(of: (quantity: AirQuantity) => AirColumn[]): Chosen['at'] {
  const [moment] = of('moment');
  const [date] = of('date');
  const [clock] = of('clock');
  const second = clock ?? moment;
  if (date && second) return { date, clock: second };
  const one = moment ?? clock ?? date;
  if (one) return one;
  throw unreadable('No column holds the time.', 'Export the time of every reading.', {});
}

// ── The readings ────────────────────────────────────────────────────────────
/** Reads the moment of each row; a clock without a date takes it from the preamble and goes on past midnight. */
function momentsOf(table: Table, at: Chosen['at'], options: AirFileOptions): (number | undefined)[] {
  const two = 'clock' in at;
  const cell = (row: readonly string[], column: AirColumn): string => (row[column.index] ?? '').trim();
  const dates = table.rows.map((row) => cell(row, two ? at.date : at));
  const order = slashedOrder(dates);
  if (order === undefined)
    throw unreadable(
      `In dates such as “${dates[0]}” day and month could be either way round.`,
      'Export dates as 2026-11-26, or the file of a day after the twelfth.',
      { line: table.lines[0] },
    );
  const how: SlashedOrder | undefined = order === 'none' ? undefined : order;
  const ahead = 1000 * (options.clockAheadS ?? 0);
  let day = recordedIn(table.metadata, undefined)?.day;
  let before = -Infinity;
  return table.rows.map((row, i) => {
    if (two) {
      const on = dayIn(dates[i], how);
      const seconds = clockSeconds(cell(row, at.clock));
      return on === undefined || seconds === undefined
        ? undefined
        : momentAt(on, seconds, options.timeZone) - ahead;
    }
    const whole = readMoment(dates[i], options.timeZone, how);
    if (whole !== undefined) return whole - ahead;
    const seconds = clockSeconds(dates[i]);
    if (seconds === undefined || day === undefined) return undefined;
    if (seconds < before - DAY_S / 2) day = nextDay(day);
    before = seconds;
    return momentAt(day, seconds, options.timeZone) - ahead;
  });
}

function readingsOf(
  table: Table,
  used: Chosen,
  options: AirFileOptions,
): Pick<AirFile, 'readings' | 'findings'> {
  const moments = momentsOf(table, used.at, options);
  if (moments.every((m) => m === undefined))
    throw unreadable(
      'No row says on which day it was read.',
      'Export date and time with every reading, or write “Date: 2026-11-26” above the table.',
      { line: table.lines[0] },
    );
  const columns = [used.temperature, used.pressure, used.humidity];
  const read = numberReader(
    numberStyle(
      table.rows
        .slice(0, 200)
        .flatMap((row) => columns.map((c) => (row[c.index] ?? '').trim()).filter(looksNumeric)),
      table.delimiter,
      () => false,
    ),
  );
  const readings: StationReading[] = [];
  const left: number[] = [];
  table.rows.forEach((row, i) => {
    const at = moments[i];
    const [t, p, h] = columns.map((column) => {
      const text = (row[column.index] ?? '').trim();
      return looksMissing(text) ? NaN : toInternal(read(text), column.unit);
    }) as [number, number, number];
    if (at === undefined || ![t, p, h].every(Number.isFinite)) left.push(table.lines[i]);
    else
      readings.push({
        at,
        line: table.lines[i],
        temperatureC: t,
        pressureHpa: p / 100,
        pressureKind: used.pressureKind,
        humidity: humidityOf(used.humidity, h),
      });
  });
  if (readings.length === 0)
    throw unreadable(
      'No row has time, temperature, pressure and humidity.',
      'Look at the first rows of the file.',
      {
        line: table.lines[0],
      },
    );
  return { ...inOrder(readings, left) };
}
function humidityOf({ quantity }: AirColumn, value: number): Humidity {
  return quantity === 'relative humidity'
    ? { kind: 'relative', percent: value }
    : { kind: quantity as 'dew point' | 'wet bulb', temperatureC: value };
}
/** By time; a moment that stands there twice counts once, as it was written first. */
function inOrder(
  readings: readonly StationReading[],
  left: readonly number[],
): Pick<AirFile, 'readings' | 'findings'> {
  const broken = readings.find((r, i) => i > 0 && !(r.at > readings[i - 1].at));
  const sorted = [...readings].sort((a, b) => a.at - b.at || a.line - b.line);
  return {
    readings: sorted.filter((r, i) => i === 0 || r.at !== sorted[i - 1].at),
    findings: [
      ...(left.length > 0
        ? [
            {
              code: 'READINGS_LEFT_OUT' as const,
              message: `${left.length} ${left.length === 1 ? 'row is' : 'rows are'} left out: a value or the time is missing.`,
              line: left[0],
            },
          ]
        : []),
      ...(broken
        ? [
            {
              code: 'TIME_NOT_RISING' as const,
              message: 'The time repeats or goes back; readings are used in the order of their time.',
              line: broken.line,
            },
          ]
        : []),
    ],
  };
}
