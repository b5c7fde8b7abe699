/** A window looked at after the result: as if it had been planned, and nothing more. */
import { describe, expect, it } from 'vitest';
import { readTestFile } from '../../contract/judge/test-file.ts';
import { DEFAULT_POLICY } from '../../core/base/policy.ts';
import { analyseTest, isRefused } from '../../core/judge/analyse-test.ts';
import { inWindow } from '../../core/judge/in-window.ts';
import { simulatedResult } from './simulated-result.ts';

const { test, read } = simulatedResult({
  seed: 81,
  arms: [
    { id: 'stock', role: 'baseline' },
    {
      id: 'part',
      role: 'part',
      effect: [{ kind: 'ramp', fromRpm: 2500, toRpm: 6500, fromPercent: -4, toPercent: 8 }],
    },
  ],
});
const over = (fromRpm: number, toRpm: number) =>
  inWindow(readTestFile(test), read, DEFAULT_POLICY, { fromRpm, toRpm });

describe('a window that somebody draws', () => {
  it('gives what the same test would with that window planned', () => {
    const planned = readTestFile({
      ...test,
      band: { fromRpm: 3000, toRpm: 4500, stepRpm: 50 },
      metric: 'bandAverage',
    });
    const [contrast] = analyseTest(planned, read).result.contrasts;
    if (isRefused(contrast)) throw new Error(contrast.message);
    const { gain, lower, upper } = contrast.relative.bandAverage;
    expect(over(3000, 4500).averages[0].pct).toEqual({ gain, lower, upper });
  });
  it('follows the gain along the curve: a loss below, a gain above', () => {
    const [low, high] = [over(2500, 3500), over(5500, 6450)];
    expect(low.averages[0].pct.upper).toBeLessThan(0);
    expect(low.averages[0].kw.gain).toBeLessThan(0);
    expect(high.refused).toEqual([{ arm: 'part', code: 'TOO_SHORT' }]);
    expect(over(5400, 6450).averages[0].nm.lower).toBeGreaterThan(0);
  });
});
