import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  alarmAround,
  chartOf,
  REFERENCE_CHECKS,
  registeredDay,
  setAsideBeside,
  type ChartedControl,
  type TimedCheck,
} from './control-state.ts';
import { controlStudy } from './dyno-health.ts';
import { stepForGood } from './for-good.ts';

const REFERENCE = Array.from({ length: REFERENCE_CHECKS }, (_, i) => 400 + (i % 2 === 0 ? 0.3 : -0.3));
const checksOf = (later: readonly number[]): TimedCheck[] =>
  [...REFERENCE, ...later].map((value, i) => ({ at: 1000 * (i + 1), value, crossedOut: null }));
const charted = (later: readonly number[], change: Partial<ChartedControl> = {}): ChartedControl => ({
  id: 'c',
  control: 'C',
  replaces: null,
  since: 0,
  reason: '',
  checks: checksOf(later),
  ...change,
});
const [FIRST, SECOND] = [1000 * (REFERENCE_CHECKS + 1), 1000 * (REFERENCE_CHECKS + 2)];
const alarmOf = (later: readonly number[], first: number, last: number) =>
  alarmAround([charted(later)], { first, last });

describe('a control vehicle around a session', () => {
  it('says nothing before its reference is whole', () => {
    expect(chartOf(REFERENCE)).toBeNull();
    expect(alarmOf([], 0, 1e9)).toBeNull();
  });
  it('is out of limits at the check before, or at the one after, and not at those further off', () => {
    const checks = [403, 400, 400, 400, 400, 400, 400, 400];
    expect(alarmOf(checks, FIRST + 10, FIRST + 20)).toMatchObject({ when: 'before', control: 'C' });
    expect(alarmOf(checks, FIRST - 20, FIRST - 10)).toMatchObject({ when: 'after' });
    expect(alarmOf(checks, FIRST - 2000, FIRST - 1500)).toBeNull();
    // The moving mean has come back by then.
    expect(alarmOf(checks, 1000 * (REFERENCE_CHECKS + 8) + 10, 1e9)).toBeNull();
  });
  it('tells how far off, with the limit it is beyond', () => {
    const alarm = alarmOf([404, 400], FIRST + 10, SECOND - 10)!;
    expect(alarm.off).toBeCloseTo(0.2 * 4, 9);
    expect(Math.abs(alarm.off)).toBeGreaterThan(alarm.limit);
  });
  it('never finds an alarm where every later check reads the centre', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 0, max: 40_000 }), (n, when) => {
        expect(alarmOf(Array<number>(n).fill(400), when, when + 1)).toBeNull();
      }),
    );
  });
});

describe('what was set aside beside a session', () => {
  const out = (checks: readonly TimedCheck[], ...places: number[]): TimedCheck[] =>
    checks.map((check, i) => (places.includes(i) ? { ...check, crossedOut: `why ${i}` } : check));
  const asideOf = (controls: readonly ChartedControl[], first: number, last: number) =>
    setAsideBeside(controls, { first, last }).map(({ what, reason }) => `${what}: ${reason}`);

  it('is a check crossed out before it, after it or in the middle of it, up to those that stand', () => {
    // Checks at 1 s, 2 s … 25 s; those of 22 s and 23 s are crossed out, those of 21 s and 24 s stand.
    const control = charted([], { checks: out(checksOf([400, 400, 400, 400, 400]), 21, 22) });
    for (const [first, last] of [
      [21_500, 21_600],
      [22_500, 22_600],
      [23_500, 23_600],
      [21_500, 23_500],
    ])
      expect(asideOf([control], first, last)).toEqual(['crossed out: why 21', 'crossed out: why 22']);
    expect(asideOf([control], 20_500, 20_600)).toEqual([]);
    expect(asideOf([control], 30_000, 31_000)).toEqual([]);
  });
  it('is a chart that was begun anew while out of its limits, until the new one has its reference', () => {
    const former = charted([404]);
    const next = charted([], {
      id: 'd',
      replaces: 'c',
      since: 22_000,
      reason: 'New straps.',
      checks: checksOf([]).map((c) => ({ ...c, at: c.at + 22_000 })),
    });
    const both = [former, next];
    expect(asideOf(both, 23_500, 23_600)).toEqual(['begun anew: New straps.']);
    // The session before it is judged by the former chart.
    expect(alarmAround(both, { first: 21_500, last: 21_600 })).toMatchObject({ when: 'before' });
    expect(alarmAround(both, { first: 23_500, last: 23_600 })).toBeNull();
    expect(asideOf(both, 60_000, 61_000)).toEqual([]);
    // Within its limits nobody has to say why.
    expect(asideOf([charted([400]), next], 23_500, 23_600)).toEqual([]);
  });
});

describe('the variance of days that a control vehicle registers', () => {
  it('is never below a quarter of what the means of the days show', () => {
    const pull = fc.record({
      off: fc.double({ min: -2, max: 2, noNaN: true }),
      day: fc.integer({ min: 0, max: 3 }),
      mount: fc.integer({ min: 0, max: 1 }),
    });
    fc.assert(
      fc.property(fc.array(pull, { minLength: 16, maxLength: 40 }), (pulls) => {
        const study = controlStudy(
          pulls.map(({ off, day, mount }) => ({ y: 400 + off, day, mount: `${day} ${mount}` })),
        );
        fc.pre(study !== undefined);
        const { variance } = registeredDay(study);
        expect(variance).toBeGreaterThanOrEqual(study.day);
        expect(variance).toBeGreaterThanOrEqual(study.ms[0] / study.c[2] / 4 - 1e-12);
      }),
    );
  });
});

describe('a step that cannot be undone', () => {
  it.each(['', ' ', '-', 'none', 'None.', 'no', 'n/a', 'Nothing', '–'])('is none in “%s”', (text) =>
    expect(stepForGood(text)).toBeNull(),
  );
  it('is what the register says otherwise', () =>
    expect(stepForGood(' crank pulley is drilled ')).toBe('crank pulley is drilled'));
});
