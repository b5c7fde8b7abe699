import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { controlLevels, type ControlReading } from './control-level.ts';

const HOW: ControlReading = {
  standard: 'none',
  band: { fromRpm: 3000, toRpm: 6000, stepRpm: 50 },
  engine: { ignition: 'spark', aspiration: 'natural' },
  school: 'correct',
  applies: 'none',
};
const AIR = { temperatureC: 15, pressureHpa: 1000, humidity: { kind: 'relative', percent: 40 } } as const;
const fileOf = (name: string, torqueNm: number, toRpm = 6500, preamble = '') => ({
  name,
  air: AIR,
  bytes: new TextEncoder().encode(
    `${preamble}time (s),rpm,torque (N·m)\n` +
      Array.from({ length: 200 }, (_, i) => {
        const rpm = 2500 + ((toRpm - 2500) * i) / 199;
        return `${(i * 0.05).toFixed(2)},${rpm.toFixed(1)},${torqueNm}`;
      }).join('\n') +
      '\n',
  ),
});

describe('what a control vehicle reads', () => {
  it('is its mean power over the range, in hundredfold logarithms: one per cent of torque is one', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 50, max: 600 }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        (nm, pct) => {
          const { values } = controlLevels(
            [fileOf('a', nm), fileOf('b', Number((nm * Math.exp(pct / 100)).toFixed(4)))],
            HOW,
          );
          expect(values[1] - values[0]).toBeCloseTo(pct, 2);
        },
      ),
      { numRuns: 20 },
    );
    // At one torque the mean of ln(rpm) over the range is what is left; P = T·2π·n/60.
    const grid = Array.from({ length: 61 }, (_, i) => 3000 + 50 * i);
    const mean = grid.reduce((s, n) => s + 100 * Math.log((100 * 2 * Math.PI * n) / 60), 0) / grid.length;
    expect(controlLevels([fileOf('a', 100)], HOW).values[0]).toBeCloseTo(mean, 2);
  });
  it('comes with when its files say they were recorded', () => {
    const [recorded] = controlLevels(
      [fileOf('a', 100, 6500, '# Recorded: 2026-11-09 07:30:00\n')],
      HOW,
    ).recorded;
    expect(recorded).toMatchObject({ day: '2026-11-09', seconds: 27_000 });
  });
  it('is refused where a pull leaves out part of the range, with the file', () => {
    expect(() => controlLevels([fileOf('a', 100), fileOf('short.csv', 100, 5200)], HOW)).toThrow(
      /does not cover/,
    );
  });
});
