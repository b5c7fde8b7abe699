import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { findSweep } from '../capture/sweep.ts';
import { peakOf, rpmGrid, torqueCurve } from './torque-curve.ts';

/** A pull as logged: steady, rise from 2000 to 6500 rpm, lift. */
function pull(step = 12, jitter = 0) {
  const rise = Array.from(
    { length: Math.floor(4500 / step) + 1 },
    (_, i) => 2000 + i * step + jitter * Math.sin(i * 1.7),
  );
  const rpm = Float64Array.from([
    ...Array<number>(20).fill(2000),
    ...rise,
    ...Array.from({ length: 25 }, (_, i) => 6480 - i * 30),
  ]);
  const throttlePct = rpm.map((_, i) => (i < 20 ? 20 : i < 20 + rise.length ? 100 : 0));
  return { rpm, throttlePct, timeS: rpm.map((_, i) => i * 0.02), last: 20 + rise.length - 1 };
}

describe('sweep', () => {
  it('is the rise at full throttle, 300 rpm in, up to the rev peak', () => {
    const p = pull();
    const s = findSweep(p);
    expect(s.beganRpm).toBe(2000);
    expect(s.fromRpm).toBeGreaterThanOrEqual(2300);
    expect(s.fromRpm).toBeLessThan(2312.1);
    expect(s.indices.at(-1)).toBe(p.last);
  });
  it('does without throttle, and through a noisy speed signal', () => {
    const p = pull(12, 4);
    const s = findSweep({ rpm: p.rpm, timeS: p.timeS });
    expect(s.fromRpm).toBeLessThan(2330);
    expect(s.toRpm).toBeGreaterThan(6480);
  });
  it('takes the longest of two rises', () => {
    const a = pull();
    const short = Float64Array.from({ length: 60 }, (_, i) => 2000 + i * 15);
    const s = findSweep({ rpm: Float64Array.from([...short, ...a.rpm]) });
    expect(s.toRpm).toBeGreaterThan(6480);
  });
  it('tells the ramp rate and the spacing', () => {
    const s = findSweep(pull());
    expect(Math.abs(s.rampRpmPerS - 600)).toBeLessThan(1e-6);
    expect(Math.abs(s.medianSpacingRpm - 12)).toBeLessThan(1e-9);
  });
  it('refuses a recording that never rises', () =>
    expect(() => findSweep({ rpm: new Float64Array(100).fill(3000) })).toThrow(/never rises/));
});

describe('local linear torque curve', () => {
  const p = pull();
  const sweep = findSweep(p);
  it('gives back any straight line exactly', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -0.05, max: 0.05, noNaN: true }),
        fc.double({ min: 50, max: 500, noNaN: true }),
        (slope, level) => {
          const grid = rpmGrid(2500, 6400, 50);
          const curve = torqueCurve(
            p.rpm,
            p.rpm.map((r) => level + slope * r),
            sweep,
            grid,
            50,
          );
          return grid.every((r, j) => Math.abs(curve[j] - (level + slope * r)) < 1e-6);
        },
      ),
      { numRuns: 40 },
    ));
  it('weighs by tricube: three-point hand computation', () => {
    // Samples at −40, −20, 20, 40 rpm about 3000 with w = 50: weights (1−0.8³)³ and (1−0.4³)³; symmetric, so
    // the level is the weighted mean.
    const rpm = Float64Array.of(2960, 2980, 3020, 3040);
    const torque = Float64Array.of(100, 104, 108, 120);
    const [far, near] = [(1 - 0.8 ** 3) ** 3, (1 - 0.4 ** 3) ** 3];
    const hand = (far * 220 + near * 212) / (2 * far + 2 * near);
    expect(
      Math.abs(
        torqueCurve(
          rpm,
          torque,
          { ...sweep, indices: Int32Array.of(0, 1, 2, 3), medianSpacingRpm: 20 },
          [3000],
          50,
        )[0] - hand,
      ),
    ).toBeLessThan(1e-9);
  });
  it('has no value where samples are few or on one side only', () => {
    const curve = torqueCurve(
      p.rpm,
      p.rpm.map(() => 100),
      sweep,
      [2200, 2500, 6700],
      50,
    );
    expect([...curve].map(Number.isNaN)).toEqual([true, false, true]);
  });
  it('reads the peak at the grid, and refines it by a parabola', () => {
    const grid = rpmGrid(2000, 6000, 50);
    const peak = peakOf(
      grid,
      grid.map((r) => 200 - ((r - 4217) / 100) ** 2),
    )!;
    expect(peak.rpm).toBe(4200);
    expect(Math.abs(peak.refinedRpm - 4217)).toBeLessThan(1e-6);
    expect(Math.abs(peak.refinedValue - 200)).toBeLessThan(1e-9);
  });
});
