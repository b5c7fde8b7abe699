import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ControlCheck, MountingSpan, OneWayFacts } from '../plan/one-way.ts';
import { oneWayOf, type OneWayGap } from './one-way.ts';

const at = (hour: number, day = 9): string => new Date(Date.UTC(2026, 10, day, 0, hour * 60)).toISOString();
const span = (arm: string, mount: number, hour: number, day = 9): MountingSpan => ({
  arm,
  mount,
  from: at(hour, day),
  to: at(hour + 0.5, day),
  day: `2026-11-${day}`,
});
const checkAt = (hour: number, level: number, day = 9): ControlCheck => ({
  at: at(hour, day),
  day: `2026-11-${day}`,
  warmUps: 3,
  values: [level - 0.1, level, level + 0.1],
});
const MOUNTINGS = [span('a', 1, 8), span('a', 2, 9), span('b', 3, 13), span('b', 4, 14)];
const CHECKS = [checkAt(7.5, 400), checkAt(10, 400.2), checkAt(12.5, 400.4), checkAt(15, 400.6)];
const FACTS: OneWayFacts = {
  forGood: ['the crank pulley is drilled'],
  control: 'C',
  controlChanged: false,
  checks: CHECKS,
  mountings: MOUNTINGS,
};
const KNOWN = { mount: { variance: 0.2, df: 10 }, day: { variance: 0.1, df: 8 } };
const of = (change: Partial<OneWayFacts> = {}, repeatability: object = KNOWN) =>
  oneWayOf({ ...FACTS, ...change }, { arm: 'b', against: 'a', repeatability, alpha: 0.025 });

describe('a comparison without return', () => {
  it('is whole with two mountings an arm and the control vehicle before and after each', () => {
    const one = of();
    expect(one.gaps).toEqual([]);
    // Around the part 400.5, around the baseline 400.1.
    expect(one.moved!.difference).toBeCloseTo(0.4, 12);
    // Four mountings of the control, each weighing a half, and the scatter of three pulls in each.
    expect(one.moved!.own.variance).toBeCloseTo(0.2 + 0.01 / 3, 9);
    // All on one day: its level is in both arms alike.
    expect(one.day!.variance).toBeCloseTo(0, 12);
  });

  it.each<[string, Partial<OneWayFacts>, object | undefined, OneWayGap[]]>([
    ['of a part that can come off', { forGood: [] }, undefined, ['can be undone']],
    ['with the control car worked on', { controlChanged: true }, undefined, ['control changed']],
    ['without the last check', { checks: CHECKS.slice(0, 3) }, undefined, ['check after the part']],
    ['without the first check', { checks: CHECKS.slice(1) }, undefined, ['check before the baseline']],
    [
      'with one mounting of the part',
      { mountings: MOUNTINGS.slice(0, 3) },
      undefined,
      ['mountings of the part'],
    ],
    [
      'with a check a day late',
      { checks: [...CHECKS.slice(0, 3), checkAt(15, 400, 10)] },
      undefined,
      ['check after the part'],
    ],
    [
      'with a check that was not warmed up like the others',
      { checks: [{ ...CHECKS[0], warmUps: 0 }, ...CHECKS.slice(1)] },
      undefined,
      ['unequal warm-up'],
    ],
    ['without the variance of days', {}, { mount: KNOWN.mount }, ['variance of days']],
    ['without the variance of mountings', {}, { day: KNOWN.day }, ['variance of mountings']],
    [
      'with a mounting of which no time is known',
      { mountings: [...MOUNTINGS.slice(0, 3), { ...MOUNTINGS[3], from: '', to: '' }] },
      undefined,
      ['times'],
    ],
  ])('is not held %s', (_, change, repeatability, gaps) => {
    expect(of(change, repeatability).gaps).toEqual(gaps);
  });

  it('takes the nearest checks, and says how many more were made', () => {
    expect(of().unused).toBe(0);
    const more = of({ checks: [checkAt(7, 390), ...CHECKS, checkAt(16, 410)] });
    expect(more.moved!.difference).toBeCloseTo(0.4, 12);
    expect(more.unused).toBe(2);
  });

  it('does not take a check for an arm when the other arm was run in between', () => {
    // Measured once at noon: after the baseline and before the part, nothing lies between.
    expect(of({ checks: [CHECKS[0], checkAt(11, 400), CHECKS[3]] }).gaps).toEqual([]);
    const mixed = [span('a', 1, 8), span('b', 3, 9), span('a', 2, 13), span('b', 4, 14)];
    expect(of({ mountings: mixed }).gaps).toContain('baseline not first');
  });

  it('carries two days where each arm had its own, one where each mounting had', () => {
    const two = [span('a', 1, 8), span('a', 2, 9), span('b', 3, 8, 10), span('b', 4, 9, 10)];
    expect(of({ mountings: two }).day!.variance).toBeCloseTo(2 * 0.1, 12);
    const four = [span('a', 1, 8), span('a', 2, 8, 10), span('b', 3, 8, 11), span('b', 4, 8, 12)];
    expect(of({ mountings: four }).day!.variance).toBeCloseTo(0.1, 12);
    // Not known when: as far apart as it can be.
    const unknown = MOUNTINGS.map((m) => ({ ...m, from: '', to: '' }));
    expect(of({ mountings: unknown }).day!.variance).toBeCloseTo(2 * 0.1, 12);
  });

  it('tells by how much the control vehicle moved, whatever its level, and what would be scatter', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 4, maxLength: 4 }),
        fc.double({ min: 300, max: 500, noNaN: true }),
        (offs, level) => {
          const hours = [7.5, 10, 12.5, 15];
          const { moved } = of({ checks: hours.map((h, i) => checkAt(h, level + offs[i])) });
          expect(moved!.difference).toBeCloseTo((offs[2] + offs[3] - offs[0] - offs[1]) / 2, 9);
          // Four mountings, each weighing a half, and three pulls in each.
          expect(moved!.limit).toBeGreaterThan(1.96 * Math.sqrt(0.2));
        },
      ),
    );
  });
});
