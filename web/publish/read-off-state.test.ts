import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  curveOf,
  isUnmarked,
  linesIn,
  MARKS,
  NOTHING_MARKED,
  placed,
  scaleIn,
  valued,
  type Marked,
} from './read-off-state.ts';

const PLACES = [
  { x: 100, y: 500 },
  { x: 600, y: 500 },
  { x: 80, y: 500 },
  { x: 80, y: 100 },
];
const VALUES = [2000, 7000, 0, 200];
/** All four marks set and typed. */
const marked = (values: readonly (number | string | null)[] = VALUES): Marked =>
  MARKS.reduce((state, name, i) => valued(state, name, values[i]), PLACES.reduce(placed, NOTHING_MARKED));
const scaleOf = (state: Marked) => {
  const scale = scaleIn(state);
  if (scale === null || typeof scale === 'string') throw new Error(String(scale));
  return scale;
};

describe('marks of a graph', () => {
  it('are asked for one after the other, then points', () => {
    const asked = PLACES.reduce<Marked[]>(
      (all, place) => [...all, placed(all.at(-1)!, place)],
      [NOTHING_MARKED],
    );
    expect(asked.map((state) => state.next)).toEqual([...MARKS, 'point']);
    expect(placed(asked.at(-1)!, { x: 1, y: 2 }).points).toEqual([{ x: 1, y: 2, of: 'stock' }]);
  });
  it('one that is set again leaves the others and the points where they are', () => {
    const before = placed(marked(), { x: 350, y: 300 });
    const after = placed({ ...before, next: 'speed, high' }, { x: 1100, y: 500 });
    expect(after.points).toEqual(before.points);
    expect(after.marks['speed, low']).toEqual(before.marks['speed, low']);
    expect(after.marks['speed, high']).toEqual({ place: { x: 1100, y: 500 }, value: 7000 });
    expect(after.next).toBe('point');
    // Every point is read by the marks as they are now.
    expect(linesIn(before, scaleOf(before))).toEqual(['stock 100 hp at 4500']);
    expect(linesIn(after, scaleOf(after))).toEqual(['stock 100 hp at 3250']);
  });
  it('make no scale while one is missing or no number', () => {
    expect(scaleIn(NOTHING_MARKED)).toBeNull();
    expect(scaleIn(PLACES.slice(0, 3).reduce(placed, marked([2000, 7000, 0, null])))).toBeNull();
    expect(scaleIn(marked([2000, 'seven', 0, 200]))).toBeNull();
    expect(scaleIn(marked([2000, 2000, 0, 200]))).toMatch(/same value/);
  });
});

describe('points', () => {
  it('keep the curve they were clicked for, and a per-cent axis shows gains alone', () => {
    const stock = placed(marked(), { x: 350, y: 300 });
    const both = placed({ ...stock, of: 'part' }, { x: 350, y: 280 });
    expect(linesIn(both, scaleOf(both))).toEqual(['stock 100 hp at 4500', 'part 110 hp at 4500']);
    const gains: Marked = { ...both, unit: '%' };
    expect(linesIn(gains, scaleOf(gains))).toEqual(['gain +100 % at 4500', 'gain +110 % at 4500']);
    expect(curveOf('%', 'stock')).toBe('gain');
    expect(curveOf('kW', 'part')).toBe('part');
  });
  it('are as many as were clicked, in their order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ x: fc.integer({ min: 100, max: 600 }), y: fc.integer({ min: 100, max: 500 }) })),
        (places) => {
          const state = places.reduce(placed, marked());
          expect(state.points.map(({ x, y }) => ({ x, y }))).toEqual(places);
          expect(linesIn(state, scaleOf(state))).toHaveLength(places.length);
        },
      ),
    );
  });

  it('are missed as soon as one is set or typed, or a point is there', () => {
    expect(isUnmarked(NOTHING_MARKED)).toBe(true);
    expect(isUnmarked({ ...NOTHING_MARKED, unit: 'kW', next: 'point' })).toBe(true);
    for (const name of MARKS) expect(isUnmarked(valued(NOTHING_MARKED, name, 'two'))).toBe(false);
    expect(isUnmarked(placed(NOTHING_MARKED, PLACES[0]))).toBe(false);
    expect(isUnmarked({ ...NOTHING_MARKED, points: [{ x: 1, y: 1, of: 'stock' }] })).toBe(false);
  });
});
