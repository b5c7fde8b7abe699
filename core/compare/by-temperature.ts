/** What the start temperature does to one contrast: pulls moved by the registered slope, and what that leaves open. */
import type { Layout } from '../plan/contrast-weights.ts';
import type { TemperatureSlope } from '../register/temperature-slope.ts';
import type { ComparedPull } from './compared-pull.ts';
import type { GainBand } from './gain-band.ts';
import type { MountSetting } from './mount-setting.ts';
import type { ScalarGain } from './scalar-gain.ts';
import { checkSlope, temperatureTerm, type SlopeCheck, type TemperatureTerm } from './start-temperature.ts';

export interface ByTemperature {
  readonly slope: TemperatureSlope;
  readonly term: TemperatureTerm;
  /** Taken off each pull, lp. */ readonly shift: readonly number[];
  /** The session's own slope; none where it tells none, or nothing is registered to hold it against. */
  readonly check: SlopeCheck | null;
}

/** @returns null where the plan names no start temperature, or a pull has none */
export function byTemperature(
  slope: TemperatureSlope | null,
  pulls: readonly ComparedPull[],
  layout: Layout,
  { layout: reduced, reduce }: MountSetting,
  averages: readonly number[],
): ByTemperature | null {
  if (!slope || pulls.some((pull) => pull.startC === undefined)) return null;
  const temperatures = pulls.map((pull) => pull.startC!);
  const perUnit = reduce(temperatures.map((T) => Float64Array.of(T))).map((row) => row[0]);
  return {
    slope,
    term: temperatureTerm(perUnit, reduced, slope),
    shift: temperatureTerm(temperatures, layout, slope).shift,
    check: slope.b === 0 ? null : (checkSlope(averages, temperatures, layout, slope) ?? null),
  };
}

interface Limits<T> {
  readonly lower: T;
  readonly upper: T;
}
/** Where the session contradicts the slope: the smaller lower and the larger upper limit of with and without it. */
export function widerBand(band: GainBand, plain: Limits<Float64Array>): GainBand {
  return {
    ...band,
    lower: band.lower.map((v, j) => Math.min(v, plain.lower[j])),
    upper: band.upper.map((v, j) => Math.max(v, plain.upper[j])),
  };
}
export const widerScalar = (gain: ScalarGain, plain: Limits<number>): ScalarGain => ({
  ...gain,
  lower: Math.min(gain.lower, plain.lower),
  upper: Math.max(gain.upper, plain.upper),
});
