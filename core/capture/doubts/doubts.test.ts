import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PullFileError } from '../../base/errors.ts';
import { seededRng } from '../../base/rng.ts';
import { readPullFile } from '../pull-file.ts';
import { findSweep } from '../sweep.ts';
import { doubtsIn } from './doubts-in.ts';
import { median, resolution, spread } from '../../base/robust.ts';

const HEAD = 'Time (s),RPM,Torque (Nm),Power (kW)';
/** Rows of a noisy pull; `change` may touch a row before it is written. */
function rowsOf(change: (row: number[], i: number) => number[] | undefined = (row) => row): string[] {
  const rng = seededRng(4);
  return Array.from({ length: 400 }, (_, i) => {
    const rpm = 2000 + 11 * i + rng.normal();
    const torque = (180 + 30 * Math.sin(i / 120)) * (1 + 0.004 * rng.normal());
    return [i * 0.02, rpm, torque, (torque * rpm) / 9549.3];
  }).flatMap((row, i) => {
    const kept = change(row, i);
    return kept
      ? [`${kept[0].toFixed(3)},${kept[1].toFixed(1)},${kept[2].toFixed(2)},${kept[3].toFixed(3)}`]
      : [];
  });
}
const fileOf = (rows: readonly string[]) =>
  readPullFile(new TextEncoder().encode(`${[HEAD, ...rows].join('\n')}\n`));
function doubtsOf(change?: (row: number[], i: number) => number[] | undefined) {
  const file = fileOf(rowsOf(change));
  return doubtsIn(file, findSweep({ timeS: file.channels.time, rpm: file.rpm }));
}
const codes = (change: (row: number[], i: number) => number[] | undefined): string[] => [
  ...new Set(doubtsOf(change).map((d) => d.code)),
];
/** Row 250 of the table stands on this line. */
const LINE_250 = 252;

describe('samples that do not look like readings', () => {
  it('has none of a sound pull', () => expect(doubtsOf()).toEqual([]));
  it.each([
    [10, 'ten times'],
    [0.1, 'a tenth of'],
    [0, 'zero for'],
    [1.12, 'an eighth more than'],
  ])('doubts one torque that is %s times (%s) what it was, with line, column and speed', (by) => {
    const [doubt] = doubtsOf((row, i) => (i === 250 ? [row[0], row[1], row[2] * by, row[3]] : row));
    expect(doubt).toMatchObject({ code: 'OUTLIER', samples: 1, line: LINE_250, column: 'Torque (Nm)' });
    expect(doubt.fromRpm).toBeGreaterThan(4700);
    expect(doubt.toRpm).toBeLessThan(4800);
  });
  it('doubts a power that is not torque times speed, also where the torque may be right', () => {
    expect(codes((row, i) => (i === 250 ? [row[0], row[1], row[2], row[3] * 1.05] : row))).toEqual([
      'POWER_TORQUE_APART',
    ]);
  });
  it('lets the ratio of power to torque be another one throughout: that is a basis, not an error', () => {
    expect(doubtsOf((row) => [row[0], row[1], row[2], row[3] * 1.1])).toEqual([]);
  });
  it.each([
    [
      'OUTLIER',
      'a stretch without its decimal points',
      (i: number, v: number) => (i >= 200 && i < 220 ? v * 100 : v),
    ],
    ['STEP', 'a torque that jumps and stays', (i: number, v: number) => (i >= 200 ? v * 1.3 : v)],
    ['STUCK', 'a torque that stands still', (i: number, v: number) => (i >= 200 && i < 260 ? 183.31 : v)],
    ['OUTLIER', 'a dead stretch', (i: number, v: number) => (i >= 200 && i < 230 ? 0 : v)],
  ])('says %s of %s', (code, _what, change) => {
    expect(codes((row, i) => [row[0], row[1], change(i, row[2]), row[3]])).toContain(code);
  });
  it('says where the record pauses while the engine goes on, once', () => {
    const doubts = doubtsOf((row, i) => (i >= 200 && i < 230 ? undefined : row));
    expect(doubts.map((d) => d.code)).toEqual(['TIME_GAP']);
    expect(doubts[0].line).toBe(202);
  });
  it('does not doubt a single sample that the logger left out', () => {
    expect(doubtsOf((row, i) => (i === 200 ? undefined : row))).toEqual([]);
  });
  it('says where engine speed jumps', () => {
    expect(codes((row, i) => (i === 250 ? [row[0], row[1] + 400, row[2], row[3]] : row))).toContain(
      'SPEED_JUMP',
    );
  });
  it('does not take a coarsely written torque for a stuck one', () => {
    const coarse = fileOf(rowsOf().map((row) => row.replace(/^([^,]*,[^,]*),(\d+)\.\d+/, '$1,$2')));
    expect(
      doubtsIn(coarse, findSweep({ timeS: coarse.channels.time, rpm: coarse.rpm })).map((d) => d.code),
    ).not.toContain('STUCK');
  });
});

describe('rows and cells that are not those of the table', () => {
  const thrown = (rows: readonly string[], head = HEAD): PullFileError => {
    try {
      readPullFile(new TextEncoder().encode(`${[head, ...rows].join('\n')}\n`));
    } catch (error) {
      if (error instanceof PullFileError) return error;
    }
    throw new Error('it was read');
  };
  it('leaves out a row with a cell too many or too few, and names its line', () => {
    for (const change of [
      (row: string) => row.replace(',', ',1,'),
      (row: string) => row.replace(/,[^,]*/, ''),
    ]) {
      const file = fileOf(rowsOf().map((row, i) => (i === 250 ? change(row) : row)));
      expect(file.samples).toBe(399);
      expect(file.findings).toEqual([expect.objectContaining({ code: 'ROW_LENGTH', line: LINE_250 })]);
    }
  });
  it('refuses a file in which many rows are so', () => {
    expect(thrown(rowsOf().map((row, i) => (i % 10 === 5 ? `${row},1` : row)))).toMatchObject({
      code: 'ROWS_DIFFER',
      where: { line: 7 },
    });
  });
  it('refuses decimal commas between commas instead of reading thousands', () => {
    expect(thrown(rowsOf().map((row) => row.replaceAll(/(\d)\.(\d)/g, '$1,$2')))).toMatchObject({
      code: 'MORE_CELLS_THAN_COLUMNS',
      message: expect.stringContaining('decimal commas') as string,
    });
  });
  it('finds rows that a quoted cell would swallow', () => {
    const rows = rowsOf().map((row, i) => (i === 200 ? row.replace(',', ',"') : i === 240 ? `${row}"` : row));
    const file = fileOf(rows);
    expect(file.samples).toBeGreaterThan(395);
    expect(file.findings.map((f) => f.code)).toContain('SAMPLES_DROPPED');
  });
  it('takes rows that end early where all of them may', () => {
    const file = readPullFile(
      new TextEncoder().encode(
        `${[`${HEAD},Note`, ...rowsOf().map((r, i) => (i % 3 ? r : `${r},x`))].join('\n')}\n`,
      ),
    );
    expect(file.samples).toBe(400);
  });
  it.each([1e9, 1e12, 40_000])('refuses an engine speed of %s', (rpm) => {
    expect(thrown(rowsOf((row, i) => (i === 250 ? [row[0], rpm, row[2], row[3]] : row)))).toMatchObject({
      code: 'SPEED_IMPOSSIBLE',
      where: { line: LINE_250, column: 'RPM' },
    });
  });
  it.each([
    ['TOO_MANY_LINES', () => '\n'.repeat(1_000_001)],
    ['LINE_TOO_LONG', () => '"'.repeat(100_001)],
    ['TOO_MANY_CELLS', () => `${','.repeat(90_000)}\n`.repeat(35)],
  ])('refuses a file with %s before anything is made of it', (code, more) => {
    expect(thrown([...rowsOf(), more()])).toMatchObject({ code });
  });
});

describe('middle and spread', () => {
  it('are those of the definitions, and a wild value hardly moves them', () => {
    expect(median([3, 1, 2])).toBe(2);
    expect(median([4, 1, 2, 3])).toBe(2.5);
    expect(median([])).toBeNaN();
    // For a normal distribution the median absolute deviation is 0.6745 of its SD.
    const rng = seededRng(1);
    const values = Array.from({ length: 4000 }, () => rng.normal());
    expect(spread(values, 0)).toBeCloseTo(1, 1);
    expect(spread([...values, 1e9], 0)).toBeCloseTo(1, 1);
  });
  it('half of the values lie on each side of the middle, and it moves with them', () => {
    const values = fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(values, fc.double({ min: -1e6, max: 1e6, noNaN: true }), (list, shift) => {
        const middle = median(list);
        expect(list.filter((v) => v < middle).length).toBeLessThanOrEqual(list.length / 2);
        expect(list.filter((v) => v > middle).length).toBeLessThanOrEqual(list.length / 2);
        expect(median(list.map((v) => v + shift))).toBeCloseTo(middle + shift, 6);
        expect(spread(list, middle)).toBeGreaterThanOrEqual(0);
      }),
    );
  });
  it('neither changes the values it is given', () => {
    const values = Float64Array.from([3, 1, 2]);
    median(values);
    spread(values, 2);
    resolution(values);
    expect([...values]).toEqual([3, 1, 2]);
  });
  it('the resolution is the smallest step that is there', () => {
    expect(resolution([1, 1.5, 1.25, 3])).toBe(0.25);
    expect(resolution([2, 2, 2])).toBe(Infinity);
  });
});
