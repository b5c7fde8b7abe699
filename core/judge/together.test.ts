import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import { scalarGain } from '../compare/scalar-gain.ts';
import { DAY_RULE } from '../register/day-variance.ts';
import { synthesise } from './synthesis.ts';
import { together, type TogetherSession } from './together.ts';

const ALPHA = 0.025;
/** A session A-B-A of three pulls a run with so much gain, lp. */
function session(
  vehicle: string,
  day: string,
  gain: number,
  seed: number,
  withPulls = true,
): TogetherSession {
  const rng = seededRng(seed);
  const arm = [0, 0, 0, 1, 1, 1, 0, 0, 0] as (0 | 1)[];
  const curves = arm.map((a) => {
    const level = a * gain + 0.4 * rng.normal();
    return Array.from({ length: 41 }, (_, j) => 450 + level + 0.1 * Math.sin(j / 7 + seed));
  });
  const averages = curves.map((row) => row.reduce((x, y) => x + y, 0) / row.length);
  const pulls = {
    arm,
    run: [0, 0, 0, 1, 1, 1, 2, 2, 2],
    mount: arm.map(() => 1),
    order: arm.map((_, i) => i + 1),
    averages,
    curves,
  };
  const own = scalarGain(
    averages,
    curves.map((c) => Float64Array.from(c)),
    { ...pulls, covariate: false },
    { alpha: ALPHA },
    'strict',
  );
  return {
    vehicle,
    dyno: 'cell 1',
    day,
    gain: own.d,
    lower: own.lower,
    upper: own.upper,
    variance: own.used.uc ** 2,
    df: own.used.dfEffective,
    drift: 0,
    guard: 'strict',
    ...(withPulls ? { pulls } : {}),
  };
}

describe('all tests of a part put together', () => {
  it('one session is what it is', () => {
    const one = session('A', '2026-05-01', 3, 1);
    const all = together([one], ALPHA, DAY_RULE.policy)!;
    expect(all.grade).toBe('single');
    expect(all.synthesis).toBeNull();
    expect(all.vehicles[0]).toMatchObject({
      gain: one.gain,
      lower: one.lower,
      upper: one.upper,
      disagree: null,
    });
    expect(together([], ALPHA, DAY_RULE.policy)).toBeNull();
  });
  it('two days of one car are one analysis with the day in its variance, and repeated', () => {
    const days = [session('A', '2026-05-01', 3, 1), session('A', '2026-05-09', 3.2, 2)];
    const { vehicles, grade } = together(days, ALPHA, DAY_RULE.policy)!;
    expect(grade).toBe('repeated');
    expect(vehicles).toHaveLength(1);
    expect(vehicles[0].gain).toBeCloseTo((days[0].gain + days[1].gain) / 2, 9);
    expect(vehicles[0].variance).toBeGreaterThan(DAY_RULE.policy.variance / 2);
    // Without anything between days it would be narrower than either.
    const still = together(days, ALPHA, { variance: 1e-9, df: Infinity })!.vehicles[0];
    expect(still.upper - still.lower).toBeLessThan(days[0].upper - days[0].lower);
    // On one day and one dyno it is no repeat.
    expect(together([days[0], { ...days[1], day: days[0].day }], ALPHA, DAY_RULE.policy)!.grade).toBe(
      'single',
    );
  });
  it('days that disagree claim no more than the worse of them', () => {
    const days = [session('A', '2026-05-01', 1, 1), session('A', '2026-05-09', 6, 2)];
    for (const set of [days, days.map(({ pulls: _, ...rest }) => rest)]) {
      const { vehicles, grade } = together(set, ALPHA, DAY_RULE.policy)!;
      expect(grade).toBe('days disagree');
      expect(vehicles[0].disagree).toBe(true);
      expect(vehicles[0].lower).toBeLessThanOrEqual(days[0].lower + 1e-9);
      expect(vehicles[0].upper).toBeGreaterThanOrEqual(days[1].upper - 1e-9);
    }
  });
  it('sessions whose pulls were moved are averaged as they stand', () => {
    const days = [session('A', '1', 3, 1, false), session('A', '2', 3.4, 2, false)];
    const [{ gain, variance }] = together(days, ALPHA, DAY_RULE.policy)!.vehicles;
    expect(gain).toBeCloseTo((days[0].gain + days[1].gain) / 2, 12);
    expect(variance).toBeCloseTo((days[0].variance + days[1].variance) / 4 + 0.18, 12);
  });
  it('three cars are a fleet where their mean stands above zero, two are listed', () => {
    const cars = ['A', 'B', 'C'].map((name, k) => session(name, `${k}`, 3 + 0.2 * k, 10 + k));
    const { synthesis, grade, vehicles } = together(cars, ALPHA, DAY_RULE.policy)!;
    expect(grade).toBe('fleet');
    expect(synthesis).toEqual(synthesise(vehicles, ALPHA));
    expect(together(cars.slice(0, 2), ALPHA, DAY_RULE.policy)!.grade).toBe('two vehicles');
    const apart = ['A', 'B', 'C'].map((name, k) => session(name, `${k}`, [-4, 0.5, 5][k], 10 + k));
    expect(together(apart, ALPHA, DAY_RULE.policy)!.grade).toBe('not shown');
  });
});
