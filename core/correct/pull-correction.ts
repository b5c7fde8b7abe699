/** One pull, from parsed file to corrected torque curve. */
import type { Correction, Engine } from '../base/standards.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import type { AirState } from './air.ts';
import { appliedFactor, correctionFactor, type Applied, type Factor } from './standards.ts';
import { findSweep, type Sweep, type SweepPolicy } from '../capture/sweep.ts';
import { curveReader } from './torque-curve.ts';

export interface CorrectedPull {
  readonly factor: Factor;
  /** Factor already in the file, divided out first. */
  readonly undone: number;
  /** What SAE J1349 would say of this air for a spark engine: how different the air of two pulls was, whatever is corrected. */
  readonly airFactor: number;
  readonly sweep: Sweep;
  /** Corrected torque at each grid rpm, N·m; NaN where there is no value. */
  readonly torqueNm: Float64Array;
  /** Reads another channel of the pull off at the same grid. */
  readonly curveOf: (values: Float64Array) => Float64Array;
}

/**
 * Undoes what the dyno applied, corrects by the standard (and the house's school), and reads torque off at the grid.
 * Throws `PullFileError` (no sweep) or `CorrectionError`.
 */
export function correctPull(
  pull: PullFile,
  air: AirState,
  engine: Engine,
  { standard, school }: Correction,
  applied: Applied | undefined,
  grid: readonly number[],
  stepRpm: number,
  policy?: SweepPolicy,
): CorrectedPull {
  const sweep = findSweep(
    { timeS: pull.channels.time, rpm: pull.rpm, throttlePct: pull.channels.throttle },
    policy,
  );
  const factor = correctionFactor(standard, air, engine, school);
  const undone = appliedFactor(applied, air, engine);
  const curveOf = curveReader(pull.rpm, sweep, grid, stepRpm);
  const observed = curveOf(pull.torqueNm);
  const airFactor = correctionFactor('sae-j1349', air, { ignition: 'spark', aspiration: 'natural' }).factor;
  return {
    factor,
    undone,
    airFactor,
    sweep,
    curveOf,
    torqueNm: observed.map((t) => (t / undone) * factor.factor),
  };
}
