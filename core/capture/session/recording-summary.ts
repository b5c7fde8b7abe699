/** What the bench needs to know of a recording to hold it against the others, without its samples. */
import type { Quantity } from '../../base/quantities.ts';

/** One channel over the analysed range. Values in internal units. */
export interface ChannelSummary {
  readonly mean: number;
  readonly least: number;
  readonly leastRpm: number;
  readonly most: number;
  readonly mostRpm: number;
  /** The same value throughout. */ readonly stuck: boolean;
}

export interface RecordingSummary {
  readonly samples: number;
  /** Samples that never came and are in no buffer any more. */
  readonly lost: number;
  /** Where the sweep began and ended, rpm, and how fast it rose, rpm/s. */
  readonly beganRpm: number;
  readonly endedRpm: number;
  readonly rampRpmPerS: number | null;
  /** Engine speed at which the throttle was lifted before the top of the range; null where it was not. */
  readonly liftedRpm: number | null;
  /** Largest departure of the ratio of engine to roller speed from its usual, as a share, and where; null unknown. */
  readonly slip: { readonly share: number; readonly rpm: number } | null;
  /** By how much power and torque × speed disagree, as a share; null where only one is there. */
  readonly powerTorque: number | null;
  /** Deepest sudden hollow of torque, as a share, and where; with ignition taken back there, °, if that is logged. */
  readonly hollow: { readonly share: number; readonly rpm: number; readonly ignition: number | null } | null;
  /** Jumps and gaps in the samples, in words. */ readonly doubts: readonly string[];
  /** Temperatures before the throttle was opened, °C. */
  readonly starts: Readonly<Partial<Record<Quantity, number>>>;
  readonly channels: Readonly<Partial<Record<Quantity, ChannelSummary>>>;
  /** Channels that are there by name and hold nothing. */ readonly dead: readonly string[];
  readonly air: {
    readonly temperatureC: number;
    readonly pressureHpa: number;
    readonly humidityPct: number;
  } | null;
  /** Correction factor by the standard of the plan; null without air. */ readonly factor: number | null;
  /** Corrected torque on the grid of the test, N·m; observed where there is no air. */
  readonly curve: readonly (number | null)[];
  /** Mean of 100·ln torque over the grid; null where the sweep does not cover it. */ readonly level:
    number | null;
}
