import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../../base/rng.ts';
import { gapsIn } from './gaps.ts';
import { jumpsIn } from './jumps.ts';
import { apartIn } from './power-torque.ts';
import { stuckIn } from './stuck.ts';

/** A torque curve as an engine gives it: smooth, with noise, written with some decimals. */
interface Engine {
  readonly seed: number;
  readonly base: number;
  readonly swing: number;
  readonly noise: number;
  readonly digits: number;
  readonly samples: number;
}
const engine: fc.Arbitrary<Engine> = fc.record({
  seed: fc.integer({ min: 1, max: 1e6 }),
  base: fc.double({ min: 60, max: 700, noNaN: true }),
  swing: fc.double({ min: 0, max: 0.4, noNaN: true }),
  noise: fc.double({ min: 0.0005, max: 0.012, noNaN: true }),
  digits: fc.integer({ min: 0, max: 3 }),
  samples: fc.integer({ min: 80, max: 1200 }),
});
function sweepOf({ seed, base, swing, noise, digits, samples }: Engine) {
  const rng = seededRng(seed);
  const written = (value: number, d: number): number => Number(value.toFixed(d));
  const torque = Float64Array.from({ length: samples }, (_, i) =>
    written(base * (1 + swing * Math.sin((Math.PI * i) / samples)) * (1 + noise * rng.normal()), digits),
  );
  const rpm = Float64Array.from({ length: samples }, (_, i) =>
    written(2000 + (4500 * i) / samples + rng.normal(), 1),
  );
  const power = torque.map((t, i) => written((t * rpm[i]) / 9549.2966, 3) * 1000);
  const time = Float64Array.from({ length: samples }, (_, i) => written((15 * i) / samples, 3));
  return { torque, rpm, power, time };
}
const places = fc.double({ min: 0.1, max: 0.9, noNaN: true });

describe('sound sweeps are not doubted', () => {
  it('whatever the engine, its scatter and how finely it is written', () => {
    fc.assert(
      fc.property(engine, (made) => {
        const { torque, rpm, power, time } = sweepOf(made);
        const { outliers, steps } = jumpsIn(torque, 0);
        expect([outliers, steps, stuckIn(torque), gapsIn(time, rpm), apartIn(power, torque, rpm)]).toEqual([
          [],
          [],
          [],
          [],
          [],
        ]);
        expect(jumpsIn(rpm, 60)).toEqual({ outliers: [], steps: [] });
      }),
      { numRuns: 150 },
    );
  });
  it('nor are a few samples, of which nothing can be said', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e4, max: 1e4, noNaN: true }), { maxLength: 8 }), (values) => {
        const few = Float64Array.from(values);
        expect(jumpsIn(few, 0)).toEqual({ outliers: [], steps: [] });
        expect(apartIn(few, few, few)).toEqual([]);
      }),
    );
  });
});

describe('what is wrong is found where it stands', () => {
  it('a cell ten times, or a tenth of, what it was', () => {
    fc.assert(
      fc.property(engine, places, fc.constantFrom(10, 0.1, 100, 0), (made, where, by) => {
        const { torque } = sweepOf(made);
        const at = Math.floor(where * torque.length);
        torque[at] *= by;
        expect(jumpsIn(torque, 0)).toEqual({ outliers: [at], steps: [] });
      }),
      { numRuns: 150 },
    );
  });
  it('a stretch without its decimal point, from its first sample to its last', () => {
    fc.assert(
      fc.property(engine, places, fc.integer({ min: 2, max: 6 }), (made, where, length) => {
        const { torque } = sweepOf(made);
        const at = Math.min(Math.floor(where * torque.length), torque.length - length - 6);
        for (let i = at; i < at + length; i++) torque[i] *= 10;
        expect(jumpsIn(torque, 0).outliers).toEqual(Array.from({ length }, (_, k) => at + k));
      }),
      { numRuns: 100 },
    );
  });
  it('a torque that goes on another fifth higher', () => {
    fc.assert(
      fc.property(engine, places, (made, where) => {
        const { torque } = sweepOf({
          ...made,
          noise: Math.min(made.noise, 0.005),
          digits: Math.max(1, made.digits),
        });
        const at = Math.floor(where * torque.length);
        for (let i = at; i < torque.length; i++) torque[i] *= 1.25;
        expect(jumpsIn(torque, 0)).toEqual({ outliers: [], steps: [at] });
      }),
      { numRuns: 100 },
    );
  });
  it('a power that does not go with its torque, by more than rounding', () => {
    fc.assert(
      fc.property(engine, places, fc.constantFrom(1.3, 0.7, 10, 0), (made, where, by) => {
        const { torque, rpm, power } = sweepOf({ ...made, digits: Math.max(1, made.digits) });
        const at = Math.floor(where * power.length);
        power[at] *= by;
        // A power of nothing beside a torque is no pair of readings.
        expect(apartIn(power, torque, rpm)).toEqual([at]);
      }),
      { numRuns: 100 },
    );
  });
  it('a pause in which the engine went on', () => {
    fc.assert(
      fc.property(engine, places, (made, where) => {
        const { rpm, time } = sweepOf({ ...made, samples: 400 });
        const at = Math.floor(where * 350) + 5;
        const cut = (values: Float64Array): Float64Array =>
          Float64Array.from([...values.subarray(0, at), ...values.subarray(at + 30)]);
        expect(gapsIn(cut(time), cut(rpm))).toEqual([at]);
      }),
      { numRuns: 60 },
    );
  });
  it('a channel that rests while it scattered before', () => {
    fc.assert(
      fc.property(engine, places, (made, where) => {
        const { torque } = sweepOf({ ...made, digits: 3, noise: Math.max(made.noise, 0.002), samples: 500 });
        const at = Math.min(440, Math.floor(where * 500));
        torque.fill(torque[at], at, at + 40);
        const found = stuckIn(torque);
        // A reading beside the stretch may happen to be the same.
        expect(found.length).toBeLessThanOrEqual(42);
        expect(found).toEqual(expect.arrayContaining(Array.from({ length: 39 }, (_, k) => at + 1 + k)));
      }),
      { numRuns: 60 },
    );
  });
});
