/**
 * Pull files with one thing wrong in each: what loggers, spreadsheets, copying and typing do to them. Each mutant is
 * read as the application reads it; one that is read to another result without a word is a silent misread.
 */
import { EvidentiaError } from '../../core/base/errors.ts';
import type { Rng } from '../../core/base/rng.ts';
import { doubtsIn } from '../../core/capture/doubts/doubts-in.ts';
import { readPullFile } from '../../core/capture/pull-file.ts';
import { findSweep } from '../../core/capture/sweep.ts';
import { rpmGrid, torqueCurve } from '../../core/correct/torque-curve.ts';

/** A file cut into lines and cells, and where its table begins. */
interface Cut {
  readonly lines: readonly string[];
  readonly delimiter: string;
  readonly firstRow: number;
}
type Mutation = (file: Cut, rng: Rng) => string;

const pick = (rng: Rng, from: number, to: number): number => from + Math.floor(rng.uniform() * (to - from));
/** A row somewhere in the table, not in its first tenth: there the engine is not pulling yet. */
const someRow = ({ lines, firstRow }: Cut, rng: Rng): number => {
  const rows = lines.length - 1 - firstRow;
  return firstRow + pick(rng, Math.floor(rows * 0.15), Math.floor(rows * 0.85));
};
const text = (lines: readonly string[]): string => lines.join('\n');
const withLine = ({ lines }: Cut, at: number, change: (line: string) => string): string =>
  text(lines.map((line, i) => (i === at ? change(line) : line)));
function inCell(file: Cut, rng: Rng, change: (cell: string) => string, rows = 1): string {
  const at = someRow(file, rng);
  const columns = file.lines[file.firstRow].split(file.delimiter).length;
  const column = pick(rng, 0, columns);
  return text(
    file.lines.map((line, i) =>
      i >= at && i < at + rows && i < file.lines.length - 1
        ? line
            .split(file.delimiter)
            .map((cell, k) => (k === column ? change(cell) : cell))
            .join(file.delimiter)
        : line,
    ),
  );
}
const shifted = (cell: string, by: number): string => {
  const value = Number(cell);
  return Number.isFinite(value) && cell.trim() !== '' ? String(Number((value * by).toPrecision(12))) : cell;
};
const without = (lines: readonly string[], at: number, n: number): string[] => [
  ...lines.slice(0, at),
  ...lines.slice(at + n),
];

export const MUTATIONS: Readonly<Record<string, Mutation>> = {
  'ten times a cell': (file, rng) => inCell(file, rng, (cell) => shifted(cell, 10)),
  'a tenth of a cell': (file, rng) => inCell(file, rng, (cell) => shifted(cell, 0.1)),
  'decimal point lost': (file, rng) => inCell(file, rng, (cell) => cell.replace('.', '')),
  'decimal point lost in a stretch': (file, rng) =>
    inCell(file, rng, (cell) => cell.replace('.', ''), pick(rng, 2, 40)),
  'decimal comma in a cell': (file, rng) => inCell(file, rng, (cell) => cell.replace('.', ',')),
  'decimal commas throughout': (file) =>
    text(file.lines.map((line, i) => (i < file.firstRow ? line : line.replaceAll('.', ',')))),
  'cell empty': (file, rng) => inCell(file, rng, () => ''),
  'cell left out': (file, rng) =>
    withLine(file, someRow(file, rng), (line) => {
      const cells = line.split(file.delimiter);
      cells.splice(pick(rng, 0, cells.length), 1);
      return cells.join(file.delimiter);
    }),
  'mark too many': (file, rng) =>
    withLine(file, someRow(file, rng), (line) => {
      const at = pick(rng, 0, line.length);
      return line.slice(0, at) + file.delimiter + line.slice(at);
    }),
  'stray quote': (file, rng) =>
    withLine(file, someRow(file, rng), (line) => {
      const at = pick(rng, 0, line.length);
      return `${line.slice(0, at)}"${line.slice(at)}`;
    }),
  'quoted rows': (file, rng) => {
    const at = someRow(file, rng);
    const to = Math.min(file.lines.length - 2, at + pick(rng, 1, 60));
    return text(
      file.lines.map((line, i) => {
        const cells = line.split(file.delimiter);
        if (i === at) cells[1] = `"${cells[1]}`;
        if (i === to) cells[1] = `${cells[1]}"`;
        return cells.join(file.delimiter);
      }),
    );
  },
  'line end lost': (file, rng) => {
    const at = someRow(file, rng);
    return text([
      ...file.lines.slice(0, at),
      file.lines[at] + file.lines[at + 1],
      ...file.lines.slice(at + 2),
    ]);
  },
  'row twice': (file, rng) => {
    const at = someRow(file, rng);
    return text([...file.lines.slice(0, at), file.lines[at], ...file.lines.slice(at)]);
  },
  'rows lost': (file, rng) => text(without(file.lines, someRow(file, rng), pick(rng, 1, 120))),
  'rows swapped': (file, rng) => {
    const [a, b] = [someRow(file, rng), someRow(file, rng)];
    return text(file.lines.map((line, i) => (i === a ? file.lines[b] : i === b ? file.lines[a] : line)));
  },
  'column stuck': (file, rng) => {
    const at = someRow(file, rng);
    let first: string | undefined;
    const columns = file.lines[file.firstRow].split(file.delimiter).length;
    const [column, rows] = [pick(rng, 0, columns), pick(rng, 10, 120)];
    return text(
      file.lines.map((line, i) => {
        if (i < at || i >= at + rows || i >= file.lines.length - 1) return line;
        const cells = line.split(file.delimiter);
        first ??= cells[column];
        cells[column] = first;
        return cells.join(file.delimiter);
      }),
    );
  },
  'column zero': (file, rng) => inCell(file, rng, () => '0', pick(rng, 2, 120)),
  'digit changed': (file, rng) =>
    withLine(file, someRow(file, rng), (line) => {
      const at = pick(rng, 0, line.length);
      return /\d/.test(line[at]) ? line.slice(0, at) + pick(rng, 0, 10) + line.slice(at + 1) : line;
    }),
  'byte changed': (file, rng) => {
    const whole = text(file.lines);
    const at = pick(rng, 0, whole.length);
    return whole.slice(0, at) + String.fromCharCode(pick(rng, 32, 127)) + whole.slice(at + 1);
  },
  'cut off': (file, rng) => {
    const whole = text(file.lines);
    return whole.slice(0, pick(rng, Math.floor(whole.length / 2), whole.length));
  },
  'unit of the header changed': (file, rng) =>
    withLine(file, file.firstRow - 1, (line) => {
      const units = ['Nm', 'lb-ft', 'kW', 'hp', 'rpm', 'km/h'];
      return line.replace(/\(([^)]*)\)/g, (all) =>
        rng.uniform() < 0.4 ? `(${units[pick(rng, 0, units.length)]})` : all,
      );
    }),
};

/** What reading a file comes to: its largest torque between the ends of the band, or why it is not used; what was said. */
export interface Reading {
  readonly peakNm: number | undefined;
  readonly said: readonly string[];
}
const STEP_RPM = 50;
export function readingOf(bytes: Uint8Array, fromRpm: number, toRpm: number): Reading {
  try {
    const file = readPullFile(bytes);
    const sweep = findSweep({
      timeS: file.channels.time,
      rpm: file.rpm,
      throttlePct: file.channels.throttle,
    });
    const curve = torqueCurve(file.rpm, file.torqueNm, sweep, rpmGrid(fromRpm, toRpm, STEP_RPM), STEP_RPM);
    const peakNm = curve.reduce((most, t) => (t > most ? t : most), -Infinity);
    const said = [...file.findings, ...doubtsIn(file, sweep)].map((finding) => finding.code);
    // What the curve does not cover is refused by the comparison, in words.
    const whole = curve.every((t) => Number.isFinite(t));
    return { peakNm, said: whole ? said : [...said, 'NOT_COVERED'] };
  } catch (error) {
    if (!(error instanceof EvidentiaError)) throw error;
    return { peakNm: undefined, said: [String(error.code)] };
  }
}

export interface Outcome {
  readonly kind: string;
  readonly refused: boolean;
  /** By how much the largest torque differs from that of the sound file, as a share; 0 when refused. */
  readonly off: number;
  readonly said: readonly string[];
}
/** What was made of one mutant. */
export function mutate(sound: string, kind: string, rng: Rng, fromRpm: number, toRpm: number): Outcome {
  const encode = (t: string): Uint8Array => new TextEncoder().encode(t);
  const before = readingOf(encode(sound), fromRpm, toRpm).peakNm!;
  const after = readingOf(encode(MUTATIONS[kind](cut(sound), rng)), fromRpm, toRpm);
  return {
    kind,
    refused: after.peakNm === undefined,
    off: after.peakNm === undefined ? 0 : Math.abs(after.peakNm / before - 1),
    said: after.said,
  };
}
/** More than this of the largest torque, without a word: a silent misread. */
export const MISREAD = 0.01;
export const isSilent = ({ off, said }: Outcome): boolean => off > MISREAD && said.length === 0;

function cut(sound: string): Cut {
  const lines = sound.split('\n');
  const delimiter = [';', '\t', ','].find((mark) => lines.at(-2)!.includes(mark)) ?? ',';
  const firstRow = lines.findIndex((line) => line.split(delimiter).length > 1 && /^[\d.]/.test(line.trim()));
  return { lines, delimiter, firstRow };
}
