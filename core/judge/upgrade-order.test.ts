import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { upgradeOrder, type UpgradeStep } from './upgrade-order.ts';

const step = (
  key: string,
  gain: number,
  price: number | null,
  change: Partial<UpgradeStep> = {},
): UpgradeStep => ({
  key,
  label: key,
  gain: { gain, lower: gain - 0.5, upper: gain + 0.5 },
  priceCents: price,
  currency: 'EUR',
  hours: 2,
  after: [],
  parts: [],
  ...change,
});

describe('the order of upgrades', () => {
  it('takes what gives most for its money, after what it needs, and one of a kind', () => {
    const steps = [
      step('exhaust', 4, 80_000, { parts: ['exhaust section'] }),
      step('cheaper exhaust', 3, 40_000, { parts: ['exhaust section'] }),
      step('filter', 1, 5_000, { parts: ['filter'] }),
      step('calibration after exhaust', 6, 30_000, { after: ['exhaust'] }),
      step('unpriced', 9, null),
      step('sticker', -0.2, 1_000),
    ];
    const { steps: order, left } = upgradeOrder(steps, 'money');
    expect(order.map((s) => s.key)).toEqual(['filter', 'cheaper exhaust']);
    expect(left).toContainEqual({ key: 'exhaust', why: 'instead of', of: 'cheaper exhaust' });
    // What stands on the part that was passed over cannot be had.
    expect(left).toContainEqual({ key: 'calibration after exhaust', why: 'needs', of: 'exhaust' });
    expect(left).toContainEqual({ key: 'unpriced', why: 'not known', of: null });
    expect(left).toContainEqual({ key: 'sticker', why: 'no gain', of: null });
    const byGain = upgradeOrder(steps, 'gain').steps.map((s) => s.key);
    expect(byGain).toEqual(['unpriced', 'exhaust', 'calibration after exhaust', 'filter']);
  });
  it('says where the order is open, and whose test would decide it', () => {
    const near = upgradeOrder(
      [step('a', 3, null), step('b', 2.8, null, { gain: { gain: 2.8, lower: 1, upper: 4.6 } })],
      'gain',
    );
    expect(near.steps[0]).toMatchObject({ key: 'a', proven: false, decidedBy: 'b' });
    const far = upgradeOrder([step('a', 5, null), step('b', 2, null)], 'gain');
    expect(far.steps[0]).toMatchObject({ proven: true, decidedBy: null });
    expect(far.steps[1].proven).toBeNull();
  });
  it('places every step once, or says why not, and never before what it needs', () => {
    const steps = fc.array(
      fc.record({
        gain: fc.double({ min: -2, max: 8, noNaN: true }),
        after: fc.option(fc.nat(7)),
        part: fc.nat(3),
      }),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(steps, (made) => {
        const kinds = ['intake', 'header', 'filter', 'other'] as const;
        const list = made.map(({ gain, after, part }, i) =>
          step(String(i), gain, 10_000, {
            after: after !== null && after < i ? [String(after)] : [],
            parts: [kinds[part]],
          }),
        );
        const { steps: order, left } = upgradeOrder(list, 'hours');
        expect([...order.map((s) => s.key), ...left.map((l) => l.key)].sort()).toEqual(
          list.map((s) => s.key).sort(),
        );
        order.forEach(({ key }, i) => {
          const { after } = list.find((s) => s.key === key)!;
          for (const need of after) expect(order.slice(0, i).map((s) => s.key)).toContain(need);
        });
      }),
    );
  });
});
