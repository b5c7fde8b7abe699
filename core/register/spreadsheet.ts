/**
 * Rows pasted from a spreadsheet or read from CSV: headers matched to columns, cells to values,
 * errors by row, and what an import would change, before anything is changed.
 */
import Papa from 'papaparse';

export type CellKind = 'text' | 'number' | 'whole' | 'date' | 'list';
export interface ColumnSpec<Field extends string = string> {
  readonly field: Field;
  /** As it stands in files Evidentia writes. */
  readonly header: string;
  readonly kind: CellKind;
  readonly aliases?: readonly string[];
  readonly required?: boolean;
  /** Values it may have; compared without case. */
  readonly oneOf?: readonly string[];
  readonly min?: number;
  readonly max?: number;
}
export type Cell = string | number | readonly string[] | null;
export type RowValues<Field extends string = string> = Partial<Record<Field, Cell>>;

export interface RowProblem {
  /** Line in the file or paste, the header being 1 unless a preamble came first. */ readonly line: number;
  readonly column: string | null;
  readonly message: string;
}
export interface ReadRow<Field extends string = string> {
  readonly line: number;
  readonly values: RowValues<Field>;
}
export interface ReadTable<Field extends string = string> {
  readonly rows: readonly ReadRow<Field>[];
  readonly problems: readonly RowProblem[];
  readonly columns: readonly Field[];
  readonly unknownHeaders: readonly string[];
}

/** Most rows of a table that is read at once. */
export const MAX_TABLE_ROWS = 200_000;
/** Longest cell, characters. */
const MAX_CELL_CHARS = 10_000;
/** What a spreadsheet takes for the beginning of a formula, also behind a line break within the cell. */
const FORMULA = /^[\s\0]*[=+\-@\t\r]/;

const DELIMITERS = ['\t', ';', ',', '|'] as const;
/** The delimiter that parts the header line most; its quoted stretches do not count. Below the header a comma may be a decimal one. */
function delimiterOf(text: string): string {
  const header = (text.split(/\r?\n/).find((line) => line.trim() !== '') ?? '').replace(/"[^"]*"/g, '');
  const count = (mark: string): number => header.split(mark).length;
  return DELIMITERS.reduce((best, mark) => (count(mark) > count(best) ? mark : best));
}

const plain = (header: string): string => header.toLowerCase().replace(/[^a-z0-9]+/g, '');

/** Reads a table with a header row. Rows with a problem are left out of `rows`; every problem is listed. */
// eslint-disable-next-line max-lines-per-function -- one pass over the rows; problems are told in their order
export function readTable<Field extends string>(
  text: string,
  specs: readonly ColumnSpec<Field>[],
): ReadTable<Field> {
  const problems: RowProblem[] = [];
  const trimmed = text.replace(/^\ufeff/, '');
  if (trimmed.trim() === '')
    return {
      rows: [],
      problems: [
        { line: 1, column: null, message: 'There is nothing to read. Paste the rows with their header.' },
      ],
      columns: [],
      unknownHeaders: [],
    };
  const delimiter = delimiterOf(trimmed);
  const { data, errors } = Papa.parse<string[]>(trimmed, { skipEmptyLines: false, delimiter });
  for (const error of errors)
    if (error.type === 'Quotes')
      problems.push({
        line: (error.row ?? 0) + 1,
        column: null,
        message: 'A quotation mark is opened and not closed.',
      });
  const blank = (row: readonly string[]): boolean => row.every((cell) => cell.trim() === '');
  const headerAt = data.findIndex((row) => !blank(row));
  const headers = data[headerAt] ?? [];
  const places = new Map<Field, number>();
  const unknownHeaders: string[] = [];
  headers.forEach((header, i) => {
    if (header.trim() === '') return;
    const spec = specs.find((s) =>
      [s.header, s.field, ...(s.aliases ?? [])].some((name) => plain(name) === plain(header)),
    );
    if (!spec) unknownHeaders.push(header.trim());
    else if (places.has(spec.field))
      problems.push({
        line: headerAt + 1,
        column: header.trim(),
        message: `Two columns are called “${spec.header}”. Leave one out.`,
      });
    else places.set(spec.field, i);
  });
  for (const spec of specs)
    if (spec.required && !places.has(spec.field))
      problems.push({
        line: headerAt + 1,
        column: spec.header,
        message: `The column “${spec.header}” is missing.`,
      });
  if (data.length - headerAt - 1 > MAX_TABLE_ROWS)
    problems.push({
      line: headerAt + 1,
      column: '',
      message: `The table has more than ${MAX_TABLE_ROWS} rows. Send it in parts.`,
    });
  const rows: ReadRow<Field>[] = [];
  if (!problems.some((problem) => problem.column !== null)) {
    data.forEach((row, i) => {
      if (i <= headerAt || blank(row)) return;
      const line = i + 1;
      const values: RowValues<Field> = {};
      let sound = true;
      const tooLong = overlong(row, headers.length, delimiter);
      if (tooLong) {
        problems.push({ line, column: null, message: tooLong });
        return;
      }
      for (const spec of specs) {
        const place = places.get(spec.field);
        if (place === undefined) continue;
        const read = readCell(row[place] ?? '', spec);
        if (read.ok) values[spec.field] = read.value;
        else {
          sound = false;
          problems.push({ line, column: spec.header, message: read.message });
        }
      }
      if (sound) rows.push({ line, values });
    });
  }
  return { rows, problems, columns: [...places.keys()], unknownHeaders };
}

/** What is wrong with a row that has more cells than there are columns: its values stand in the wrong ones. */
function overlong(row: readonly string[], columns: number, delimiter: string): string | undefined {
  let cells = row.length;
  while (cells > columns && row[cells - 1].trim() === '') cells -= 1;
  if (cells <= columns) return undefined;
  return `has ${cells} cells under ${columns} columns.${
    delimiter === ',' ? ' A number with a decimal comma is put in quotes, or written with a point.' : ''
  }`;
}

/** Parts of a list, by marks that are found one by one: a pattern with blanks around them takes the square of their number. */
const listed = (text: string): string[] =>
  text
    .split(/[;|]/)
    .map((part) => part.trim())
    .filter(Boolean);

type Read = { readonly ok: true; readonly value: Cell } | { readonly ok: false; readonly message: string };
const wrong = (message: string): Read => ({ ok: false, message });

function readCell(raw: string, spec: ColumnSpec): Read {
  // A leading apostrophe is a spreadsheet's (and our own) way of saying “text, not a formula”.
  const text = raw
    .trim()
    .replace(/^'(?=\s*[=+\-@\t\r])/, '')
    .trim();
  if (text.length > MAX_CELL_CHARS)
    return wrong(`has ${text.length} characters; a cell may have ${MAX_CELL_CHARS}.`);
  if (text === '')
    return spec.required
      ? wrong('is empty; it must be given.')
      : { ok: true, value: spec.kind === 'list' ? [] : null };
  switch (spec.kind) {
    case 'number':
    case 'whole': {
      const both = ambiguousNumber(text);
      if (both)
        return wrong(
          `“${text}” could be ${both.grouped} or ${both.decimal}. Write ${both.grouped} without a mark, or ${both.decimal}0.`,
        );
      const value = readNumber(text);
      if (value === undefined) return wrong(`“${text}” is not a number.`);
      if (spec.kind === 'whole' && !Number.isInteger(value))
        return wrong(`“${text}” must be a whole number.`);
      if ((spec.min !== undefined && value < spec.min) || (spec.max !== undefined && value > spec.max))
        return wrong(`${text} lies outside ${spec.min ?? 'any'} to ${spec.max ?? 'any'}.`);
      return { ok: true, value };
    }
    case 'date': {
      const iso = readDate(text);
      return iso ? { ok: true, value: iso } : wrong(`“${text}” is not a date. Write 2026-03-31.`);
    }
    case 'list':
      return { ok: true, value: listed(text) };
    case 'text': {
      if (!spec.oneOf) return { ok: true, value: text };
      const known = spec.oneOf.find((option) => plain(option) === plain(text));
      return known ? { ok: true, value: known } : wrong(`“${text}” is not one of: ${spec.oneOf.join(', ')}.`);
    }
  }
}

/** One mark with just three digits behind it may part thousands or decimals: both readings, or undefined where only one holds. */
export function ambiguousNumber(text: string): { grouped: number; decimal: number } | undefined {
  const bare = text.replace(/[\s\u00a0\u202f']/g, '').replace(/^\u2212/, '-');
  // Nothing is grouped as 0,500 or 00,500.
  if (!/^[+-]?[1-9]\d{0,2}[.,]\d{3}$/.test(bare)) return undefined;
  return { grouped: Number(bare.replace(/[.,]/, '')), decimal: Number(bare.replace(',', '.')) };
}

/** A number with a point or a comma for decimals, and spaces, points or commas between thousands; undefined where it cannot be told. */
export function readNumber(text: string): number | undefined {
  const bare = text.replace(/[\s\u00a0\u202f']/g, '').replace(/^\u2212/, '-');
  if (!/^[+-]?[\d.,]+$/.test(bare)) return undefined;
  const marks = bare.replace(/[^.,]/g, '');
  let plainText = bare;
  if (marks.includes('.') && marks.includes(',')) {
    const decimal = bare.lastIndexOf('.') > bare.lastIndexOf(',') ? '.' : ',';
    plainText = bare
      .split(decimal === '.' ? ',' : '.')
      .join('')
      .replace(decimal, '.');
  } else if (marks.length > 1) {
    if (!/^[+-]?\d{1,3}([.,]\d{3})+$/.test(bare)) return undefined;
    plainText = bare.replace(/[.,]/g, '');
  } else plainText = bare.replace(',', '.');
  const value = Number(plainText);
  return plainText !== '' && Number.isFinite(value) ? value : undefined;
}

/** 2026-03-31, 31.3.2026 or 31/03/2026 (day first); undefined for anything else. */
export function readDate(text: string): string | undefined {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text);
  const local = /^(\d{1,2})[./](\d{1,2})[./](\d{4})$/.exec(text);
  const [year, month, day] = iso
    ? [iso[1], iso[2], iso[3]].map(Number)
    : local
      ? [local[3], local[2], local[1]].map(Number)
      : [];
  if (year === undefined || month === undefined || day === undefined) return undefined;
  const date = new Date(Date.UTC(year, month - 1, day));
  return date.getUTCFullYear() === year && date.getUTCMonth() === month - 1 && date.getUTCDate() === day
    ? date.toISOString().slice(0, 10)
    : undefined;
}

export interface FieldChange {
  readonly field: string;
  readonly from: Cell;
  readonly to: Cell;
}
export type PlannedRow<Field extends string = string> =
  | { readonly line: number; readonly action: 'add'; readonly key: string; readonly values: RowValues<Field> }
  | {
      readonly line: number;
      readonly action: 'change';
      readonly key: string;
      readonly id: string;
      readonly values: RowValues<Field>;
      readonly changes: readonly FieldChange[];
    }
  | {
      readonly line: number;
      readonly action: 'keep';
      readonly key: string;
      readonly id: string;
      readonly values: RowValues<Field>;
    };
export interface ImportPlan<Field extends string = string> {
  readonly rows: readonly PlannedRow<Field>[];
  readonly problems: readonly RowProblem[];
}

/** An empty cell, an empty text and no value are one. */
const sameCell = (a: Cell | undefined, b: Cell | undefined): boolean =>
  JSON.stringify(a === '' ? null : (a ?? null)) === JSON.stringify(b === '' ? null : (b ?? null));

/**
 * What an import would do: rows are known by their key; a column that the file does not have is
 * left as it is. The same key twice in one file is a problem, since the later would silently win.
 */
export function planImport<Field extends string>(...asked: Planning<Field>): ImportPlan<Field> {
  const steps = planningImport(...asked);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
type Planning<Field extends string> = [
  table: ReadTable<Field>,
  keyOf: (values: RowValues<Field>) => string,
  existing: ReadonlyMap<string, { id: string; values: RowValues<Field> }>,
];
/** Rows after which planning pauses. */
const PAUSE_ROWS = 1000;
/** The same in steps, for a thread that others wait for: it pauses after every thousand rows. */
export function* planningImport<Field extends string>(
  ...[table, keyOf, existing]: Planning<Field>
): Generator<void, ImportPlan<Field>> {
  const problems = [...table.problems];
  const seen = new Map<string, number>();
  const rows: PlannedRow<Field>[] = [];
  for (const [i, { line, values }] of table.rows.entries()) {
    if (i % PAUSE_ROWS === PAUSE_ROWS - 1) yield;
    const key = keyOf(values);
    const first = seen.get(key);
    if (first !== undefined) {
      problems.push({
        line,
        column: null,
        message: `stands for the same record as line ${first} (${key}). Leave one out.`,
      });
      continue;
    }
    seen.set(key, line);
    const known = existing.get(key);
    if (!known) {
      rows.push({ line, action: 'add', key, values });
      continue;
    }
    const changes = table.columns.flatMap((field): FieldChange[] =>
      sameCell(values[field], known.values[field])
        ? []
        : [{ field, from: known.values[field] ?? null, to: values[field] ?? null }],
    );
    rows.push(
      changes.length > 0
        ? { line, action: 'change', key, id: known.id, values, changes }
        : { line, action: 'keep', key, id: known.id, values },
    );
  }
  return { rows, problems: problems.sort((a, b) => a.line - b.line) };
}

/** A table as CSV with the headers the importer knows; text that a spreadsheet would run as a formula is marked as text. */
export function writeTable<Field extends string>(
  specs: readonly ColumnSpec<Field>[],
  rows: readonly RowValues<Field>[],
): string {
  const cell = (value: Cell | undefined): string | number =>
    value === null || value === undefined
      ? ''
      : typeof value === 'object'
        ? value.join('; ')
        : typeof value === 'number' && ambiguousNumber(String(value))
          ? // A fourth decimal says that the mark is one.
            `${value}0`
          : value;
  return (
    Papa.unparse(
      { fields: specs.map((s) => s.header), data: rows.map((row) => specs.map((s) => cell(row[s.field]))) },
      { newline: '\r\n', escapeFormulae: FORMULA },
    ) + '\r\n'
  );
}
