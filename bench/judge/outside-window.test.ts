/** What the files say beyond the planned range: told where it is a loss, whoever chose the range. */
import { describe, expect, it } from 'vitest';
import type { Effect } from '../capture/scenario.ts';
import { simulatedResult } from './simulated-result.ts';

const ramp = (fromPercent: number, toPercent: number): Effect[] => [
  { kind: 'ramp', fromRpm: 3200, toRpm: 4000, fromPercent, toPercent },
];
function outside(effect: Effect[], fromRpm: number, toRpm: number, seed = 91) {
  const { result } = simulatedResult({
    seed,
    noise: { level: 0.3, slow: 0.2, quick: 0.2 },
    band: { fromRpm, toRpm, stepRpm: 50 },
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part', effect },
    ],
  });
  return result.findings.filter((f) => f.code === 'LOSS_OUTSIDE_WINDOW');
}

describe('beyond the planned range', () => {
  it('a loss below it is told with the range it was read over and what it is at most', () => {
    const [told, ...more] = outside(ramp(-6, 6), 4000, 6500);
    expect(more).toEqual([]);
    expect(told).toMatchObject({ gate: 'losses told', state: 'caution' });
    const read =
      /show a loss: −(\d\.\d) % on average from (\d).(\d00) to 3.950 rpm \(at most −(\d\.\d) %\)/.exec(
        told.message,
      )!;
    // The truth falls from +6 to −6 over the range: its mean there is about −4.
    expect(Number(read[1])).toBeGreaterThan(1.5);
    expect(Number(read[1])).toBeLessThan(6.5);
    expect(Number(read[4])).toBeLessThan(Number(read[1]));
    // No further than a thousand rpm, where files reach further.
    expect(Number(`${read[2]}${read[3]}`)).toBeGreaterThanOrEqual(3000);
  });
  it('a loss above it is told as well', () => {
    const above: Effect[] = [{ kind: 'ramp', fromRpm: 5000, toRpm: 5600, fromPercent: 5, toPercent: -6 }];
    expect(outside(above, 2500, 5200)).toHaveLength(1);
  });
  it('a gain there, or a range that takes in all there is, has nothing to tell', () => {
    expect(outside(ramp(4, 6), 4000, 6500)).toEqual([]);
    expect(outside(ramp(-6, 6), 2300, 6600)).toEqual([]);
  });
  it('a part that does nothing is seldom said to lose outside: one in forty on each side', () => {
    const seeds = Array.from({ length: 60 }, (_, s) => 300 + s);
    const wrong = seeds.flatMap((seed) => outside([], 4000, 5600, seed)).length;
    // Two sides of 60 sessions at 2.5 %; four Monte-Carlo errors.
    expect(wrong).toBeLessThan(3 + 4 * Math.sqrt(120 * 0.025 * 0.975));
  }, 60_000);
});
