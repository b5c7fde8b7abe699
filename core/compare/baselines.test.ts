import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { baselineDifference, type BaselineCurve } from './baselines.ts';

const curve = (from: number, to: number, step: number, scale = 1): BaselineCurve => {
  const rpm = Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => from + i * step);
  return { rpm, kw: rpm.map((r) => scale * (r / 50)) };
};

describe('a baseline against another', () => {
  it('is told over the rpm both have, whatever grids they stand on', () => {
    const told = baselineDifference(curve(2500, 6500, 50, 1.03), curve(3000, 7000, 70))!;
    expect(told.pct).toBeCloseTo(3, 9);
    expect([told.fromRpm, told.toRpm]).toEqual([3000, 6500]);
  });
  it('the other way round is the inverse, and with itself nothing', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 2, noNaN: true }), (scale) => {
        const [a, b] = [curve(2500, 6500, 50, scale), curve(2500, 6500, 50)];
        const there = baselineDifference(a, b)!.pct;
        const back = baselineDifference(b, a)!.pct;
        expect((1 + there / 100) * (1 + back / 100)).toBeCloseTo(1, 9);
      }),
    );
    expect(baselineDifference(curve(2500, 6500, 50), curve(2500, 6500, 50))!.pct).toBeCloseTo(0, 12);
  });
  it('is not told over less than 1 000 rpm', () => {
    expect(baselineDifference(curve(2500, 4000, 50), curve(3500, 6500, 50))).toBeUndefined();
    expect(baselineDifference(curve(2500, 3000, 50), curve(5000, 6500, 50))).toBeUndefined();
  });
});
