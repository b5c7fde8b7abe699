import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NOISY_END, noisyEnd } from './noisy-end.ts';

const rpm = Array.from({ length: 41 }, (_, j) => 2500 + 100 * j);
/** Even scatter with the last (or first) points `times` as large in SD. */
const scatter = (side: 'low' | 'high', times: number, points = 8): Float64Array =>
  Float64Array.from(rpm, (_, j) =>
    (side === 'low' ? j < points : j >= rpm.length - points) ? 0.5 * times * times : 0.5,
  );

describe('an end that scatters more than the rest', () => {
  it('is none where the scatter is even, whatever its size', () =>
    fc.assert(
      fc.property(fc.double({ min: 1e-4, max: 50, noNaN: true }), (v) => {
        expect(
          noisyEnd(
            Float64Array.from(rpm, () => v),
            rpm,
          ),
        ).toBeNull();
      }),
    ));
  it('is found from the ratio on, at its side, with where it begins', () => {
    expect(noisyEnd(scatter('high', NOISY_END - 0.01), rpm)).toBeNull();
    const high = noisyEnd(scatter('high', 3), rpm)!;
    expect(high).toMatchObject({ side: 'high', rpm: 5700 });
    expect(high.times).toBeCloseTo(3, 12);
    expect(noisyEnd(scatter('low', 2), rpm)).toMatchObject({ side: 'low', rpm: 3300 });
  });
  it('turns with the curve: low and high are mirror images', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.1, max: 9, noNaN: true }), { minLength: 41, maxLength: 41 }),
        (v) => {
          const [one, turned] = [Float64Array.from(v), Float64Array.from([...v].reverse())];
          // Ends alike to the last digits are told apart by rounding, which does not turn with the curve.
          fc.pre(Math.abs(v[0] - v[40]) > 1e-6);
          const [a, b] = [noisyEnd(one, rpm), noisyEnd(turned, rpm)];
          expect(b === null).toBe(a === null);
          if (!a || !b) return;
          expect(b.side).not.toBe(a.side);
          expect(a.rpm - rpm[0]).toBe(rpm[40] - b.rpm);
          expect(b.times).toBeCloseTo(a.times, 9);
        },
      ),
    ));
  it('a notch in the middle is no end', () => {
    const notch = Float64Array.from(rpm, (_, j) => (Math.abs(j - 20) < 4 ? 5 : 0.5));
    expect(noisyEnd(notch, rpm)).toBeNull();
  });
});
