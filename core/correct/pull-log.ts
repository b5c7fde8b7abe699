/** What the log of one pull says of the engine: its channels over engine speed, its gear, torque that was taken back. */
import { ENGINE_CHANNELS } from '../base/quantities.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import { channelCurves, type ChannelCurves } from './channel-curves.ts';
import { hollowIn, type Hollow } from './hollow.ts';
import type { CorrectedPull } from './pull-correction.ts';
import { speedRatio, type SpeedRatio } from './speed-ratio.ts';

export interface PullLog {
  /** As observed, in internal units. */ readonly curves: ChannelCurves;
  readonly speedRatio: SpeedRatio | null;
  readonly hollow: Hollow | null;
}

export function pullLog(
  file: PullFile,
  { sweep, torqueNm, curveOf }: CorrectedPull,
  grid: readonly number[],
  stepRpm: number,
): PullLog {
  const own = Object.fromEntries(
    ENGINE_CHANNELS.flatMap((q) => (file.channels[q] ? [[q, file.channels[q]]] : [])),
  );
  return {
    curves: channelCurves(own, curveOf),
    speedRatio: speedRatio(file, sweep),
    hollow: hollowIn(file, grid, torqueNm, curveOf, stepRpm),
  };
}
