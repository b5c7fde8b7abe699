import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { standings } from './standings.ts';

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
