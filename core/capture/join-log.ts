/** The log of an engine, a file of its own with its own clock, joined to the pull it belongs to. */
import type { Quantity } from '../base/quantities.ts';
import { clockOffset } from './clock-offset.ts';
import { alignLog, type SpeedTrace } from './session/align-log.ts';
import { readBetween } from './session/read-between.ts';
import type { PullFile } from './pull-file-types.ts';

const traceOf = ({ channels, rpm }: PullFile): SpeedTrace | undefined =>
  channels.time ? { t: channels.time, rpm } : undefined;

/** Whether it tells the speed of the engine at all. */
export const hasSpeed = ({ rpm }: PullFile): boolean => rpm.some(Number.isFinite);

/** Where a log lies on the time of its pull: by engine speed, or by the clocks of both files alone. */
export interface LogPlace {
  readonly offsetS: number;
  /** Null where it lies by the clocks. */ readonly correlation: number | null;
}
/**
 * How the log has to be shifted to meet the pull: its engine speed decides, and where it has none the clocks do.
 * @returns undefined where the speeds meet nowhere, or nothing tells
 */
export function alignFiles(pull: PullFile, log: PullFile): LogPlace | undefined {
  if (!hasSpeed(log)) {
    const offsetS = clockOffset(pull, log);
    return offsetS === undefined ? undefined : { offsetS, correlation: null };
  }
  const [a, b] = [traceOf(pull), traceOf(log)];
  return a && b ? alignLog(a, b) : undefined;
}

/** What the pull’s own file says of these is never overwritten by a log. */
const OF_THE_PULL: ReadonlySet<Quantity> = new Set(['time', 'engineSpeed', 'torque', 'power', 'rollerForce']);

/**
 * The pull with the channels that only the log has, at the pull’s moments; between two samples of the log in
 * proportion, nothing beyond them.
 *
 * @param offsetS added to the log’s time to give the pull’s
 */
export function joinLog(pull: PullFile, log: PullFile, offsetS: number): PullFile {
  const [at, t] = [pull.channels.time, log.channels.time];
  if (!at || !t) return pull;
  const shifted = t.map((v) => v + offsetS);
  const joined: Partial<Record<Quantity, Float64Array>> = { ...pull.channels };
  for (const [name, values] of Object.entries(log.channels) as [Quantity, Float64Array][])
    if (!OF_THE_PULL.has(name) && !pull.channels[name]) joined[name] = readAlong(shifted, values, at);
  return { ...pull, channels: joined };
}

function readAlong(t: Float64Array, values: Float64Array, moments: Float64Array): Float64Array {
  let from = 0;
  return moments.map((at) => {
    if (!Number.isFinite(at)) return NaN;
    while (from + 1 < t.length && t[from + 1] < at) from += 1;
    return readBetween(t, values, at, from) ?? NaN;
  });
}
