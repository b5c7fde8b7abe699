import { describe, expect, it } from 'vitest';
import { seededRng } from '../../base/rng.ts';
import { ENGINES } from './engines.ts';
import { pullNoise, TYPICAL_NOISE } from './noise.ts';

const GRID = Array.from({ length: 41 }, (_, i) => 2500 + 100 * i);

describe('simulated scatter', () => {
  it('has the standard deviation its levels add up to, along the whole grid', () => {
    const rng = seededRng(4711);
    const draw = pullNoise(GRID, TYPICAL_NOISE);
    const pulls = Array.from({ length: 4000 }, () => draw(rng));
    const { level, slow, quick, white } = TYPICAL_NOISE;
    const expected = Math.hypot(level, slow, quick, white);
    for (const at of [0, 20, 40]) {
      const sd = Math.sqrt(pulls.reduce((sum, pull) => sum + pull[at] ** 2, 0) / pulls.length);
      // Standard error of an SD from 4 000 is 1.1 %; four of them.
      expect(Math.abs(sd / expected - 1)).toBeLessThan(0.05);
    }
  });
  it('is the same from the same seed, and another from another', () => {
    const of = (seed: number) => [...pullNoise(GRID, TYPICAL_NOISE)(seededRng(seed))];
    expect(of(7)).toEqual(of(7));
    expect(of(7)).not.toEqual(of(8));
  });
});
describe('simulated engines', () => {
  // Pulls begin where the engine has come on boost; below that nothing is promised.
  it.each(Object.entries(ENGINES))(
    '%s gives torque without a cliff from 2 000 rpm to its limit',
    (_, engine) => {
      let before = engine.torqueNm(2000);
      for (let rpm = 2000; rpm <= engine.limitRpm; rpm += 50) {
        const torque = engine.torqueNm(rpm);
        expect(torque).toBeGreaterThan(0);
        expect(Math.abs(torque / before - 1)).toBeLessThan(0.2);
        before = torque;
      }
    },
  );
});
