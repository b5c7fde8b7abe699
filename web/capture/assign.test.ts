import { describe, expect, it } from 'vitest';
import type { Pull } from '../../contract/capture/capture.ts';
import { runSheet } from '../../core/plan/protocols.ts';
import { assign } from './assign.ts';

const arms = [
  { key: 'stock', label: 'stock' },
  { key: 'part', label: 'long inlet' },
];
/** A-B-A of three warm-up and three counted pulls each: eighteen places, nine counted. */
const pulls: Pull[] = runSheet(['stock', 'part', 'stock'], 3, 3, false).map((p) => ({
  ...p,
  id: p.label,
  repeats: null,
  file: null,
  air: null,
  excluded: null,
}));
const files = (names: readonly string[], head = '') => names.map((name) => ({ file: { name }, head }));
const given = (incoming: ReturnType<typeof files>, at = pulls) =>
  assign(incoming, at, arms).map(({ file, pull }) => `${file.name}→${pull?.label ?? '?'}`);
const open = pulls.filter((p) => p.counted).map((p) => p.label);

describe('files find their pulls', () => {
  it('by the label in their names, in whatever order they come', () =>
    expect(given(files(['run p4 hot.csv', 'p1.csv']))).toEqual(['p1.csv→p1', 'run p4 hot.csv→p4']));
  it('by their preamble, against their place in the alphabet', () =>
    expect(
      given([
        { file: { name: 'a.csv' }, head: '# Session: x\n# Pull: p7, position 16\n' },
        { file: { name: 'b.csv' }, head: '# Pull: 3rd, position 4\n' },
      ]),
    ).toEqual(['a.csv→p7', 'b.csv→p1']));
  it('in order where there are just as many as open places', () =>
    expect(given(files(open.map((_, i) => `log_${i + 1}.csv`)))).toEqual(
      open.map((label, i) => `log_${i + 1}.csv→${label}`),
    ));
});

describe('nobody guesses', () => {
  it('eighteen files with their warm-ups do not fill the nine counted places', () => {
    const through = given(
      files(Array.from({ length: 18 }, (_, i) => `run${String(i + 1).padStart(2, '0')}.csv`)),
    );
    expect(through.slice(0, 4)).toEqual(['run01.csv→w1', 'run02.csv→w2', 'run03.csv→w3', 'run04.csv→p1']);
    expect(through.at(-1)).toBe('run18.csv→p9');
  });
  it('eighteen files without numbers are asked about', () =>
    expect(
      given(files('abcdefghijklmnopqr'.split('').map((c) => `${c}.csv`))).every((g) => g.endsWith('→?')),
    ).toBe(true));
  it('a file that says another arm does not go to this arm’s pull by its place', () => {
    const found = assign(
      open.map((_, i) => ({
        file: { name: `${'abcdefghi'[i]}.csv` },
        head: i === 0 ? '# Arm: long inlet\n' : '',
      })),
      pulls,
      arms,
    );
    expect(found[0]).toMatchObject({ pull: undefined, why: expect.stringContaining('long inlet') as string });
    expect(found[1].pull?.label).toBe('p2');
  });
  it('with every place taken it says so', () =>
    expect(
      assign(
        files(['x.csv']),
        pulls.map((p) => ({ ...p, file: {} as never })),
        arms,
      )[0].why,
    ).toContain('has a file already'));
});
