import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import {
  atMostRounded,
  claimRounded,
  CLAIM_STEP,
  intervalText,
  shownPct,
  signedGain,
  signedUpper,
  type ClaimUnit,
} from './rounding.ts';

const units = Object.keys(CLAIM_STEP) as ClaimUnit[];
describe('gains towards zero, losses away from it; upper limits the other way', () => {
  it('never says more than there is, nor more than a step less', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.constantFrom(...units),
        (value, unit) => {
          const [least, most] = [claimRounded(value, unit), atMostRounded(value, unit)];
          expect(least).toBeLessThanOrEqual(value + 1e-6);
          expect(most).toBeGreaterThanOrEqual(value - 1e-6);
          expect(most - least).toBeLessThanOrEqual(CLAIM_STEP[unit] + 1e-6);
        },
      ),
    ));
  test.each([
    [3.77, '+3.7'],
    [-3.71, '−3.8'],
    [-0.001, '−0.1'],
    [0.04, '0.0'],
    [2.3, '+2.3'],
  ])('%d is shown as %s', (value, text) => expect(signedGain(value)).toBe(text));
  test.each([
    [3.71, '+3.8'],
    [-3.77, '−3.7'],
    [-0.04, '0.0'],
  ])('an upper limit of %d as %s', (value, text) => expect(signedUpper(value)).toBe(text));
  it('an interval never becomes narrower by rounding', () =>
    expect(intervalText({ gain: 5.19, lower: 3.01, upper: 7.21 }, 'kW')).toBe('+5.1 kW (+3.0 to +7.3)'));
  // statistics 2.5: floor(10·pct + 1e-9)/10
  test.each([0, 1.984, -2.2, 4.7])('agrees with the rule of the band at %d lp', (d) =>
    expect(shownPct(d)).toBeCloseTo(Math.floor(10 * 100 * (Math.exp(d / 100) - 1) + 1e-9) / 10, 9),
  );
});
