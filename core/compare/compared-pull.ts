import type { PullReadings } from '../correct/pull-readings.ts';

/** A pull as a comparison takes it: where it stands in the session, and its corrected curve. */
export interface ComparedPull {
  readonly id: string;
  readonly arm: string;
  readonly order: number;
  readonly mount: number | string;
  readonly counted: boolean;
  readonly torqueNm: Float64Array;
  /** Temperature it started from by the sensor the plan names, °C; left out where there is none. */
  readonly startC?: number | undefined;
  /** What its log says beside torque; left out where nobody asks. */
  readonly logged?: PullReadings | undefined;
}
