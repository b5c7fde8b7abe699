/**
 * Reads a pull file: delimited text, one row a sample, as data loggers and spreadsheets write it.
 * Finds out encoding, delimiter, decimal mark, header, units and columns by itself and says what it
 * found; a caller may set any of the columns instead. Throws `PullFileError`; never returns half a file.
 */
import Papa from 'papaparse';
import { PullFileError } from '../base/errors.ts';
import { lambdaFromAfr, powerW, toInternal, torqueNm, UNITS, type Fuel, type Unit } from '../base/units.ts';
import {
  DIMENSION_OF,
  QUANTITY_NAMES,
  readHeader,
  readUnit,
  type ColumnGuess,
  type Quantity,
} from './columns.ts';
import { MAX_PULL_FILE_BYTES, MIN_SAMPLES } from './limits.ts';
import {
  hasOtherDecimal,
  looksMissing,
  looksNumeric,
  numberReader,
  numberStyle,
  type NumberStyle,
} from './numbers.ts';
import { recordedIn, type Recorded } from './recorded.ts';
import { decodeText, withPlainLineEnds, type Encoding } from './text.ts';

/** A column named by the caller: its header, and its unit when the header does not say. */
export interface ColumnChoice {
  readonly column: string;
  readonly unit?: string | undefined;
}
export interface ColumnChoices {
  readonly rpm?: ColumnChoice | undefined;
  readonly torque?: ColumnChoice | undefined;
  readonly power?: ColumnChoice | undefined;
  readonly time?: ColumnChoice | undefined;
  readonly throttle?: ColumnChoice | undefined;
}

export interface PullFileOptions {
  readonly file?: string;
  readonly columns?: ColumnChoices | undefined;
  readonly fuel?: Fuel | undefined;
  /** Radius of the roller in m, to get power from roller force where the roller speed is in rpm. */
  readonly rollerRadiusM?: number | undefined;
  /** Engine rpm per km/h of vehicle speed, to get engine speed where it was not logged. */
  readonly rpmPerKmh?: number | undefined;
  readonly maxBytes?: number | undefined;
  /** `needed` leaves out channels that neither the sweep nor the torque curve rests on; default `all`. */
  readonly channels?: 'all' | 'needed';
}

export interface FoundColumn {
  readonly index: number;
  readonly header: string;
  readonly quantity: Quantity | null;
  readonly unit: string | null;
  readonly unitFrom: 'file' | 'caller' | 'values' | null;
  readonly gauge?: boolean | undefined;
}

export interface PullFinding {
  readonly code:
    | 'TIME_NOT_RISING'
    | 'POWER_TORQUE_MISMATCH'
    | 'SAMPLES_DROPPED'
    | 'MIXED_DECIMALS'
    | 'SECOND_RISE'
    | 'READINGS_MISSING'
    | 'NO_FINAL_LINE_END';
  readonly message: string;
  readonly line?: number;
  readonly column?: string;
}

export interface PullFile {
  readonly encoding: Encoding;
  readonly delimiter: string;
  readonly decimal: '.' | ',';
  readonly lineEnd: 'LF' | 'CRLF' | 'CR';
  readonly headerLine: number;
  readonly unitsLine: number | null;
  readonly metadata: Readonly<Record<string, string>>;
  readonly columns: readonly FoundColumn[];
  /** Samples in time order (file order without time). Units: `INTERNAL_UNIT`. */
  readonly samples: number;
  readonly line: Int32Array;
  readonly channels: Readonly<Partial<Record<Quantity, Float64Array>>>;
  /** Engine speed in rpm and torque in N·m, measured or worked out. */
  readonly rpm: Float64Array;
  readonly torqueNm: Float64Array;
  readonly torqueFrom: 'torque' | 'power' | 'roller force';
  /** When it was recorded, where the file says so. */
  readonly recorded?: Recorded | undefined;
  readonly findings: readonly PullFinding[];
}

const DELIMITERS = [',', ';', '\t', '|'] as const;
/** How much of the file is looked at to find the table: a little first, more when a long preamble hides it. */
const HEAD_CHARS = [12_000, 200_000] as const;

export function readPullFile(bytes: Uint8Array, options: PullFileOptions = {}): PullFile {
  try {
    return read(bytes, options);
  } catch (error) {
    if (error instanceof PullFileError && options.file) throw error.at({ file: options.file });
    throw error;
  }
}

function read(bytes: Uint8Array, options: PullFileOptions): PullFile {
  const limit = options.maxBytes ?? MAX_PULL_FILE_BYTES;
  if (bytes.length > limit) {
    throw new PullFileError(
      'FILE_TOO_LARGE',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; a pull file may have ${Math.floor(limit / 1048576)} MB.`,
      'Export the one pull, not the whole session.',
    );
  }
  const decoded = decodeText(bytes);
  const { encoding } = decoded;
  const text = withPlainLineEnds(decoded.text);
  const layout = findLayout(text);
  const rows = parseRows(text, layout.delimiter);
  const columns = resolveColumns(layout, rows, options);
  return { ...readSamples(text, encoding, layout, rows, columns, options), lineEnd: lineEndOf(decoded.text) };
}

/** How most lines of a file end. */
function lineEndOf(text: string): PullFile['lineEnd'] {
  const head = text.slice(0, 20_000);
  const pairs = head.split('\r\n').length - 1;
  const feeds = head.split('\n').length - 1;
  return pairs > 0 && 2 * pairs >= feeds ? 'CRLF' : feeds > 0 ? 'LF' : 'CR';
}

// ── Where the table is ──────────────────────────────────────────────────────

interface Layout {
  delimiter: string;
  headerRow: number;
  unitsRow: number | null;
  dataRow: number;
  header: string[];
  units: string[];
  metadata: Record<string, string>;
}

const trimmedRow = (row: readonly string[]): string[] => {
  const cells = row.map((cell) => cell.trim());
  while (cells.length && cells.at(-1) === '') cells.pop();
  return cells;
};

function parseRows(text: string, delimiter: string): string[][] {
  const parsed = Papa.parse<string[]>(text, { delimiter });
  // One stray quote would swallow the rest of the file: then quotes are ordinary characters here.
  return parsed.errors.some((e) => e.type === 'Quotes')
    ? Papa.parse<string[]>(text, { delimiter, quoteChar: '\u0000' }).data
    : parsed.data;
}

function findLayout(text: string): Layout {
  const within = (chars: number) => {
    const head = text.length > chars ? text.slice(0, text.lastIndexOf('\n', chars) + 1 || chars) : text;
    return DELIMITERS.map((delimiter) => layoutWith(parseRows(head, delimiter), delimiter))
      .filter((x) => x !== undefined)
      .sort((a, b) => b.score - a.score)[0];
  };
  const best = within(HEAD_CHARS[0]) ?? (text.length > HEAD_CHARS[0] ? within(HEAD_CHARS[1]) : undefined);
  if (!best) {
    throw new PullFileError(
      'NO_TABLE',
      'No table of numbers was found.',
      'A pull file has one header line that names the columns and one row of numbers a sample, separated by commas, semicolons, tabs or bars.',
    );
  }
  return best.layout;
}

function layoutWith(
  raw: readonly string[][],
  delimiter: string,
): { layout: Layout; score: number } | undefined {
  const rows = raw.map(trimmedRow);
  const numericShare = (row: readonly string[]): number => {
    const filled = row.filter((cell) => cell !== '');
    return filled.length === 0
      ? 0
      : filled.filter((cell) => looksNumeric(cell) || looksMissing(cell)).length / filled.length;
  };
  const isData = (row: readonly string[]): boolean =>
    row.length >= 2 && numericShare(row) >= 0.5 && row.some(looksNumeric);
  for (let i = 0; i < rows.length; i++) {
    if (!isData(rows[i])) continue;
    const following = rows
      .slice(i + 1, i + 12)
      .filter((row) => row.length > 0)
      .slice(0, 4);
    const alike = following.filter((row) => isData(row) && Math.abs(row.length - rows[i].length) <= 1).length;
    if (following.length > 0 && alike < Math.ceil(following.length / 2)) continue;
    const above = rows.flatMap((row, k) => (k < i && row.length > 0 ? [k] : [])).reverse();
    const [last, before] = above;
    if (
      last === undefined ||
      rows[last].length < 2 ||
      rows[last].some((cell) => looksNumeric(cell) && !/[a-z]/i.test(cell))
    )
      return undefined;
    const unitish = (row: readonly string[]): boolean =>
      row
        .filter((cell) => cell !== '')
        .every((cell) => readUnit(cell) !== undefined || /^[([{].*[)\]}]$|^-$/.test(cell));
    const hasUnits =
      before !== undefined &&
      unitish(rows[last]) &&
      rows[before].length >= 2 &&
      Math.abs(rows[before].length - rows[i].length) <= 1;
    const headerRow = hasUnits ? before : last;
    const header = rows[headerRow];
    const recognised = header.filter(
      (cell, k) => readHeader(cell, hasUnits ? rows[last][k] : '').quantity,
    ).length;
    const metadata: Record<string, string> = {};
    for (const row of raw.slice(0, headerRow)) {
      const pair = /^[#;\s]*([^:=]{1,60}?)\s*[:=]\s*(.+?)\s*$/.exec(
        row.join(delimiter).replace(/[,;\t|\s]+$/, ''),
      );
      if (pair) metadata[pair[1]] = pair[2]!;
    }
    return {
      layout: {
        delimiter,
        headerRow,
        unitsRow: hasUnits ? last : null,
        dataRow: i,
        header,
        units: hasUnits ? rows[last] : [],
        metadata,
      },
      score: recognised * 100 + header.length,
    };
  }
  return undefined;
}

// ── What the columns are ────────────────────────────────────────────────────

interface Resolved {
  all: FoundColumn[];
  used: Map<Quantity, { index: number; unit: Unit | null; header: string; gauge?: boolean | undefined }>;
  style: NumberStyle;
}

const CHOICE_QUANTITY = {
  rpm: 'engineSpeed',
  torque: 'torque',
  power: 'power',
  time: 'time',
  throttle: 'throttle',
} as const;
/** Quantities whose unit changes the result: asked for when the file does not say. */
const UNIT_MATTERS: readonly Quantity[] = ['torque', 'power', 'rollerForce', 'rollerSpeed'];

function resolveColumns(layout: Layout, rows: readonly string[][], options: PullFileOptions): Resolved {
  const guesses: ColumnGuess[] = layout.header.map((cell, i) => readHeader(cell, layout.units[i] ?? ''));
  const where = { line: layout.headerRow + 1 };
  const style = styleOf(layout, rows, guesses);
  const used: Resolved['used'] = new Map();
  const unitFrom = new Map<number, FoundColumn['unitFrom']>();
  const chosen = new Set<number>();
  for (const [key, choice] of Object.entries(options.columns ?? {}) as [
    keyof typeof CHOICE_QUANTITY,
    ColumnChoice | undefined,
  ][]) {
    if (!choice) continue;
    const quantity = CHOICE_QUANTITY[key];
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
      unit = named;
      unitFrom.set(index, 'caller');
    }
    used.set(quantity, { index, unit, header: layout.header[index] });
    chosen.add(index);
  }
  guesses.forEach((guess, index) => {
    if (!guess.quantity || chosen.has(index)) return;
    const already = used.get(guess.quantity);
    if (already) {
      const decisive =
        guess.quantity === 'engineSpeed' || guess.quantity === 'torque' || guess.quantity === 'power';
      if (decisive && !chosen.has(already.index)) {
        throw new PullFileError(
          'AMBIGUOUS_COLUMNS',
          `“${already.header}” and “${guess.header}” both look like ${QUANTITY_NAMES[guess.quantity]}.`,
          'Say which one to use.',
          where,
          { quantity: guess.quantity, columns: [already.header, guess.header] },
        );
      }
      return;
    }
    used.set(guess.quantity, { index, unit: guess.unit ?? null, header: guess.header, gauge: guess.gauge });
    unitFrom.set(index, guess.unit ? 'file' : null);
  });
  // Who names power and not torque (or the other way round) means that one alone.
  if (options.columns?.power && !options.columns.torque) used.delete('torque');
  if (options.columns?.torque && !options.columns.power) used.delete('power');
  settleUnits(layout, rows, used, unitFrom, style);
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
  return { all, used, style };
}

const unitsFor = (quantity: Quantity): string =>
  Object.values(UNITS)
    .filter((u) => u.id && DIMENSION_OF[quantity].includes(u.dimension))
    .map((u) => u.id)
    .join(', ');

function findColumn(guesses: readonly ColumnGuess[], header: readonly string[], wanted: string): number {
  const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();
  const exact = header.findIndex((cell) => same(cell, wanted));
  if (exact >= 0) return exact;
  const byName = guesses.findIndex((guess) => same(guess.header.replace(/\s*[[({].*$/, ''), wanted));
  return byName >= 0 ? byName : guesses.findIndex((guess) => same(guess.name, wanted));
}

function styleOf(layout: Layout, rows: readonly string[][], guesses: readonly ColumnGuess[]): NumberStyle {
  const sample = rows.slice(layout.dataRow, layout.dataRow + 120);
  const cells = sample.flatMap((row) => row.map((cell) => cell.trim()).filter(looksNumeric));
  const speed = guesses.findIndex((guess) => guess.quantity === 'engineSpeed');
  return numberStyle(cells, layout.delimiter, (style) => {
    if (speed < 0) return false;
    const read = numberReader(style);
    return !(Math.max(...sample.map((row) => read((row[speed] ?? '').trim())).filter(Number.isFinite)) > 100);
  });
}

/** No recording of one pull lasts longer, in seconds; the shortest in milliseconds is above it. Common practice. */
const LONGEST_PULL_S = 900;

/** Fills in units that the values decide beyond doubt, and asks for those that matter and cannot be told. */
function settleUnits(
  layout: Layout,
  rows: readonly string[][],
  used: Resolved['used'],
  unitFrom: Map<number, FoundColumn['unitFrom']>,
  style: NumberStyle,
): void {
  const read = numberReader(style);
  const largest = (index: number): number => {
    let max = -Infinity;
    for (let i = layout.dataRow; i < rows.length; i++) {
      const v = read((rows[i][index] ?? '').trim());
      if (v > max) max = v;
    }
    return max;
  };
  const span = (index: number): number => {
    let least = Infinity;
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

function requireColumns(layout: Layout, used: Resolved['used'], options: PullFileOptions): void {
  const where = { line: layout.headerRow + 1 };
  const names = layout.header.filter(Boolean).join(', ');
  if (!used.has('engineSpeed') && !(used.has('vehicleSpeed') && options.rpmPerKmh)) {
    throw new PullFileError(
      'NO_ENGINE_SPEED',
      'No column holds engine speed, and there is no way to work it out.',
      `Name the column, or log engine speed with the pull. The columns are: ${names}.`,
      where,
      { columns: layout.header },
    );
  }
  if (
    !used.has('torque') &&
    !used.has('power') &&
    !(used.has('rollerForce') && (used.has('rollerSpeed') || used.has('vehicleSpeed')))
  ) {
    throw new PullFileError(
      'NO_TORQUE_NOR_POWER',
      'No column holds torque or power, nor roller force with roller speed.',
      `Name the column, or export torque or power with the pull. The columns are: ${names}.`,
      where,
      { columns: layout.header },
    );
  }
}

// ── The samples ─────────────────────────────────────────────────────────────

/** A channel with fewer readings than this share of another's was logged more slowly. */
const SPARSE = 0.9;
function readingsIn(rows: readonly string[][], from: number, column: number): number {
  let n = 0;
  for (let i = from; i < rows.length; i++) if (!looksMissing((rows[i][column] ?? '').trim())) n += 1;
  return n;
}

function readSamples(
  text: string,
  encoding: Encoding,
  layout: Layout,
  rows: readonly string[][],
  columns: Resolved,
  options: PullFileOptions,
): Omit<PullFile, 'lineEnd'> {
  const { used, style } = columns;
  const parse = numberReader(style);
  const needed: readonly Quantity[] = [
    'engineSpeed',
    'torque',
    'power',
    'rollerForce',
    'rollerSpeed',
    'vehicleSpeed',
  ];
  const decisive = new Set(needed.filter((quantity) => used.has(quantity)));
  if (decisive.has('engineSpeed')) decisive.delete('vehicleSpeed');
  if (decisive.has('torque') || decisive.has('power'))
    for (const q of ['rollerForce', 'rollerSpeed', 'vehicleSpeed'] as const)
      if (!(q === 'vehicleSpeed' && !used.has('engineSpeed'))) decisive.delete(q);
  // Logged side by side at different rates, the denser one is used and the other only held against it.
  if (decisive.has('torque') && decisive.has('power')) {
    const filled = (quantity: 'torque' | 'power'): number =>
      readingsIn(rows, layout.dataRow, used.get(quantity)!.index);
    const [torque, power] = [filled('torque'), filled('power')];
    if (power < SPARSE * torque) decisive.delete('power');
    else if (torque < SPARSE * power) {
      decisive.delete('torque');
      used.delete('torque');
    }
  }
  const wanted = (quantity: Quantity): boolean =>
    options.channels !== 'needed' || decisive.has(quantity) || quantity === 'time' || quantity === 'throttle';
  const fields = [...used]
    .filter(([quantity]) => wanted(quantity))
    .map(([quantity, column]) => ({
      quantity,
      ...column,
      decisive: decisive.has(quantity),
      values: new Float64Array(rows.length),
    }));
  const lines = new Int32Array(rows.length);
  const endsInLine = /[\r\n]$/.test(text);
  let lastRow = rows.length - 1;
  while (lastRow > layout.dataRow && isBlank(rows[lastRow])) lastRow -= 1;
  let n = 0,
    bodyRows = 0,
    dropped = 0,
    missing = 0;
  let firstText: { line: number; column: string; cell: string } | undefined;
  let otherMark: { line: number; column: string; cell: string } | undefined;
  const marks = style.thousands === '';
  for (let i = layout.dataRow; i <= lastRow; i++) {
    const row = rows[i];
    if (isBlank(row)) continue;
    bodyRows += 1;
    if (i === lastRow && !endsInLine) refuseCutEnd(rows, i, layout);
    let usable = true;
    let absent = false;
    for (const field of fields) {
      const cell = row[field.index] ?? '';
      const value = parse(cell);
      if (marks && !otherMark && field.decisive && hasOtherDecimal(cell, style))
        otherMark = { line: i + 1, column: field.header, cell: cell.trim() };
      if (Number.isNaN(value) && field.decisive) {
        usable = false;
        if (looksMissing(cell.trim())) absent = true;
        else firstText ??= { line: i + 1, column: field.header, cell: cell.trim() };
      }
      field.values[n] =
        Number.isNaN(value) || !field.unit ? (field.unit ? NaN : value) : toInternal(value, field.unit);
    }
    if (!usable) {
      if (absent) missing += 1;
      else dropped += 1;
      continue;
    }
    lines[n] = i + 1;
    n += 1;
  }
  if (firstText && dropped > Math.max(5, 0.01 * bodyRows)) {
    throw new PullFileError(
      'TEXT_IN_NUMBERS',
      `“${firstText.cell.slice(0, 40)}” stands where a number belongs, and ${dropped} rows in all have text like it.`,
      'Export the pull again with numbers only in this column.',
      { line: firstText.line, column: firstText.column },
    );
  }
  if (n < MIN_SAMPLES) {
    throw new PullFileError(
      'TOO_FEW_SAMPLES',
      `Only ${n} usable samples; a pull needs at least ${MIN_SAMPLES}.`,
      'Check that the whole pull was exported.',
      { line: layout.dataRow + 1 },
    );
  }
  const findings: PullFinding[] = [];
  if (dropped > 0 && firstText)
    findings.push({
      code: 'SAMPLES_DROPPED',
      message: `${dropped} ${dropped === 1 ? 'sample' : 'samples'} left out: “${firstText.cell.slice(0, 40)}” is not a number.`,
      line: firstText.line,
      column: firstText.column,
    });
  if (otherMark)
    findings.push({
      code: 'MIXED_DECIMALS',
      message: `“${otherMark.cell}” has another decimal mark than the rest of the file; it is read as a decimal mark.`,
      line: otherMark.line,
      column: otherMark.column,
    });
  if (missing > 0)
    findings.push({
      code: 'READINGS_MISSING',
      message: `${missing} ${missing === 1 ? 'sample has' : 'samples have'} no reading in a column that is needed.`,
    });
  if (!endsInLine)
    findings.push({
      code: 'NO_FINAL_LINE_END',
      message: 'The last line has no line end; if the logger writes one, the file may have been cut.',
      line: lastRow + 1,
    });

  const order = timeOrder(fields.find((f) => f.quantity === 'time')?.values, n, lines, findings);
  const pick = (values: Float64Array): Float64Array => gather(values, order);
  const channels: Partial<Record<Quantity, Float64Array>> = {};
  for (const field of fields) {
    let values = pick(field.values);
    if (field.quantity === 'lambda' && field.unit?.id === 'AFR') {
      if (!options.fuel) continue; // an air-fuel ratio says nothing until the fuel is known
      values = values.map((v) => lambdaFromAfr(v, options.fuel!));
    }
    channels[field.quantity] = values;
  }
  const rpm = channels.engineSpeed ?? channels.vehicleSpeed!.map((v) => v * 3.6 * options.rpmPerKmh!);
  const { torque, from } = torqueOf(
    channels,
    rpm,
    fields.find((f) => f.quantity === 'rollerSpeed')?.unit ?? null,
    options,
    findings,
  );
  return {
    encoding,
    delimiter: layout.delimiter,
    decimal: style.decimal,
    headerLine: layout.headerRow + 1,
    unitsLine: layout.unitsRow === null ? null : layout.unitsRow + 1,
    metadata: layout.metadata,
    columns: columns.all,
    samples: n,
    line: order.map((i) => lines[i]),
    channels,
    rpm,
    torqueNm: torque,
    torqueFrom: from,
    recorded: recordedIn(
      layout.metadata,
      used.has('time') ? rows[layout.dataRow]?.[used.get('time')!.index] : undefined,
    ),
    findings,
  };
}

/** How many cells the rows of a table usually have: a column that is empty throughout is not missing from the last one. */
function usualLength(rows: readonly string[][], layout: Layout, last: number): number {
  const counts = new Map<number, number>();
  for (let i = Math.max(layout.dataRow, last - 60); i < last; i++)
    if (!isBlank(rows[i])) counts.set(rows[i].length, (counts.get(rows[i].length) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? layout.header.length;
}

/** A last line without an end that is shorter than the others, or stops inside a number: the file was cut off. */
function refuseCutEnd(rows: readonly string[][], last: number, layout: Layout): void {
  const row = rows[last];
  const usual = usualLength(rows, layout, last);
  const action = 'Copy it from the logger again; if the logger lost the end, repeat the pull.';
  if (row.length < usual)
    throw new PullFileError(
      'TRUNCATED_FILE',
      `The last line stops after ${row.length} of ${usual} columns: the file was cut off.`,
      action,
      { line: last + 1, column: layout.header[row.length] ?? '' },
    );
  if (last > layout.dataRow + 3 && cutInNumber(rows, last, usual - 1, layout.dataRow))
    throw new PullFileError(
      'TRUNCATED_FILE',
      'The last number is shorter than every one above it and the line has no end: the file was cut off.',
      action,
      { line: last + 1, column: layout.header[usual - 1] ?? '' },
    );
}

/**
 * Whether the last cell has fewer decimals than all those above it, which have the same number throughout: a program
 * that writes a fixed number of decimals. One that drops zeros at the end writes shorter numbers everywhere.
 */
function cutInNumber(rows: readonly string[][], last: number, column: number, first: number): boolean {
  const decimals = (row: readonly string[]): number =>
    /[.,](\d*)\s*$/.exec(row[column] ?? '')?.[1]?.length ?? 0;
  const usual = decimals(rows[last - 1] ?? []);
  if (usual === 0 || decimals(rows[last]) >= usual) return false;
  for (let i = Math.max(first, last - 400); i < last; i++)
    if (!isBlank(rows[i]) && (rows[i][column] ?? '').trim() !== '' && decimals(rows[i]) !== usual)
      return false;
  return true;
}

/** values[order[0]], values[order[1]], …: a plain loop, because `from` with a callback was half the time of reading a file. */
function gather(values: Float64Array, order: Int32Array): Float64Array {
  const out = new Float64Array(order.length);
  for (let k = 0; k < order.length; k++) out[k] = values[order[k]]!;
  return out;
}

const isBlank = (row: readonly string[]): boolean => row.every((cell) => cell.trim() === '');

/** Order by time; a repeated or backward time stamp is a finding. File order where there is no time. */
function timeOrder(
  time: Float64Array | undefined,
  n: number,
  lines: Int32Array,
  findings: PullFinding[],
): Int32Array {
  const order = new Int32Array(n);
  for (let i = 0; i < n; i++) order[i] = i;
  if (!time) return order;
  const broken: number[] = [];
  for (let i = 1; i < n; i++) if (!(time[i] > time[i - 1])) broken.push(i);
  if (broken.length === 0) return order;
  findings.push({
    code: 'TIME_NOT_RISING',
    message: `The time stamp repeats or goes back ${broken.length === 1 ? 'once' : `${broken.length} times`}; samples are used in the order of their time.`,
    line: lines[broken[0]],
  });
  return order.sort((a, b) => time[a] - time[b] || a - b);
}

/** Torque from what the file has; torque and power both present are held against each other. */
function torqueOf(
  channels: Partial<Record<Quantity, Float64Array>>,
  rpm: Float64Array,
  rollerUnit: Unit | null,
  options: PullFileOptions,
  findings: PullFinding[],
): { torque: Float64Array; from: PullFile['torqueFrom'] } {
  const { torque, power, rollerForce } = channels;
  if (torque && power) {
    const ratios: number[] = [];
    for (let i = 0; i < torque.length; i++)
      if (torque[i] > 0 && Number.isFinite(power[i]))
        ratios.push(Math.abs(power[i] / powerW(torque[i], rpm[i]) - 1));
    ratios.sort((a, b) => a - b);
    const middle = ratios[ratios.length >> 1] ?? 0;
    if (middle > 0.01)
      findings.push({
        code: 'POWER_TORQUE_MISMATCH',
        message: `Power and torque in the file disagree by ${(100 * middle).toFixed(1)} % (P = T·ω); torque is used.`,
      });
  }
  if (torque) return { torque, from: 'torque' };
  if (power) return { torque: power.map((p, i) => torqueNm(p, rpm[i])), from: 'power' };
  const speed = channels.rollerSpeed
    ? rollerUnit?.dimension === 'rotation'
      ? options.rollerRadiusM === undefined
        ? undefined
        : channels.rollerSpeed.map((n) => (n * 2 * Math.PI * options.rollerRadiusM!) / 60)
      : channels.rollerSpeed
    : channels.vehicleSpeed;
  if (!speed) {
    throw new PullFileError(
      'NO_TORQUE_NOR_POWER',
      'Roller speed is in rpm and the radius of the roller is not known.',
      'Enter the roller radius of the dyno, or export torque or power.',
    );
  }
  return { torque: rollerForce!.map((f, i) => torqueNm(f * speed[i], rpm[i])), from: 'roller force' };
}
