import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mendingPlans, otherWays, type MendingInput } from './mending.ts';
import { designPower } from './sample-size.ts';

const input = (change: Partial<MendingInput> = {}): MendingInput => ({
  metric: 'bandAverage',
  gain: 1.2,
  scatter: {
    variance: 0.5,
    mount: null,
    day: { variance: 0.36, df: Infinity },
    driftBound: 0.3,
    guard: 'strict',
  },
  alpha: 0.025,
  warmUps: 3,
  coolDownMinutes: 4,
  before: null,
  remount: false,
  ...change,
});

describe('what would decide a test', () => {
  it('has the chance it is asked for, and one pull fewer a run has not', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.6, max: 4, noNaN: true }), (gain) => {
        for (const plan of mendingPlans(input({ gain }))) {
          const of = (pullsPerRun: number): number =>
            designPower(
              'bandAverage',
              {
                order: plan.order.split('-') as ('A' | 'B')[],
                warmUps: 3,
                remount: false,
                days: plan.days,
                pullsPerRun,
              },
              input().scatter,
              gain,
              0.025,
            );
          expect(plan.chance).toBeGreaterThanOrEqual(plan.asked);
          expect(plan.chance).toBeCloseTo(of(plan.pullsPerRun), 12);
          if (plan.pullsPerRun > 3) expect(of(plan.pullsPerRun - 1)).toBeLessThan(plan.asked);
        }
      }),
      { numRuns: 30 },
    );
  });
  it('more certainty costs no less, a larger gain no more', () => {
    const [eight, nine] = mendingPlans(input());
    expect(nine.hours).toBeGreaterThanOrEqual(eight.hours);
    expect(mendingPlans(input({ gain: 4 }))[0].hours).toBeLessThanOrEqual(eight.hours);
    expect(mendingPlans(input({ gain: 4 }))[0].pullsPerRun).toBe(3);
  });
  it('goes to the part and back, however often the plan before changed between its arms', () => {
    const minutes = { setUp: 30, strapping: 20, pulls: 20, coolDowns: 30, installs: 60, settings: 0 };
    const before = { pulls: 12, counted: 6, minutes, dynoHours: 3, offDynoHours: 0, cost: 300 };
    const [once, twice] = [1, 2].map(
      (swaps) => mendingPlans(input({ gain: 4, before: { ...before, swaps } }))[0],
    );
    expect(once.hours - twice.hours).toBeCloseTo(1, 9);
    expect(twice.cost! / twice.hours).toBeCloseTo(100, 9);
  });
  it('has other ways beside the cheapest: other mountings, and two days with what days differ by', () => {
    const day = { variance: 0.1, df: 8 };
    const scatter = { ...input().scatter, mount: { variance: 0.1, df: 10 }, day };
    const ways = otherWays(input({ gain: 3, scatter }));
    expect(ways.map(({ remount, days }) => `${remount} ${days}`)).toEqual(['true 1', 'false 2']);
    for (const way of ways) expect(way.chance).toBeGreaterThanOrEqual(0.9);
    const [, ninety] = mendingPlans(input({ gain: 3, scatter }));
    for (const way of ways) expect(way.hours).toBeGreaterThan(ninety.hours);
    // Two days of the same session drive twice as much.
    const twice = ways.find((way) => way.days === 2)!;
    expect(twice.driven).toBe(2 * 3 * (twice.pullsPerRun + 3));
    // Days that differ by more than the gain cannot be averaged away by two of them.
    const far = otherWays(input({ gain: 1.5, scatter: { ...scatter, day: { variance: 4, df: 8 } } }));
    expect(far.some((way) => way.days === 2)).toBe(false);
  });
  it('is nothing where there is no gain to be shown, or none that any number of pulls would show', () => {
    expect(mendingPlans(input({ gain: 0 }))).toEqual([]);
    expect(mendingPlans(input({ gain: -1 }))).toEqual([]);
    expect(mendingPlans(input({ gain: 0.05 }))).toEqual([]);
  });
  it('strapped down anew it takes longer, and what mountings add no pull takes away', () => {
    const mount = { variance: 0.4, df: 10 };
    const loose = mendingPlans(input({ gain: 4, remount: true, scatter: { ...input().scatter, mount } }));
    expect(loose[0].hours).toBeGreaterThan(mendingPlans(input({ gain: 4 }))[0].hours);
    expect(mendingPlans(input({ remount: true, scatter: { ...input().scatter, mount } }))).toEqual([]);
  });
});
