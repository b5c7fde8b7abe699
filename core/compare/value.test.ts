import { describe, expect, it } from 'vitest';
import { armCost, valueOf } from './value.ts';

const part = (priceCents: number | null, currency = 'EUR', installHours = 2) => ({
  priceCents,
  currency,
  installHours,
});

describe('what a gain costs', () => {
  it('is told per hundred of money and per hour, with its limits', () => {
    const cost = armCost([part(60_000), part(20_000, 'EUR', 0.5)], false)!;
    expect(cost).toEqual({ priceCents: 80_000, currency: 'EUR', installHours: 2.5, calibration: false });
    const value = valueOf({ gain: 4, lower: 2, upper: 6 }, cost);
    expect(value.perHundred).toEqual({ gain: 0.5, lower: 0.25, upper: 0.75 });
    expect(value.perHour).toEqual({ gain: 1.6, lower: 0.8, upper: 2.4000000000000004 });
  });
  it('has no price where one part has none, is free, or is in another currency; nothing where no part is fitted', () => {
    for (const parts of [[part(null)], [part(0)], [part(100), part(null)], [part(100), part(100, 'USD')]]) {
      const cost = armCost(parts, true)!;
      expect(cost.priceCents).toBeNull();
      expect(valueOf({ gain: 1, lower: 0, upper: 2 }, cost).perHundred).toBeNull();
    }
    expect(armCost([], false)).toBeUndefined();
    expect(
      valueOf({ gain: 1, lower: 0, upper: 2 }, armCost([part(100, 'EUR', 0)], false)!).perHour,
    ).toBeNull();
  });
});
