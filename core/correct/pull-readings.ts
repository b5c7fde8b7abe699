/** Clock, fuel flow and boost of one pull on the grid, as observed: what metrics beside torque rest on. */
import type { PullFile } from '../capture/pull-file-types.ts';
import type { CorrectedPull } from './pull-correction.ts';

/** NaN where there is no value, left out where the file has no such channel. */
export interface PullReadings {
  /** Factor that brought the torque as observed to standard air. */
  readonly factor: number;
  readonly timeS?: Float64Array | undefined;
  readonly fuelM3S?: Float64Array | undefined;
  /** Manifold over ambient, Pa. */
  readonly boostPa?: Float64Array | undefined;
}

export function pullReadings(
  { channels }: PullFile,
  { curveOf, factor }: CorrectedPull,
  ambientPa: number,
): PullReadings {
  const { time, fuelFlow, manifoldPressure } = channels;
  return {
    factor: factor.factor,
    timeS: time && curveOf(time),
    fuelM3S: fuelFlow && curveOf(fuelFlow),
    boostPa: manifoldPressure && curveOf(manifoldPressure).map((p) => p - ambientPa),
  };
}
