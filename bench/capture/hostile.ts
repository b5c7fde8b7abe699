/**
 * Cells and headers made to hold a reader up: each is read at one length and at ten times of it. What takes its time
 * by the square takes a hundred times as long; a sound reader ten times, and what is capped no longer at all.
 */
import { readHeader } from '../../core/capture/columns.ts';
import { looksMissing, looksNumeric, numberReader, numberStyle } from '../../core/capture/numbers.ts';
import { readPullFile } from '../../core/capture/pull-file.ts';
import { readTable } from '../../core/register/spreadsheet.ts';
import { EvidentiaError } from '../../core/base/errors.ts';

const read = numberReader({ decimal: '.', thousands: '' });
const blanks = (n: number): string => ' '.repeat(n);
const file = (text: string): void => {
  try {
    readPullFile(new TextEncoder().encode(text));
  } catch (error) {
    if (!(error instanceof EvidentiaError)) throw error;
  }
};
const ROWS = Array.from({ length: 40 }, (_, i) => `${2000 + 50 * i},150,30`).join('\n');
const table = (cell: string): void => {
  readTable(`SKU,Markets\nx,${cell}\n`, [
    { field: 'sku', header: 'SKU', kind: 'text' },
    { field: 'markets', header: 'Markets', kind: 'list' },
  ]);
};

/** What is read, made of `n` characters. */
export const HOSTILE: Readonly<Record<string, (n: number) => void>> = {
  'header: an open bracket and blanks': (n) => void readHeader(`a (${blanks(n)}`),
  'header: open brackets': (n) => void readHeader('('.repeat(n)),
  'header: blanks and a letter': (n) => void readHeader(`a${blanks(n)}b`),
  'header: marks between letters': (n) => void readHeader('a-'.repeat(n / 2)),
  'header: quotes and a letter': (n) => void readHeader(`${'"'.repeat(n)}a`),
  'unit below: blanks and a letter': (n) => void readHeader('Torque', `N${blanks(n)}x`),
  'number: a digit and blanks': (n) => void looksNumeric(`1${blanks(n)}x`),
  'number: digits and marks': (n) => void looksNumeric(`${'1,'.repeat(n / 2)}x`),
  'number: blanks between digits': (n) => void read(`1${blanks(n)}1x`),
  'number: style of long cells': (n) => void numberStyle([`1${',111'.repeat(n / 4)}x`], ';', () => false),
  'missing: dashes and a letter': (n) => void looksMissing(`${'-'.repeat(n)}x`),
  'preamble: a name of blanks': (n) => file(`a${blanks(n)}b\nRPM,Torque (Nm),Power (kW)\n${ROWS}\n`),
  'preamble: colons': (n) => file(`${':'.repeat(n)}\nRPM,Torque (Nm),Power (kW)\n${ROWS}\n`),
  'file: a header of an open bracket and blanks': (n) => file(`RPM,Torque (Nm),a (${blanks(n)}\n${ROWS}\n`),
  'file: a cell of digits and blanks': (n) =>
    file(`RPM,Torque (Nm),Power (kW)\n${ROWS}\n2000,1${blanks(n)}x,1\n`),
  'file: quotes': (n) => file(`RPM,Torque (Nm),Power (kW)\n${ROWS}\n${'"'.repeat(n)}\n`),
  'import: a list of blanks': (n) => table(`a${blanks(n)}b`),
  'import: a list of marks': (n) => table(';'.repeat(n)),
};

export interface HostileTiming {
  readonly what: string;
  readonly shortMs: number;
  readonly longMs: number;
}
const SHORT = 9_000;
const LONG = 90_000;
const BEST_OF = 5;
const best = (work: () => void): number => {
  let least = Infinity;
  for (let i = 0; i < BEST_OF; i++) {
    const began = performance.now();
    work();
    least = Math.min(least, performance.now() - began);
  }
  return least;
};
export const timeHostile = (): HostileTiming[] =>
  Object.entries(HOSTILE).map(([what, work]) => ({
    what,
    shortMs: best(() => work(SHORT)),
    longMs: best(() => work(LONG)),
  }));
