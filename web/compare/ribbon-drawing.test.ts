import { describe, expect, it } from 'vitest';
import { bandPath, gainPath } from './ribbon-drawing.ts';
import { ribbonScales } from './ribbon-scales.ts';

const CURVE = [
  { rpm: 2500, gain: 1, lower: -1, upper: 3 },
  { rpm: 4500, gain: 4, lower: 2, upper: 6 },
  { rpm: 6500, gain: 8, lower: 6, upper: 9 },
];
const FRAME = { left: 46, right: 766, top: 20, bottom: 320 };
const scales = ribbonScales(CURVE, FRAME);

describe('the drawing of a gain ribbon', () => {
  it('puts the ends of the window on the edges of the frame', () => {
    expect([scales.x(2500), scales.x(4500), scales.x(6500)]).toEqual([46, 406, 766]);
  });
  it('keeps the whole band and zero inside, also when every value is above zero', () => {
    for (const value of [0, -1, 9]) {
      expect(scales.y(value)).toBeGreaterThanOrEqual(FRAME.top);
      expect(scales.y(value)).toBeLessThanOrEqual(FRAME.bottom);
    }
    const above = ribbonScales(
      CURVE.map((p) => ({ ...p, lower: p.lower + 5, upper: p.upper + 5 })),
      FRAME,
    );
    expect(above.y(0)).toBeLessThanOrEqual(FRAME.bottom);
  });
  it('draws the line through every gain, and the band along upper and back along lower', () => {
    const numbers = (d: string): number[] => d.match(/-?\d+(\.\d+)?/g)!.map(Number);
    const at = (rpm: number, value: number): number[] =>
      [scales.x(rpm), scales.y(value)].map((v) => Number(v.toFixed(1)));
    expect(numbers(gainPath(CURVE, scales))).toEqual(CURVE.flatMap((p) => at(p.rpm, p.gain)));
    expect(numbers(bandPath(CURVE, scales))).toEqual([
      ...CURVE.flatMap((p) => at(p.rpm, p.upper)),
      ...CURVE.toReversed().flatMap((p) => at(p.rpm, p.lower)),
    ]);
  });
});
