import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readFigures } from './legacy-figures.ts';
import { figureLine, scaleOf, type GraphScale, type Place } from './read-off.ts';

const scale = (axes: Parameters<typeof scaleOf>[0]): GraphScale => {
  const read = scaleOf(axes);
  if (typeof read === 'string') throw new Error(read);
  return read;
};
const SQUARE = {
  speed: [
    { x: 100, y: 500, value: 2000 },
    { x: 600, y: 500, value: 7000 },
  ],
  reading: [
    { x: 80, y: 500, value: 0 },
    { x: 80, y: 100, value: 200 },
  ],
} as const;

describe('a graph with square axes', () => {
  it('is read along both, and one pixel is worth what lies between the marks', () => {
    const { at, pixel } = scale(SQUARE);
    expect(at({ x: 350, y: 300 })).toEqual({ rpm: 4500, value: 100 });
    expect(pixel).toEqual({ rpm: 10, value: 0.5 });
    expect(figureLine('stock', 'hp', at({ x: 350, y: 300 }), pixel)).toBe('stock 100 hp at 4500');
  });
});

describe('a graph that was laid on the scanner anyhow', () => {
  // The picture is made from the graph by a map of the plane: turned, stretched, slanted, moved.
  const map = fc.record({
    turn: fc.double({ min: -0.4, max: 0.4, noNaN: true }),
    slant: fc.double({ min: -0.3, max: 0.3, noNaN: true }),
    wide: fc.double({ min: 0.05, max: 0.3, noNaN: true }),
    high: fc.double({ min: 1, max: 4, noNaN: true }),
  });
  it('reads every point of the curve back', () => {
    fc.assert(
      fc.property(
        map,
        fc.double({ min: 2500, max: 6500, noNaN: true }),
        fc.double({ min: 20, max: 180, noNaN: true }),
        (m, rpm, value) => {
          const place = (r: number, v: number): Place => {
            const [u, w] = [m.wide * (r - 2000) + m.slant * v, -m.high * v];
            return {
              x: 300 + u * Math.cos(m.turn) - w * Math.sin(m.turn),
              y: 900 + u * Math.sin(m.turn) + w * Math.cos(m.turn),
            };
          };
          // The axes need not cross at zero, nor the marks of one lie where the other is marked.
          const { at } = scale({
            speed: [
              { ...place(3000, 10), value: 3000 },
              { ...place(6000, 10), value: 6000 },
            ],
            reading: [
              { ...place(2000, 50), value: 50 },
              { ...place(2000, 150), value: 150 },
            ],
          });
          const read = at(place(rpm, value));
          expect(read.rpm).toBeCloseTo(rpm, 6);
          expect(read.value).toBeCloseTo(value, 6);
        },
      ),
    );
  });
});

describe('marks that make no scale', () => {
  const [a, b] = SQUARE.speed;
  it.each([
    ['the same value', { ...SQUARE, speed: [a, { ...b, value: 2000 }] as const }, /same value/],
    ['one place', { ...SQUARE, speed: [a, { ...b, x: 105 }] as const }, /nearer than 20 pixels/],
    [
      'one line',
      {
        ...SQUARE,
        reading: [
          { x: 100, y: 510, value: 0 },
          { x: 600, y: 510, value: 200 },
        ] as const,
      },
      /along one line/,
    ],
  ])('%s', (_, axes, why) => expect(scaleOf(axes)).toMatch(why));
});

it('a line that is written is read as the figure it says, within a pixel', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('stock' as const, 'part' as const, 'gain' as const),
      fc.constantFrom('kW' as const, 'hp' as const, 'N·m' as const),
      fc.double({ min: 1, max: 400, noNaN: true }),
      fc.integer({ min: 1000, max: 9000 }),
      fc.double({ min: 0.01, max: 3, noNaN: true }),
      (of, unit, value, rpm, worth) => {
        const line = figureLine(of, unit, { rpm, value }, { rpm: 4, value: worth });
        const { figures, wrong } = readFigures(line);
        expect(wrong).toEqual([]);
        expect(figures[0]).toMatchObject({ of, unit, rpm: Math.round(rpm / 10) * 10 });
        expect(Math.abs(figures[0].value - value)).toBeLessThanOrEqual(Math.max(worth, 0.5));
      },
    ),
  );
});
