import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { useWeight, weightsOn, wholeWeight, type UsePoint } from './use-profile.ts';

const TOWING: UsePoint[] = [
  { at: 20, weight: 0 },
  { at: 30, weight: 1 },
  { at: 50, weight: 1 },
  { at: 70, weight: 0 },
];
const grid = (from: number, to: number, step = 50): number[] =>
  Array.from({ length: (to - from) / step + 1 }, (_, i) => from + i * step);

describe('a use profile', () => {
  it('runs straight between its points and is nothing outside them', () => {
    expect([10, 20, 25, 30, 40, 60, 70, 71].map((at) => useWeight(TOWING, at))).toEqual([
      0, 0, 0.5, 1, 1, 0.5, 0, 0,
    ]);
    expect(wholeWeight(TOWING)).toBe(5 + 20 + 10);
  });
  it('says how much of it lies within what was compared', () => {
    // Largest power at 5 000 rpm: 20 to 70 % is 1 000 to 3 500 rpm.
    expect(weightsOn(TOWING, grid(1000, 5000), 5000)!.covered).toBeCloseTo(1, 3);
    // From 2 000 rpm (40 %) on: 10 of the level stretch and the fall of 10, of 35.
    expect(weightsOn(TOWING, grid(2000, 5000), 5000)!.covered).toBeCloseTo(20 / 35, 3);
    expect(weightsOn(TOWING, grid(4000, 6000), 5000)).toBeNull();
  });
  it('averages a level gain to itself, whatever the profile', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.01, max: 1, noNaN: true }), { minLength: 2, maxLength: 8 }),
        fc.integer({ min: 3000, max: 7000 }),
        (weights, peak) => {
          const points = weights.map((weight, i) => ({ at: 20 + 12 * i, weight }));
          const on = weightsOn(points, grid(1500, 6500), peak);
          if (on) expect(on.weights.reduce((a, w) => a + 3 * w, 0)).toBeCloseTo(3, 9);
        },
      ),
    );
  });
});
