import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planHours, sessionBlocks, USUAL_TIMES } from './hours.ts';
import { CONTROL_CHECKS, CONTROL_PULLS } from './one-way.ts';
import { isOneWayOrder, protocolOf } from './protocols.ts';
import { designPrecision, smallestGain, type PlannedContrast, type Scatter } from './sample-size.ts';

const AABB: PlannedContrast = {
  order: ['A', 'A', 'B', 'B'],
  pullsPerRun: 3,
  warmUps: 3,
  remount: true,
  oneWay: true,
};
const SCATTER: Scatter = {
  variance: 0.49,
  mount: { variance: 0.41, df: 9 },
  day: { variance: 0.09, df: 11 },
  driftBound: 0.3,
  guard: 'strict',
};

describe('a plan without return', () => {
  it('carries pulls, mountings, and days or what the control vehicle leaves open, and no drift within the session', () => {
    const known = designPrecision(AABB, SCATTER)!;
    expect(known.driftVariance).toBe(0);
    expect(known.repeatabilityVariance).toBeCloseTo(0.49 / 3, 12);
    // Two mountings an arm: each weighs a half, four of them.
    expect(known.mountVariance).toBeCloseTo(0.41, 12);
    expect(known.dayVariance).toBeCloseTo(0.41 + 0.49 / CONTROL_PULLS, 12);
    const unsteady = designPrecision(AABB, { ...SCATTER, day: { variance: 0.5, df: 11 } })!;
    expect(unsteady.dayVariance).toBeCloseTo(2 * 0.5, 12);
  });
  it('never promises more than the same order with a return on the same mountings', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 2, noNaN: true }),
        fc.double({ min: 0.05, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (variance, mount, day) => {
          const scatter = {
            ...SCATTER,
            variance,
            mount: { variance: mount, df: 9 },
            day: { variance: day, df: 11 },
          };
          const [oneWay, returned] = [
            AABB,
            { ...AABB, order: ['A', 'B', 'B', 'A'], oneWay: false } as const,
          ].map((design) => smallestGain('bandAverage', design, scatter, 0.9)!);
          expect(oneWay).toBeGreaterThan(returned);
        },
      ),
    );
  });
  it('is two runs or more of the baseline, then two or more of the part', () => {
    expect(protocolOf('one-way').order('a', ['b'])).toEqual(['a', 'a', 'b', 'b']);
    for (const [order, is] of [
      ['aabb', true],
      ['aaabbb', true],
      ['abb', false],
      ['aab', false],
      ['bbaa', false],
      ['aabba', false],
      ['aabbcc', false],
      ['aaaa', false],
    ] as const)
      expect(isOneWayOrder([...order], 'a')).toBe(is);
  });
  it('takes the dyno for its control vehicle too, in the calendar as in the hours', () => {
    const input = {
      order: ['a', 'a', 'b', 'b'],
      arms: new Map(),
      revisions: new Map(),
      pullsPerRun: 3,
      warmUps: 3,
      coolDownMinutes: 4,
      remount: true,
      dynoHourly: 100,
      labourHourly: 0,
    };
    const [without, withIt] = [planHours(input), planHours({ ...input, controlChecks: CONTROL_CHECKS })];
    const one =
      USUAL_TIMES.strapMinutes +
      (3 + CONTROL_PULLS) * USUAL_TIMES.pullMinutes +
      CONTROL_PULLS * 4 +
      3 * USUAL_TIMES.warmUpCoolDownMinutes;
    expect(withIt.minutes.control).toBe(CONTROL_CHECKS * one);
    expect(60 * (withIt.dynoHours - without.dynoHours)).toBeCloseTo(CONTROL_CHECKS * one, 9);
    const { blocks } = sessionBlocks({ ...input, controlChecks: CONTROL_CHECKS });
    expect(blocks.reduce((sum, block) => sum + block.minutes, 0)).toBeCloseTo(60 * withIt.dynoHours, 9);
  });
});
