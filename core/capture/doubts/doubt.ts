/** Samples of a sweep that do not look like readings of the engine. */
export type DoubtCode = 'OUTLIER' | 'STEP' | 'STUCK' | 'TIME_GAP' | 'SPEED_JUMP' | 'POWER_TORQUE_APART';

export interface Doubt {
  readonly code: DoubtCode;
  /** How many samples, and the first of them: line of the file, and the header of its column where it is of one. */
  readonly samples: number;
  readonly line: number;
  readonly column: string;
  /** Engine speeds between which they lie, rpm. */
  readonly fromRpm: number;
  readonly toRpm: number;
  readonly message: string;
}

/** The sweep of a pull in time order; `power` where the file has it beside torque, W. All of one length. */
export interface SweepReadings {
  readonly rpm: Float64Array;
  readonly torque: Float64Array;
  readonly power: Float64Array | undefined;
  readonly time: Float64Array | undefined;
  readonly line: Int32Array;
  /** Headers of the columns, for people. */
  readonly columns: { readonly rpm: string; readonly torque: string; readonly power: string };
}

/** A doubt about some samples, by their places in the sweep (not empty, ascending). */
export function doubtAt(
  code: DoubtCode,
  at: readonly number[],
  readings: SweepReadings,
  column: string,
  message: (count: string, line: number) => string,
): Doubt {
  const speeds = at.map((i) => readings.rpm[i]);
  const line = readings.line[at[0]];
  const count = at.length === 1 ? 'One sample' : `${at.length} samples`;
  return {
    code,
    samples: at.length,
    line,
    column,
    fromRpm: Math.min(...speeds),
    toRpm: Math.max(...speeds),
    message: message(count, line),
  };
}
