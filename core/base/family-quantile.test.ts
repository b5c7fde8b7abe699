import rangeQuantile from '@stdlib/stats-base-dists-studentized-range-quantile';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tUpperQuantile } from './distributions.ts';
import { familyQuantile, manyToOneCdf, type Family } from './family-quantile.ts';

const dunnett = (shares: readonly number[], alpha: number): Family => ({
  kind: 'many to one',
  alpha,
  shares,
});
const tukey = (arms: number, alpha: number): Family => ({ kind: 'all pairs', alpha, arms });

describe('limits of several parts over one baseline', () => {
  // R 4.2.2, mvtnorm 1.1-3: uniroot over pmvt(GenzBretz(maxpts = 5e6, abseps = 1e-7)), corr = outer(l, l).
  it.each([
    [[0.5, 0.5], 10, 0.025, 2.5691116],
    [[0.5, 0.5, 0.5], 6, 0.025, 3.1049966],
    [[0.5, 0.5, 0.5, 0.5, 0.5], 20, 0.05, 2.3887776],
    [[0.5, 1 / 3, 0.6], 8, 0.025, 2.8912955],
    [[1 / 3, 1 / 3], 4, 0.0125, 4.1829322],
    [[0.5, 0.5], 3, 0.025, 3.8944214],
  ])('%j with %d degrees of freedom, one-sided %d: %d', (shares, df, alpha, published) => {
    expect(familyQuantile(dunnett(shares, alpha), df)).toBeCloseTo(published, 4);
  });
  it('agree with the printed table: one-sided 5 %, 10 degrees of freedom, 2, 3 and 4 parts', () => {
    // Dunnett 1955, table 1a (memory; R gives 2.1506, 2.3376, 2.4656).
    const printed = [2.15, 2.34, 2.47];
    printed.forEach((value, i) =>
      expect(familyQuantile(dunnett(Array(i + 2).fill(0.5), 0.05), 10)).toBeCloseTo(value, 2),
    );
  });
  it('give the limits of a worked example: four blankets and minutes to recover', () => {
    // multcomp 1.4-22, `recovery`: 20, 3, 3 and 15 patients, residual mean square 248.2667/37; `glht` prints −3.9667822
    // as the upper limit of b2 − b0 = −7.4666667 (one-sided 95 %), with the quantile 2.1822629, itself found by drawing (error 1e-3).
    const n = [3, 3, 15];
    const shares = n.map((k) => 1 / 20 / (1 / k + 1 / 20));
    const limit = familyQuantile(dunnett(shares, 0.05), 37);
    expect(limit).toBeCloseTo(2.1822629, 2);
    expect(-7.4666667 + limit * Math.sqrt((248.2667 / 37) * (1 / 3 + 1 / 20))).toBeCloseTo(-3.9667822, 2);
  });
  it('lie between one part’s and Bonferroni’s, and nearer together the more the contrasts share', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 6 }),
        fc.double({ min: 2, max: 60, noNaN: true }),
        fc.constantFrom(0.025, 0.0125),
        (m, df, alpha) => {
          const at = (share: number): number => familyQuantile(dunnett(Array(m).fill(share), alpha), df);
          expect(at(0.5)).toBeGreaterThan(tUpperQuantile(alpha, df));
          expect(at(0.25)).toBeLessThan(tUpperQuantile(alpha / m, df) + 1e-6);
          expect(at(0.5)).toBeLessThan(at(0.25));
        },
      ),
      { numRuns: 25 },
    );
  });
  it('are read off between nodes as exactly as the integral has them', () => {
    for (const df of [2, 2.7, 5.3, 17, 400, Infinity]) {
      const shares = [0.5, 0.4, 0.6];
      expect(1 - manyToOneCdf(familyQuantile(dunnett(shares, 0.025), df), shares, df)).toBeCloseTo(
        0.025,
        4.7,
      );
    }
  });
});

describe('limits of all pairs', () => {
  // qtukey(0.95, k, df) of R 4.2.2 over √2; printed tables have 3.88, 4.90, 4.75.
  it.each([
    [3, 10, 3.87677674919],
    [4, 6, 4.89559918406],
    [6, 12, 4.75023144679],
    [3, 6.5, 4.24404837733],
    [10, 20, 5.00788265541],
  ])('of %d arms with %d degrees of freedom: %d/√2', (arms, df, printed) => {
    expect(familyQuantile(tukey(arms, 0.025), df) * Math.SQRT2).toBeCloseTo(printed, 3);
    // A library of the registry that has it, by another algorithm (AS 190).
    expect(rangeQuantile(0.95, arms, df)).toBeCloseTo(printed, 5);
  });
  it('give the limits of a worked example: breaks of yarn at three tensions', () => {
    // R's `TukeyHSD(aov(breaks ~ tension, warpbreaks))`: M − L −10 (−19.559824 to −0.44017556);
    // 18 a tension, mean square 141.14815, df 51.
    const half = familyQuantile(tukey(3, 0.025), 51) * Math.sqrt(141.14815 * (2 / 18));
    expect(-10 - half).toBeCloseTo(-19.559824, 3);
    expect(-10 + half).toBeCloseTo(-0.44017556, 3);
  });
  it('with few degrees of freedom are Bonferroni’s; stages take the nearer of both', () => {
    expect(familyQuantile(tukey(3, 0.025), 1.5)).toBe(tUpperQuantile(0.025 / 3, 1.5));
    const stages = (n: number, df: number) => familyQuantile({ kind: 'stages', alpha: 0.025, stages: n }, df);
    expect(stages(2, 8)).toBe(tUpperQuantile(0.0125, 8));
    expect(stages(1, 8)).toBe(tUpperQuantile(0.025, 8));
    expect(stages(3, 8)).toBeLessThanOrEqual(familyQuantile(tukey(4, 0.025), 8));
  });
});
