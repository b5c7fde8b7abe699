/** A sudden hollow of a torque curve: what gearbox or traction control leaves that takes torque back for a moment. */
import type { PullFile } from '../capture/pull-file-types.ts';
import type { RecordingSummary } from '../capture/session/recording-summary.ts';

export type Hollow = NonNullable<RecordingSummary['hollow']>;
/** Half-width over which it is looked for, rpm; a camshaft’s own dip is wider. */
const HOLLOW_RPM = 400;
/** How deep it is with the ignition taken back, as a share and °, and how deep without a log (common practice). */
const DEEP = { withIgnition: 0.03, ignition: 4, alone: 0.06 };
const fixed = (value: number, digits: number): number => Number(value.toFixed(digits));

/** Whether the log shows that it was taken back. */
export const ignitionTakenBack = ({ share, ignition }: Hollow): boolean =>
  ignition !== null && ignition > DEEP.ignition && share > DEEP.withIgnition;
export const isDeep = (hollow: Hollow): boolean => ignitionTakenBack(hollow) || hollow.share > DEEP.alone;

/** Deepest place of the curve under the line between its neighbours on either side. */
export function hollowIn(
  file: PullFile,
  grid: readonly number[],
  torque: Float64Array,
  curveOf: (values: Float64Array) => Float64Array,
  stepRpm: number,
): Hollow | null {
  const half = Math.round(HOLLOW_RPM / stepRpm);
  let worst = { share: 0, index: -1 };
  for (let j = half; j < grid.length - half; j++) {
    const share = 1 - torque[j] / ((torque[j - half] + torque[j + half]) / 2);
    if (share > worst.share) worst = { share, index: j };
  }
  if (worst.index < 0) return null;
  const ignition = file.channels.ignitionAdvance;
  const curve = ignition ? curveOf(ignition) : undefined;
  const taken = curve
    ? (curve[worst.index - half] + curve[worst.index + half]) / 2 - curve[worst.index]
    : NaN;
  return {
    share: fixed(worst.share, 4),
    rpm: grid[worst.index],
    ignition: Number.isFinite(taken) ? fixed(taken, 2) : null,
  };
}
