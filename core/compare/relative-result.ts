import { pctFromLp } from '../base/units.ts';
import type { GainBand } from './gain-band.ts';
import type { CurvePoint, RelativeResult, ScalarInterval, Stretch, UpTo } from './result.ts';
import type { ScalarGain } from './scalar-gain.ts';
import { stretches } from './stretches.ts';

/** The contrast in per cent: the same number for power and torque. */
export function relativeResult(band: GainBand, average: ScalarGain): RelativeResult {
  const curve = Array.from(band.rpm, (rpm, j) => ({
    rpm,
    gain: pctFromLp(band.d[j]),
    lower: pctFromLp(band.lower[j]),
    upper: pctFromLp(band.upper[j]),
  }));
  return {
    unit: '%',
    curve,
    bandAverage: scalarIn(average, pctFromLp),
    upTo: upToOf(curve),
    worst: worstOf(curve),
    substantiated: stretches(band.rpm, (j) => band.lower[j] > 0).map(plain),
    losses: stretches(band.rpm, (j) => band.upper[j] < 0).map((s) => {
      const deepest = worstOf(curve.slice(s.from, s.to + 1));
      return { ...plain(s), gain: deepest.gain, rpm: deepest.rpm };
    }),
  };
}

/** A number per pull in another unit. */
export const scalarIn = (g: ScalarGain, inUnit: (lp: number) => number): ScalarInterval => ({
  gain: inUnit(g.d),
  lower: inUnit(g.lower),
  upper: inUnit(g.upper),
  df: g.used.dfEffective,
  interval: g.used.name,
});

/** The largest lower limit with its rpm; the largest mean gain stands beside it. */
export function upToOf(curve: readonly CurvePoint[]): UpTo {
  const best = curve.reduce((a, b) => (b.lower > a.lower ? b : a));
  const mean = curve.reduce((a, b) => (b.gain > a.gain ? b : a));
  return { gain: best.lower, rpm: best.rpm, largestMeanGain: mean.gain, largestMeanGainRpm: mean.rpm };
}
export const worstOf = (curve: readonly CurvePoint[]): CurvePoint =>
  curve.reduce((a, b) => (b.gain < a.gain ? b : a));

const plain = ({ fromRpm, toRpm }: Stretch): Stretch => ({ fromRpm, toRpm });
