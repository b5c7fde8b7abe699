import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import { ownHistory, type PastSession } from './own-history.ts';

/** Sessions of three runs of three pulls whose level scatters by `sd`, whatever each run's own level. */
function made(count: number, seed: number, sd: number, scale = 1): PastSession[] {
  const rng = seededRng(seed);
  return Array.from({ length: count }, () => {
    const run = [0, 0, 0, 1, 1, 1, 2, 2, 2];
    const levels = [0, 1, 2].map(() => 3 * rng.normal());
    const pulls = run.map((r) => 500 + levels[r] + scale * sd * rng.normal());
    return {
      run,
      averages: pulls,
      peaks: pulls.map((v) => v + 40),
      curves: pulls.map((v) => Array.from({ length: 41 }, (_, j) => (j < 3 ? NaN : v + j))),
    };
  });
}

describe('the scatter of a dyno by its own sessions', () => {
  it('is the one within runs, whatever runs and cars differ by', () => {
    const found = ownHistory(made(40, 7, 0.6))!;
    for (const { variance } of [found.curve, found.bandAverage, found.peak])
      expect(Math.sqrt(variance)).toBeCloseTo(0.6, 1);
    expect(found).toMatchObject({ sessions: 40, dfTotal: 240 });
    // Past sessions stand for ten degrees of freedom at most.
    expect(found.bandAverage.df).toBeLessThanOrEqual(10);
  });
  it('is not told by fewer than four sessions, or without a common range', () => {
    expect(ownHistory(made(3, 1, 0.6))).toBeUndefined();
    expect(ownHistory([])).toBeUndefined();
    const short = made(6, 1, 0.6).map((s) => ({
      ...s,
      curves: s.curves.map((c) => Array.from(c).slice(0, 12)),
    }));
    expect(ownHistory(short)).toBeUndefined();
  });
  it('grows as the scatter does, squared', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.double({ min: 0.2, max: 4, noNaN: true }),
        (seed, k) => {
          const [a, b] = [ownHistory(made(6, seed, 0.5))!, ownHistory(made(6, seed, 0.5, k))!];
          expect(b.bandAverage.variance / a.bandAverage.variance).toBeCloseTo(k * k, 6);
          expect(b.bandAverage.df).toBeCloseTo(a.bandAverage.df, 6);
        },
      ),
      { numRuns: 30 },
    );
  });
});
