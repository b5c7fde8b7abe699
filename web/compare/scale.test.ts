import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scale, standings, ticks } from './scale.ts';

describe('ticks', () => {
  it('are round and cover the range', () => {
    expect(ticks(2500, 6500, 4)).toEqual([3000, 4000, 5000, 6000]);
    expect(ticks(-1.3, 7.4, 6)).toEqual([0, 2, 4, 6]);
  });
  it('lie inside, at equal steps of 1, 2 or 5', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.double({ min: 0.5, max: 9000, noNaN: true }),
        (from, span) => {
          const list = ticks(from, from + span, 6);
          const steps = list.slice(1).map((v, i) => v - list[i]);
          return (
            list.every((v) => v >= from - 1e-6 * span && v <= from + span * (1 + 1e-6)) &&
            steps.every((s) => Math.abs(s / steps[0] - 1) < 1e-6)
          );
        },
      ),
    );
  });
});
it('a scale maps its ends onto its ends', () => {
  const x = scale(2500, 6500, 46, 760);
  expect([x(2500), x(4500), x(6500)]).toEqual([46, 403, 760]);
});
describe('standings of a band', () => {
  it('split where the band leaves or meets zero, sharing the border', () => {
    expect(standings([-2, -2, -1, 1, 1], [-1, -1, 1, 3, 3])).toEqual([
      { from: 0, to: 2, standing: 'loss' },
      { from: 2, to: 3, standing: 'open' },
      { from: 3, to: 4, standing: 'gain' },
    ]);
  });
  it('cover the whole curve without a gap', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: 0, max: 3, noNaN: true })),
          { minLength: 2, maxLength: 60 },
        ),
        (points) => {
          const parts = standings(
            points.map(([low]) => low),
            points.map(([low, width]) => low + width),
          );
          return (
            parts[0].from === 0 &&
            parts.at(-1)!.to === points.length - 1 &&
            parts.every((p, i) => i === 0 || p.from === parts[i - 1].to)
          );
        },
      ),
    );
  });
});
