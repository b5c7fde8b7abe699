/** What a comparison says, as results hold it: plain data, without the working it came from. */
import type { Guard } from '../base/guard.ts';
import type { NoisyEnd } from './noisy-end.ts';
import type { Candidate } from './scalar-gain.ts';

export type ContrastCode =
  | 'ERROR_NO_DATA'
  | 'NOT_ENOUGH_PULLS'
  | 'DUPLICATE_PULLS'
  | 'TOO_SHORT'
  | 'NO_CLAIM_MOUNT_UNKNOWN'
  | 'DRIFT_CONFOUNDED';

export interface RefusedContrast {
  readonly arm: string;
  readonly against: string;
  readonly pulls: { arm: number; against: number };
  readonly design: string;
  readonly code: ContrastCode;
  readonly message: string;
}
/** The same before it is put into words. */
export type Refusal = Omit<RefusedContrast, 'message'>;

export interface Interval {
  readonly gain: number;
  readonly lower: number;
  readonly upper: number;
}
/** Limits of one number per pull, with which of the three intervals was the widest. */
export interface ScalarInterval extends Interval {
  /** Effective degrees of freedom of the interval used. */
  readonly df: number;
  /** Absent in results of older versions. */
  readonly interval?: Candidate['name'];
}
export interface CurvePoint extends Interval {
  readonly rpm: number;
}
export interface UpTo {
  readonly gain: number;
  readonly rpm: number;
  readonly largestMeanGain: number;
  readonly largestMeanGainRpm: number;
}
export interface Stretch {
  readonly fromRpm: number;
  readonly toRpm: number;
}
export interface PeakToPeak extends ScalarInterval {
  readonly gainPct: number;
  readonly lowerPct: number;
  readonly upperPct: number;
  readonly armRpm: number;
  readonly againstRpm: number;
  /** Whether either largest value lies at the end of the window: then it is no peak, and cannot be claimed as one. */
  readonly atEdge: boolean;
}

export interface RelativeResult {
  readonly unit: '%';
  readonly curve: readonly CurvePoint[];
  readonly bandAverage: ScalarInterval;
  readonly upTo: UpTo;
  readonly worst: CurvePoint;
  readonly substantiated: readonly Stretch[];
  readonly losses: readonly (Stretch & { readonly gain: number; readonly rpm: number })[];
}
export interface AbsoluteResult {
  readonly unit: 'kW' | 'N·m';
  readonly curve: readonly (CurvePoint & { readonly arm: number; readonly against: number })[];
  readonly bandAverage: ScalarInterval;
  readonly upTo: UpTo;
  readonly worst: CurvePoint;
  readonly peakToPeak: PeakToPeak;
}

export interface ScatterResult {
  readonly guard: Guard;
  /** Residual degrees of freedom at one rpm, and pooled over rpm. */
  readonly nu: number;
  readonly pooledDf: number;
  /** How many times the baseline's variance the other arm has; null where an arm says nothing of its own scatter. */
  readonly armRatio: number | null;
  /** Variance of the contrast the band uses, mean over rpm, over that of arms taken as alike. */
  readonly timesPooled: number;
  readonly armsDiffer: boolean;
  readonly noisyEnd: NoisyEnd | null;
}

/** Where a level is first reached, rpm, by each arm (mean over its pulls), and the part's less the baseline's. */
export interface Reached {
  /** Share of the baseline's largest mean value, and what it is there: N·m, or Pa above ambient. */
  readonly share: number;
  readonly level: number;
  readonly armRpm: number;
  readonly againstRpm: number;
  readonly shift: Interval;
}
/** Change of the time of the sweep over the range compared, %; below zero is quicker. */
export interface SweepTime extends Stretch {
  readonly byCurves: Interval;
  /** By the pulls' own clocks, brought to standard air, with the mean seconds of each arm as logged. */
  readonly logged: { readonly change: Interval; readonly arm: number; readonly against: number } | null;
}
export interface Dip extends Stretch {
  readonly rpm: number;
  /** Below the lower of its two shoulders, %. */
  readonly depth: number;
}
/** What the curves and logs show beside the metrics; told, never claimed. */
export interface FurtherMetrics {
  readonly reaching: readonly Reached[];
  readonly boost: Reached | null;
  readonly sweepTime: SweepTime;
  /** How even the mean gain is over the range, %: its scatter over rpm, its smallest and its largest. */
  readonly spread: {
    readonly sd: number;
    readonly least: { readonly gain: number; readonly rpm: number };
    readonly most: { readonly gain: number; readonly rpm: number };
  };
  readonly dips: { readonly arm: readonly Dip[]; readonly against: readonly Dip[] };
  /** Change in %, and what each arm took, L/kWh at the wheel. */
  readonly fuelPerWork: { readonly change: Interval; readonly arm: number; readonly against: number } | null;
}
/** What a number of the log does to the story of the gain. */
export type LogSays = 'supports' | 'against' | 'open';
/** How a reason for the gain may be told: a hypothesis is no reason. */
export type Mechanism = 'measured' | 'consistent with the log' | 'hypothesis';
export interface LogEvidence {
  readonly of:
    | 'airflow'
    | 'fuel flow'
    | 'inlet pressure'
    | 'charge temperature'
    | 'intercooler pressure drop'
    | 'manifold pressure'
    | 'drive speed'
    | 'back-pressure'
    | 'airflow roughness';
  readonly unit: '%' | 'hPa' | 'K' | 'rpm';
  /** Arm less baseline, or arm over it, mean over the range compared. */
  readonly change: Interval;
  /** Of a flow: by how much more than the power as observed it changed, percentage points. */
  readonly toPower?: Interval;
  /** Whether the kind of part acts upon it. */
  readonly direct: boolean;
  readonly says: LogSays;
}
/** A gain held against the engine's own log, as observed. */
export interface Corroboration {
  readonly mechanism: Mechanism;
  /** Power as observed, before any correction, %. */
  readonly power: Interval;
  readonly rows: readonly LogEvidence[];
  /** Crank power that the fuel could make, kW, mean over the range: an estimate. */
  readonly fuelPower?: {
    readonly arm: { readonly low: number; readonly high: number };
    readonly against: { readonly low: number; readonly high: number };
  };
}
/** Half-width of the average's interval, %: now, and with more of each. */
export interface Buys {
  readonly now: number;
  /** One more counted pull in every run; null where mountings are compared, which pulls do not help. */
  readonly pull: number | null;
  /** All pulls once more in mountings of their own; the same on another day. */
  readonly mounting: number;
  readonly day: number;
  /** Whether the days' variance was registered; else the policy's was taken. */
  readonly dayRegistered: boolean;
}

export interface ContrastResult {
  readonly arm: string;
  readonly against: string;
  readonly pulls: { readonly arm: number; readonly against: number };
  readonly design: string;
  /** Which values the intervals rest on: every pull, or one value a mounting. Older versions: see docs/formats.md. */
  readonly rule: 'pooled, guarded' | 'mounting means';
  /** Effective degrees of freedom of the band. */
  readonly df: number;
  readonly criticalValue: number;
  readonly roughness: number;
  /** What the intervals rest on; absent in results of older versions. */
  readonly scatter?: ScatterResult;
  readonly relative: RelativeResult;
  readonly power: AbsoluteResult;
  readonly torque: AbsoluteResult;
  /** Parts of the variance of the band average, lp², and their shares. */
  readonly budget: readonly { readonly source: string; readonly variance: number; readonly share: number }[];
  /**
   * How the arms' start temperatures entered: how much warmer the part's arm started, K; the registered slope, lp/K (0
   * where none is); what they leave open, lp²; the session's own slope beside it; the result without it, %.
   */
  readonly startTemperature?: {
    readonly apartK: number;
    readonly slope: number;
    readonly variance: number;
    readonly own?: { readonly slope: number; readonly limit: number; readonly disagrees: boolean };
    readonly unadjusted: ScalarInterval;
  };
  /**
   * What correcting for air leaves open, %, beside the interval and not in it: what the arms' factors differ by, the
   * range of it over all standards, and standard uncertainties of the rule and of the sensors. Absent where a pull has no
   * air reading, and in results of older versions.
   */
  readonly correction?: {
    readonly difference: number;
    readonly least: number;
    readonly most: number;
    readonly rule: number;
    readonly sensors: number | null;
  };
  /** What else the curves and logs show; absent in results of older versions. */
  readonly further?: FurtherMetrics;
  /** What the engine's own log says of it; absent where no log says anything, and in results of older versions. */
  readonly log?: Corroboration;
  /** By use profiles, in the order they were asked for; only where somebody asked. */
  readonly uses?: readonly { readonly covered: number; readonly gain: Interval | null }[];
  /** What more work would make of the interval of the average; absent in results of older versions. */
  readonly buys?: Buys;
  /** What the shortcuts would have said, % : never publishable. */
  readonly shortcuts: {
    readonly unit: '%';
    readonly bestAgainstBest: number;
    readonly lastAgainstFirst: number;
    readonly largestOverlayDifference: number;
  };
}

/** A contrast as a result holds it. */
export type Contrast = ContrastResult & {
  /** The same contrast with excluded pulls put back, where there are any: the smaller is claimed. */
  readonly withExcluded?: ContrastResult;
};
/** Of a contrast and the same with excluded pulls put back, the one that says less by a measure. */
export const sayingLess = (contrast: Contrast, measure: (c: ContrastResult) => number): ContrastResult =>
  contrast.withExcluded && measure(contrast.withExcluded) < measure(contrast)
    ? contrast.withExcluded
    : contrast;
export const isRefused = (contrast: Contrast | RefusedContrast): contrast is RefusedContrast =>
  'code' in contrast;
