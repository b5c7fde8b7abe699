import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import type { Layout } from '../plan/contrast-weights.ts';
import { guardDays } from './day-guard.ts';
import { scalarGain } from './scalar-gain.ts';
import { checkSlope, NO_SLOPE, temperatureTerm } from './start-temperature.ts';

const layout: Layout = {
  arm: [0, 0, 0, 1, 1, 1, 0, 0, 0],
  run: [0, 0, 0, 1, 1, 1, 2, 2, 2],
  mount: Array.from({ length: 9 }, () => 0),
  order: Array.from({ length: 9 }, (_, i) => i + 1),
  covariate: false,
};
const SLOPE = { b: -0.2, V: 0.01, df: 9 };
const warmer = layout.arm.map((a, i) => 30 + 6 * a + (i % 3));

describe('arms that started unequally warm', () => {
  it('are brought to one temperature by the registered slope, and what it leaves open is in the interval', () => {
    const term = temperatureTerm(warmer, layout, SLOPE);
    expect(term.dT).toBeCloseTo(6, 12);
    expect(term.variance).toBeCloseTo(0.01 * 36, 12);
    expect(term.shift.reduce((a, b) => a + b, 0)).toBeCloseTo(0, 10);
    const rng = seededRng(3);
    // A part that does nothing, on an engine that loses 0.2 lp a degree.
    const y = warmer.map((T) => 500 - 0.2 * (T - 30) + 0.1 * rng.normal());
    const plain = scalarGain(y, null, layout, { alpha: 0.025 }, 'strict');
    const moved = scalarGain(
      y.map((v, i) => v - term.shift[i]),
      null,
      layout,
      { alpha: 0.025, temperature: term },
      'strict',
    );
    expect(plain.upper).toBeLessThan(0);
    expect(moved.lower).toBeLessThan(0);
    expect(moved.upper).toBeGreaterThan(0);
    expect(moved.parts.find((p) => p.source === 'start temperature')!.variance).toBe(term.variance);
  });
  it('without a slope are not moved, and cost what a slope of 0.2 lp/K would', () => {
    const term = temperatureTerm(warmer, layout, NO_SLOPE);
    expect(term.shift.every((s) => s === 0)).toBe(true);
    expect(Math.sqrt(term.variance)).toBeCloseTo(1.2, 10);
  });
  it('are held against the slope that the session shows itself', () => {
    const rng = seededRng(5);
    const T = layout.arm.map((_, i) => 30 + 4 * (i % 3) + rng.normal());
    const y = (b: number): number[] => T.map((t) => 500 + b * t + 0.05 * rng.normal());
    expect(checkSlope(y(-0.2), T, layout, SLOPE)).toMatchObject({ disagrees: false });
    expect(checkSlope(y(0.4), T, layout, SLOPE)).toMatchObject({ disagrees: true });
    expect(
      checkSlope(
        y(0),
        layout.arm.map(() => 30),
        layout,
        SLOPE,
      ),
    ).toBeUndefined();
  });
});

describe('days that disagree', () => {
  const day = (d: number) => ({ d, lower: d - 1, upper: d + 1, candidates: [{ variance: 0.1 }] as never });
  it('are claimed by the smallest lower and the largest upper limit; days that agree by the joint ones', () => {
    const joint = { lower: 1, upper: 3 };
    expect(guardDays(joint, [day(1.9), day(2.1)], 0.36)).toMatchObject({
      disagree: false,
      lower: 1,
      upper: 3,
    });
    expect(guardDays(joint, [day(0), day(4)], 0.36)).toMatchObject({ disagree: true, lower: -1, upper: 5 });
  });
  it('never narrow what may be claimed, and have the chi-square limits of tables', () => {
    // 0.975 quantiles with 1, 2 and 3 degrees of freedom, as printed in tables of chi-square.
    for (const [k, table] of [
      [2, 5.024],
      [3, 7.378],
      [4, 9.348],
    ] as const)
      expect(
        guardDays(
          { lower: 0, upper: 1 },
          Array.from({ length: k }, () => day(0.5)),
          0.36,
        ).critical,
      ).toBeCloseTo(table, 3);
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -9, max: 9, noNaN: true }), { minLength: 2, maxLength: 4 }),
        (ds) => {
          const g = guardDays({ lower: 0, upper: 1 }, ds.map(day), 0.36);
          expect(g.lower).toBeLessThanOrEqual(0);
          expect(g.upper).toBeGreaterThanOrEqual(1);
        },
      ),
    );
  });
});
