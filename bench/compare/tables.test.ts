/**
 * Tables of statistics.md (3.1, 3.2, 3.4.1, evidence of 2.3T and 2.3D), in small: `npm run bench -- tables` prints them
 * whole, docs/method.md has them. Bounds are four Monte-Carlo errors from the printed value.
 */
import { describe, expect, it } from 'vitest';
import { adaptationBias, DESIGNS, designRates } from './designs-study.ts';
import { dayRates, heatRates } from './heat-and-days-study.ts';
import { hardDay } from './hard-days-study.ts';
import { oldClaims, TRUE_GAINS } from './old-claims-study.ts';
import { varianceRules } from './variance-rules-study.ts';

const N = 400;
/** Whether a share of `n` sessions may be `printed` %, to four Monte-Carlo errors. */
const near = (found: number, printed: number, n = N): void => {
  const error = Math.sqrt(((printed + 0.5) * (100.5 - printed)) / n);
  expect(Math.abs(found - printed), `${found} against ${printed}`).toBeLessThan(4 * error);
};

describe('variance rules before rule P', () => {
  it('reproduce coverage and half-width of two runs of three', () => {
    const rates = varianceRules(3, 1, N, 1);
    for (const [rule, covered, half] of [
      ['own, −ν/2', 93.6, 3.96],
      ['own, −(ν−1)/2', 97.9, 5.87],
      ['rule O', 99.9, 4.22],
      ['moderated d₀ = 20, plain', 97.5, 2.34],
      ['rule B, d₀ = 20', 99.5, 2.62],
    ] as const) {
      near(rates[rule].covered, covered);
      expect(Math.abs(rates[rule].half / half - 1), rule).toBeLessThan(0.06);
    }
  });
  it('show that plain moderation fails on a car that is noisier than its history', () => {
    const rates = varianceRules(4, 1.5, N, 2);
    near(rates['moderated d₀ = 40, plain'].covered, 82.5);
    near(rates['rule B, d₀ = 10'].covered, 98.8);
  });
});

describe('what rules O and B let people claim', () => {
  it('is found as often as the study says, and rarely too much', () => {
    const constant = oldClaims('O', 4, TRUE_GAINS['constant +2'], N, 3);
    near(constant.some, 77);
    near(constant.tooMuch, 1);
    near(oldClaims('B', 3, TRUE_GAINS['bump +5, 600 rpm wide'], N, 4).one, 93);
  });
});

describe('a day on which everything goes wrong at once', () => {
  it('is held by band and average while the mounting is registered as it is, and not where it is not', () => {
    const held = hardDay('A-B-A', 3, 1, N, 8);
    near(held.P.covered, 97.8);
    near(held['S strict'].tooMuch, 1.6);
    const wrong = hardDay('A-B-A', 3, 1.5, N, 9);
    near(wrong['S strict'].tooMuch, 4.5);
    expect(wrong['S strict'].covered).toBeLessThan(held['S strict'].covered);
  });
});

describe('designs re-mounted at every change of runs', () => {
  it('hold with the registered variance of the mounting and not without', () => {
    const [ab, aba, uneven] = DESIGNS;
    const rates = designRates(ab, false, 0, 2000, 5);
    near(rates.ignored, 71, 2000);
    near(rates.added, 94.9, 2000);
    expect(rates.half).toBeCloseTo(2.16, 1);
    near(designRates(aba, false, 0, 2000, 6).added, 95.1, 2000);
    expect(designRates(ab, false, -0.2, 2000, 7).bias).toBeCloseTo(-0.79, 0);
    expect(adaptationBias(uneven, false, 'every run')).toBeCloseTo(0.5, 12);
    expect(adaptationBias(aba, false, 'every run')).toBeCloseTo(0, 12);
  });
});

describe('start temperatures and days', () => {
  it('arms 3 K apart do not hold without a slope; half of the level explained is found more often with it', () => {
    near(heatRates(3, 0, 3, 200, 8).plainHolds, 87, 200);
    const half = heatRates(3, 0.5, 0, 200, 9);
    near(half.adjusted, 79, 200);
    expect(half.adjusted).toBeGreaterThan(half.plain);
  });
  it('two days hold with the policy’s variance, and with one registered', () => {
    const rates = dayRates(3, 0.6, 120, 10);
    near(rates.without.holds, 84.9, 120);
    near(rates.policy.holds, 95.8, 120);
    near(rates.registered.holds, 97, 120);
  });
});
