/** How often the band holds the whole true curve, and how often “up to” says too much, over simulated A-B-A tests. */
import { seededRng } from '../../core/base/rng.ts';
import { analyseContrast } from '../../core/compare/contrast-analysis.ts';
import type { ComparedPull } from '../../core/compare/compared-pull.ts';
import { smoothed } from '../../core/compare/smoothing.ts';
import { rpmGrid } from '../../core/correct/torque-curve.ts';
import { runsOf } from '../../core/plan/design.ts';
import { ENGINES } from '../../core/capture/simulated/engines.ts';
import { mountShift, pullNoise, TYPICAL_NOISE } from '../../core/capture/simulated/noise.ts';
import { effectPercent, type Effect } from '../capture/scenario.ts';
import { truthLp } from './simulate.ts';

export const EFFECTS: Record<'none' | 'constant' | 'bump', readonly Effect[]> = {
  none: [],
  constant: [{ kind: 'constant', percent: 2 }],
  bump: [{ kind: 'bump', percent: 5, centreRpm: 5000, widthRpm: 600 }],
};

export interface CoverageInput {
  readonly tests: number;
  readonly remount: boolean;
  readonly effect: keyof typeof EFFECTS;
  readonly seed: number;
  /** Multiplies the band’s half-width: 1, except to see that the check can fail. */ readonly widthTimes?: number;
}

/**
 * Simulates whole tests at curve level: A-B-A, three pulls a run after three warm-ups, noise at the
 * levels of docs/method.md. The truth the band is held against is the true gain smoothed over 200 rpm;
 * “up to” is held against the largest true gain, unsmoothed.
 */
// eslint-disable-next-line max-lines-per-function -- one simulated test from its plan to its verdict
export function coverage({ tests, remount, effect, seed, widthTimes = 1 }: CoverageInput) {
  const rng = seededRng(seed);
  const grid = rpmGrid(2500, 6500, 50);
  const noise = pullNoise(grid, TYPICAL_NOISE);
  const gain = grid.map((r) => effectPercent(EFFECTS[effect], r));
  const truth = smoothed(truthLp(gain), 50);
  const largest = Math.max(...gain);
  const mountVariance = (TYPICAL_NOISE.remountStep / Math.SQRT2) ** 2;
  let covered = 0,
    overclaimed = 0,
    claimed = 0,
    halfWidth = 0;
  for (let t = 0; t < tests; t++) {
    const shifts = [0, 0, 0].map(() => (remount ? mountShift(TYPICAL_NOISE, rng) : 0));
    const pulls: ComparedPull[] = ['stock', 'part', 'stock'].flatMap((arm, run) =>
      [0, 1, 2].map((k) => {
        const error = noise(rng);
        return {
          id: `${run}-${k}`,
          arm,
          order: run * 6 + 4 + k,
          mount: remount ? run : 0,
          counted: true,
          torqueNm: Float64Array.from(
            grid,
            (r, j) =>
              ENGINES.na4.torqueNm(r) *
              (arm === 'part' ? 1 + gain[j] / 100 : 1) *
              Math.exp((error[j] + shifts[run]) / 100),
          ),
        };
      }),
    );
    const outcome = analyseContrast({
      arm: 'part',
      against: 'stock',
      runs: runsOf(pulls),
      grid,
      stepRpm: 50,
      smoothingRpm: 200,
      alpha: 0.025,
      drift: 'none',
      driftBound: 0.3,
      guard: 'strict',
      repeatability: {
        ...(remount ? { mount: { variance: mountVariance, df: 10 } } : {}),
      },
    });
    if (!outcome.ok) throw new Error(`a simulated test was refused: ${outcome.refused.code}`);
    const { band, result } = outcome.value;
    const reach = band.upper.map((upper, j) => (upper - band.d[j]) * widthTimes);
    if (band.d.every((d, j) => Math.abs(d - truth[j]) <= reach[j])) covered += 1;
    if (result.relative.upTo.gain > largest) overclaimed += 1;
    if (result.relative.upTo.gain > 0) claimed += 1;
    halfWidth += reach.reduce((a, b) => a + b, 0) / reach.length;
  }
  return {
    tests,
    coveredPct: (100 * covered) / tests,
    overclaimedPct: (100 * overclaimed) / tests,
    claimedPct: (100 * claimed) / tests,
    meanHalfWidthLp: halfWidth / tests,
  };
}
