import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { betweenVariance, heterogeneity, pooledMean, synthesise } from './synthesis.ts';

const gains = fc.array(
  fc.record({
    gain: fc.double({ min: -5, max: 8, noNaN: true }),
    variance: fc.double({ min: 0.02, max: 2, noNaN: true }),
  }),
  { minLength: 2, maxLength: 9 },
);

describe('several vehicles together', () => {
  it('of one vehicle say nothing of others', () =>
    expect(synthesise([{ gain: 2, variance: 0.1 }])).toBeUndefined());
  it('that gained alike differ by nothing, and the mean is the weighted one', () => {
    const alike = [2, 2.1, 1.9].map((gain, i) => ({ gain, variance: [0.1, 0.2, 0.4][i] }));
    const s = synthesise(alike)!;
    expect(s.tau2).toBe(0);
    expect(s.mu).toBeCloseTo((2 / 0.1 + 2.1 / 0.2 + 1.9 / 0.4) / (1 / 0.1 + 1 / 0.2 + 1 / 0.4), 12);
    expect(s.heterogeneity.p).toBeGreaterThan(0.5);
    expect(s.seWald).toBe(s.se);
  });
  it('follow a shift and a change of unit, whatever the vehicles', () => {
    fc.assert(
      fc.property(
        gains,
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.double({ min: -9, max: 9, noNaN: true }),
        (list, k, by) => {
          const moved = list.map((g) => ({ gain: k * g.gain + by, variance: k * k * g.variance }));
          const [a, b] = [synthesise(list)!, synthesise(moved)!];
          expect(b.mu).toBeCloseTo(k * a.mu + by, 6);
          expect(b.tau2).toBeCloseTo(k * k * a.tau2, 5);
          expect(b.upper - b.lower).toBeCloseTo(k * (a.upper - a.lower), 5);
        },
      ),
    );
  });
  it('have a variance between them at which the weighted squares are as many as vehicles less one', () => {
    fc.assert(
      fc.property(gains, (list) => {
        const tau2 = betweenVariance(list);
        const w = list.map((g) => 1 / (g.variance + tau2));
        const mu = list.reduce((s, g, i) => s + w[i] * g.gain, 0) / w.reduce((a, b) => a + b, 0);
        const q = list.reduce((s, g, i) => s + w[i] * (g.gain - mu) ** 2, 0);
        if (tau2 === 0) expect(q).toBeLessThanOrEqual(list.length - 1 + 1e-9);
        else expect(q).toBeCloseTo(list.length - 1, 6);
        expect(heterogeneity(list, tau2).I2).toBeGreaterThanOrEqual(0);
        // No interval is narrower for looking at the spread as well.
        const [z, adhoc] = [pooledMean(list, 'PM', 'z'), pooledMean(list, 'PM', 'adhoc')];
        expect(adhoc.se).toBeGreaterThanOrEqual(z.se - 1e-12);
      }),
    );
  });
});
