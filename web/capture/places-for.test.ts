import { describe, expect, it } from 'vitest';
import type { Pull } from '../../contract/capture/capture.ts';
import { droppedFiles, ofFolder } from './dropped-files.ts';
import { placesFor } from './places-for.ts';

const pulls = (...kinds: ('w' | 'c' | 'done' | 'out')[]): Pull[] =>
  kinds.map((kind, k) => ({
    id: String(k),
    counted: kind !== 'w',
    file: kind === 'done' ? {} : null,
    excluded: kind === 'out' ? {} : null,
  })) as unknown as Pull[];

describe('places for the pulls of a long log', () => {
  it.each([
    ['as many as there are places: warm-ups too', 4, pulls('w', 'c', 'w', 'c'), ['0', '1', '2', '3']],
    ['as many as counted ones: those', 2, pulls('w', 'c', 'w', 'c'), ['1', '3']],
    ['fewer: the first open ones', 1, pulls('done', 'c', 'out', 'c'), ['1']],
    ['more: what has no place stays out', 4, pulls('w', 'c', 'c'), ['1', '2', '', '']],
  ])('%s', (_, n, list, places) => expect(placesFor(n, list)).toEqual(places));
});

describe('a folder that is dropped', () => {
  const file = (name: string) => ({
    name,
    isFile: true,
    file: (ok: (f: File) => void) => ok(new File(['x'], name)),
  });
  /** Gives a few entries at a time, as browsers do. */
  const folder = (name: string, inside: object[]) => ({
    name,
    isFile: false,
    createReader: () => {
      let at = 0;
      return {
        readEntries: (ok: (some: object[]) => void) => {
          ok(inside.slice(at, at + 2));
          at += 2;
        },
      };
    },
  });
  const dropped = (...entries: object[]) =>
    ({
      items: entries.map((entry) => ({ webkitGetAsEntry: () => entry })),
      files: [],
    }) as unknown as DataTransfer;

  it('is opened as deep as it goes, in the order of the names; hidden files stay where they are', async () => {
    const all = folder('day', [
      file('p3.csv'),
      file('.hidden'),
      folder('deep', [file('p2.csv')]),
      file('p1.csv'),
      file('p5.csv'),
    ]);
    const names = (await droppedFiles(dropped(all, file('p9.csv')))).map((f) => f.name);
    expect(names).toEqual(['p2.csv', 'p1.csv', 'p3.csv', 'p5.csv', 'p9.csv']);
  });
  it('chosen instead, gives its pull files alone', () =>
    expect(
      ofFolder(['a.csv', 'b.PNG', 'c.TXT', '.d.csv'].map((n) => new File(['x'], n))).map((f) => f.name),
    ).toEqual(['a.csv', 'c.TXT']));
});
