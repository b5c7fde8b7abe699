import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import { controlChart, chartReference } from './control-chart.ts';
import { registerDayVariance } from './day-variance.ts';
import { controlStudy } from './dyno-health.ts';

describe('a control vehicle on days, mountings and pulls', () => {
  // Against R 4.2.2 (`aov`, lme4, Henderson’s sums): six cases of `evidentia reference`, group “dyno health”.
  it('splits the whole sum of squares into its three sources, however unequal the numbers', () => {
    const pull = fc.record({
      y: fc.double({ min: 540, max: 560, noNaN: true }),
      day: fc.integer({ min: 1, max: 3 }),
      mount: fc.integer({ min: 1, max: 2 }),
    });
    fc.assert(
      fc.property(fc.array(pull, { minLength: 12, maxLength: 40 }), (pulls) => {
        const study = controlStudy(pulls);
        fc.pre(study !== undefined);
        const mean = pulls.reduce((s, p) => s + p.y, 0) / pulls.length;
        const whole = pulls.reduce((s, p) => s + (p.y - mean) ** 2, 0);
        expect(study.ss[0] + study.ss[1] + study.ss[2]).toBeCloseTo(whole, 6);
        expect(study.df[0] + study.df[1] + study.df[2]).toBe(pulls.length - 1);
      }),
    );
  });
  it('finds the variances that are in it, on the average', () => {
    const sd = { day: 0.7, mount: 0.6, pull: 0.5 };
    const studies = Array.from({ length: 200 }, (_, seed) => {
      const rng = seededRng(seed + 1);
      return controlStudy(
        Array.from({ length: 8 }, () => sd.day * rng.normal()).flatMap((d, day) =>
          [0, 1].flatMap((mount) => {
            const m = sd.mount * rng.normal();
            return [0, 1, 2].map(() => ({ y: 550 + d + m + sd.pull * rng.normal(), day, mount }));
          }),
        ),
      )!;
    });
    const mean = (of: (s: (typeof studies)[number]) => number): number =>
      studies.reduce((s, x) => s + of(x), 0) / studies.length;
    expect(mean((s) => s.pull)).toBeCloseTo(0.25, 1);
    expect(mean((s) => s.mountRaw)).toBeCloseTo(0.36, 1);
    expect(Math.abs(mean((s) => s.dayRaw) - 0.49)).toBeLessThan(0.08);
  });
  it('registers no mounting from too little, and the upper value where the estimate is none', () => {
    expect(controlStudy([])).toBeUndefined();
    expect(controlStudy([1, 2, 3].map((y) => ({ y, day: 1, mount: 1 })))).toBeUndefined();
    const alike = [0, 1, 2].flatMap((day) =>
      [0, 1].flatMap((mount) => [0, 1, 2].map((k) => ({ y: 500 + k, day, mount }))),
    );
    const study = controlStudy(alike)!;
    expect(study.mountRaw).toBeLessThan(0);
    expect(study.registered).toEqual(study.fallback);
    expect(study.fallback.variance).toBeGreaterThan(0);
  });
});

describe('the control chart', () => {
  it('alarms at a shift of two standard deviations within ten checks nearly always, rarely without one', () => {
    const runs = Array.from({ length: 300 }, (_, seed) => {
      const rng = seededRng(seed + 900);
      const reference = chartReference(Array.from({ length: 20 }, () => 550 + rng.normal()))!;
      const checks = (shift: number, n: number): number[] =>
        Array.from({ length: n }, () => 550 + shift + rng.normal());
      return {
        shifted: controlChart(reference, checks(2, 10)).some((p) => p.alarm),
        same: controlChart(reference, checks(0, 30)).some((p) => p.alarm),
      };
    });
    // 98 % and 8.5 % in the method's own study.
    expect(runs.filter((r) => r.shifted).length / 300).toBeGreaterThan(0.94);
    expect(runs.filter((r) => r.same).length / 300).toBeLessThan(0.15);
  });
  it('has no reference from one check', () => expect(chartReference([550])).toBeUndefined());
});

describe('the variance of a gain between days', () => {
  it('is never less than a quarter of what is seen, and is registered from six repeats', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true })),
          {
            minLength: 1,
            maxLength: 12,
          },
        ),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        (pairs, u2) => {
          fc.pre(pairs.some(([a, b]) => Math.abs(a - b) > 1e-6));
          const r = registerDayVariance(pairs.map((d) => ({ d, u2: [u2, u2] })))!;
          expect(r.variance).toBeGreaterThanOrEqual(r.MS / 4);
          expect(r.df).toBeLessThanOrEqual(r.J + 1e-9);
          expect(r.registered).toBe(pairs.length >= 6);
        },
      ),
    );
    expect(registerDayVariance([{ d: [1.2], u2: [0.1] }])).toBeUndefined();
  });
});
