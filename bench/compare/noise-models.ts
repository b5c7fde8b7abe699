/**
 * Noise models on which the interval rules are tried, in lp on a grid. The plain one is the scatter of a dyno as
 * docs/method.md assumes it; the others depart from it in the ways that have broken rules before.
 */
import type { Rng } from '../../core/base/rng.ts';
import { smoothProcess, QUICK_RPM, SLOW_RPM, TYPICAL_NOISE } from '../../core/capture/simulated/noise.ts';

export interface NoiseModel {
  readonly key: string;
  readonly name: string;
  /** Scatter of arm B over that of arm A: of the whole curve, and of its level alone. */
  readonly b?: number;
  readonly bLevel?: number;
  /** Scatter of every pull over what the history says. */
  readonly car?: number;
  /** Scatter along rpm, as a multiple. */
  readonly shape?: (share: number) => number;
  /** Whether single pulls come out low: a level with a long tail downwards, same standard deviation. */
  readonly skewed?: true;
  /** Scatter of the level, as a multiple. */
  readonly levelShare?: number;
  /** Whether a pull scatters in its level and nothing else. */
  readonly levelOnly?: true;
}

/** `share` runs from 0 at the low end of the band to 1 at the high end. */
const notch = (share: number): number => (Math.abs(share - 0.6) < 0.05 ? 2 : 1);
const ends = (share: number): number => (share < 0.1 || share > 0.9 ? 2 : 1);

export const NOISE_MODELS: readonly NoiseModel[] = [
  { key: 'alike', name: 'arms alike' },
  { key: 'b15', name: 'B 1.5 times as noisy', b: 1.5 },
  { key: 'b2', name: 'B twice as noisy', b: 2 },
  { key: 'bLevel2', name: 'only B’s level twice as noisy', bLevel: 2 },
  { key: 'notch', name: 'local notch, SD twice', shape: notch },
  { key: 'ends', name: 'noisy ends, SD twice', shape: ends },
  { key: 'skewed', name: 'skewed low pulls', skewed: true },
  { key: 'car15', name: 'car 1.5 times its history', car: 1.5 },
  { key: 'car2', name: 'car twice its history', car: 2 },
];
/** What the rules are known not to hold, or to hold at a cost: shown beside the others. */
export const HARD_MODELS: readonly NoiseModel[] = [
  { key: 'levelSkewedB', name: 'level only, skewed low, B twice', levelOnly: true, skewed: true, b: 2 },
  { key: 'end3', name: 'one end, SD three times', shape: (share) => (share > 0.85 ? 3 : 1) },
];

/** Draws the noise of one pull of an arm on a grid, lp. */
export function pullDrawer(rpm: readonly number[], model: NoiseModel) {
  const [slow, quick] = [smoothProcess(rpm, SLOW_RPM), smoothProcess(rpm, QUICK_RPM)];
  const shape = rpm.map((_, j) => model.shape?.(j / (rpm.length - 1)) ?? 1);
  const { level: levelSd, slow: slowSd, quick: quickSd, white } = TYPICAL_NOISE;
  return (arm: 0 | 1, rng: Rng): Float64Array => {
    const whole = (model.car ?? 1) * (arm === 1 ? (model.b ?? 1) : 1);
    const unit = model.skewed ? 1 + Math.log(1 - rng.uniform()) : rng.normal();
    const level = (model.levelShare ?? 1) * whole * (arm === 1 ? (model.bLevel ?? 1) : 1) * levelSd * unit;
    if (model.levelOnly) return Float64Array.from(rpm, () => level + 0.01 * rng.normal());
    const [a, b] = [slow(rng), quick(rng)];
    return a.map((v, j) => shape[j] * (level + whole * (slowSd * v + quickSd * b[j] + white * rng.normal())));
  };
}
