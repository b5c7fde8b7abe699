import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeText, withPlainLineEnds } from '../base/text.ts';
import { pullCorpus } from './corpus/pull-corpus.ts';
import { findLayout } from './pull-layout.ts';
import { plainTable } from './plain-table.ts';
import { readCellByCell, readPullFile } from './pull-file.ts';

const HEADER = 'Time (s),Engine speed (rpm),Torque (N·m),Throttle (%)';
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const rowAt = (i: number): string =>
  `${(i * 0.05).toFixed(3)},${2000 + 25 * i},${(150 + i / 7).toFixed(2)},100`;
const body = (n = 120): string[] => Array.from({ length: n }, (_, i) => rowAt(i));
const file = (lines: readonly string[], end = '\n'): string => [HEADER, ...lines].join('\n') + end;
const tableOf = (text: string) => plainTable(text, findLayout(text));
/** What both ways make of a file: the same numbers and findings, or the same refusal. */
function both(text: string): void {
  const told = (read: typeof readPullFile): unknown => {
    try {
      return read(bytes(text), { channels: 'all' });
    } catch (error) {
      return { code: (error as { code: string }).code, message: (error as Error).message };
    }
  };
  expect(told(readPullFile)).toEqual(told(readCellByCell));
}

describe('a plain table', () => {
  it('is read to the same numbers as cell by cell, to the last bit', () => {
    expect(tableOf(file(body()))!.count).toBe(120);
    both(file(body()));
    both(file(body(), '\n\n\n'));
    both(file(body().map((row) => row.replace(/,/g, ' , '))));
    both(`# made: today\n\n${file(body())}`);
  });
  it.each([
    ['a quote', (row: string) => row.replace('100', '"100"')],
    ['an empty cell', (row: string) => row.replace(',100', ',')],
    ['a cell too many', (row: string) => `${row},1`],
    ['a cell too few', (row: string) => row.replace(',100', '')],
    ['an exponent', (row: string) => row.replace('100', '1e2')],
    ['text', (row: string) => row.replace('100', 'off')],
    ['a plus', (row: string) => row.replace('100', '+100')],
    ['two points', (row: string) => row.replace('100', '1.0.0')],
    ['a blank between', (row: string) => row.replace('100', '1 00')],
    ['more digits than are exact', (row: string) => row.replace('100', '100.12345678901234567')],
    ['nothing', () => ''],
  ])('is none with %s in one row, and the reader says what it always said', (_, change) => {
    const rows = body();
    rows[60] = change(rows[60]);
    expect(tableOf(file(rows))).toBeUndefined();
    both(file(rows));
  });
  it('is none without an end to its last line: a file may have been cut off there', () => {
    expect(tableOf(file(body(), ''))).toBeUndefined();
    both(file(body(), ''));
    both(file([...body(), '6.000,50'], ''));
  });
  it('is read the same whatever is changed in it', () => {
    const text = file(body(40));
    fc.assert(
      fc.property(
        fc.integer({ min: HEADER.length + 1, max: text.length - 1 }),
        fc.constantFrom('', ',', '.', '-', ' ', '\n', '0', '9', 'e', '"', ';', '\t'),
        (at, put) => both(text.slice(0, at) + put + text.slice(at + 1)),
      ),
      { numRuns: 400 },
    );
  });
  it('fills in units that only the values tell, the same way', () => {
    const named = file(body()).replace(HEADER, 'Time,RPM,Torque (N·m),Throttle');
    both(named);
    both(named.replace(/,100(?=\n)/g, ',0.98'));
  });
  it('is read the same in every file of the corpus', () => {
    const plain = pullCorpus().filter(({ bytes: raw, options }) => {
      const [one, other] = [readPullFile, readCellByCell].map((read) => {
        try {
          return read(raw, options);
        } catch (error) {
          return (error as Error).message;
        }
      });
      expect(one).toEqual(other);
      try {
        return tableOf(withPlainLineEnds(decodeText(raw).text)) !== undefined;
      } catch {
        return false;
      }
    });
    // And the short way is taken at all.
    expect(plain.length).toBeGreaterThan(10);
  });
});
