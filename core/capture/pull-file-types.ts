import type { Fuel } from '../base/units.ts';
import type { ColumnKey, Quantity } from '../base/quantities.ts';
import type { Encoding } from '../base/text.ts';
import type { Recorded } from './recorded.ts';

/** A column named by the caller: its header, and its unit when the header does not say. */
export interface ColumnChoice {
  readonly column: string;
  readonly unit?: string | undefined;
}
/** Columns by what they hold. */
export type ColumnChoices = { readonly [K in ColumnKey]?: ColumnChoice | undefined };
export interface PullFileOptions {
  readonly file?: string;
  readonly columns?: ColumnChoices | undefined;
  readonly fuel?: Fuel | undefined;
  /** Radius of the roller in m, to get power from roller force where the roller speed is in rpm. */
  readonly rollerRadiusM?: number | undefined;
  /** Engine rpm per km/h of vehicle speed, to get engine speed where it was not logged. */
  readonly rpmPerKmh?: number | undefined;
  readonly maxBytes?: number | undefined;
  /** `needed` leaves out channels that neither a result nor a gate rests on; default `all`. */
  readonly channels?: 'all' | 'needed';
  /** `optional` for the log of an engine, which has neither torque nor power; default `required`. */
  readonly torque?: 'required' | 'optional' | undefined;
}
export interface FoundColumn {
  readonly index: number;
  readonly header: string;
  readonly quantity: Quantity | null;
  readonly unit: string | null;
  readonly unitFrom: 'file' | 'caller' | 'values' | null;
  readonly gauge?: boolean | undefined;
}
export interface PullFinding {
  readonly code:
    | 'TIME_NOT_RISING'
    | 'POWER_TORQUE_MISMATCH'
    | 'COLUMN_NOT_AS_NAMED'
    | 'UNIT_NOT_AS_STATED'
    | 'UNIT_OF_ANOTHER_KIND'
    | 'SAMPLES_DROPPED'
    | 'MIXED_DECIMALS'
    | 'SECOND_RISE'
    | 'SEVERAL_COLUMNS'
    | 'READINGS_MISSING'
    | 'ROW_LENGTH'
    | 'NO_FINAL_LINE_END';
  readonly message: string;
  readonly line?: number;
  readonly column?: string;
  /** By how much two readings of one thing differ throughout, as a share. */
  readonly share?: number;
}
export interface PullFile {
  readonly encoding: Encoding;
  readonly delimiter: string;
  readonly decimal: '.' | ',';
  readonly lineEnd: 'LF' | 'CRLF' | 'CR';
  readonly headerLine: number;
  readonly unitsLine: number | null;
  readonly metadata: Readonly<Record<string, string>>;
  readonly columns: readonly FoundColumn[];
  /** Samples in time order (file order without time). Units: `INTERNAL_UNIT`. */
  readonly samples: number;
  readonly line: Int32Array;
  readonly channels: Readonly<Partial<Record<Quantity, Float64Array>>>;
  /** Engine speed in rpm and torque in N·m, measured or worked out. */
  readonly rpm: Float64Array;
  readonly torqueNm: Float64Array;
  readonly torqueFrom: 'torque' | 'power' | 'roller force';
  /** When it was recorded, where the file says so. */
  readonly recorded?: Recorded | undefined;
  readonly findings: readonly PullFinding[];
}
