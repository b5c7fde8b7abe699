/** What the bench says of a session, and what it is said from. */
import type { Engine } from '../../base/standards.ts';
import type { DeviceKind } from '../../register/devices.ts';
import type { RecordingSummary } from '../../capture/session/recording-summary.ts';

export interface WatchedRecording {
  readonly id: string;
  /** What people call it: the place on the sheet, or “extra 12”. */ readonly label: string;
  readonly arm: string;
  readonly run: number;
  readonly counted: boolean;
  readonly order: number;
  readonly summary: RecordingSummary;
  readonly clocksOffMs: Readonly<Partial<Record<DeviceKind, number>>>;
  /** Whether a logger belongs to the dyno, and whether its log was joined. */
  readonly logWanted: boolean;
  readonly logJoined: boolean;
}
export interface WatchedPlan {
  readonly engine: Engine;
  readonly band: { readonly fromRpm: number; readonly toRpm: number };
  readonly controls: readonly {
    readonly quantity: string;
    readonly target: number | null;
    readonly tolerance: number;
    readonly unit: string;
  }[];
  /** Pull-to-pull SD of the band average the dyno is known for, lp. */ readonly historySd: number | null;
}

export const NOTICE_CODES = [
  'BEGAN_LATE',
  'THROTTLE_LIFTED',
  'SPEED_JUMPED',
  'RAMP_UNLIKE',
  'WHEEL_SLIP',
  'POWER_TORQUE_APART',
  'LEVEL_UNLIKE',
  'TORQUE_TAKEN_BACK',
  'SAMPLES_LOST',
  'START_TEMPERATURE',
  'LEAN',
  'KNOCK',
  'MIXTURE_UNLIKE',
  'IGNITION_UNLIKE',
  'BOOST_UNLIKE',
  'CHANNEL_DEAD',
  'CHANNEL_STUCK',
  'CLOCK_OFF',
  'LOG_MISSING',
  'AIR_MISSING',
  'AIR_MOVED',
  'AIR_STUCK',
  'STILL_RISING',
  'FALLING',
  'SPREAD_WIDE',
] as const;
export type NoticeCode = (typeof NOTICE_CODES)[number];

export interface Notice {
  readonly code: NoticeCode;
  /** The recording it is about; null for several. */ readonly recordingId: string | null;
  /** Asks for somebody before the next pull, or is worth knowing. */ readonly tone: 'stop' | 'ask' | 'know';
  /** One plain sentence, and what to do. */ readonly message: string;
  readonly advice: string;
}
