import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alarmAround, chartOf, REFERENCE_CHECKS, registeredDay } from './control-state.ts';
import { controlStudy } from './dyno-health.ts';
import { stepForGood } from './for-good.ts';

const REFERENCE = Array.from({ length: REFERENCE_CHECKS }, (_, i) => 400 + (i % 2 === 0 ? 0.3 : -0.3));
const timed = (later: readonly number[]) =>
  [...REFERENCE, ...later].map((value, i) => ({ at: 1000 * (i + 1), value }));
const [FIRST, SECOND] = [1000 * (REFERENCE_CHECKS + 1), 1000 * (REFERENCE_CHECKS + 2)];

describe('a control vehicle around a session', () => {
  it('says nothing before its reference is whole', () => {
    expect(chartOf(REFERENCE)).toBeNull();
    expect(alarmAround(timed([]), 0, 1e9)).toBeNull();
  });
  it('is out of limits at the check before, or at the one after, and not at those further off', () => {
    const checks = timed([403, 400, 400, 400, 400, 400, 400, 400]);
    expect(alarmAround(checks, FIRST + 10, FIRST + 20)).toMatchObject({ when: 'before' });
    expect(alarmAround(checks, FIRST - 20, FIRST - 10)).toMatchObject({ when: 'after' });
    expect(alarmAround(checks, FIRST - 2000, FIRST - 1500)).toBeNull();
    // The moving mean has come back by then.
    expect(alarmAround(checks, 1000 * (REFERENCE_CHECKS + 8) + 10, 1e9)).toBeNull();
  });
  it('tells how far off, with the limit it is beyond', () => {
    const alarm = alarmAround(timed([404, 400]), FIRST + 10, SECOND - 10)!;
    expect(alarm.off).toBeCloseTo(0.2 * 4, 9);
    expect(Math.abs(alarm.off)).toBeGreaterThan(alarm.limit);
  });
  it('never finds an alarm where every later check reads the centre', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 0, max: 40_000 }), (n, when) => {
        expect(alarmAround(timed(Array<number>(n).fill(400)), when, when + 1)).toBeNull();
      }),
    );
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
