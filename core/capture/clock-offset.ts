/** Two files that say when they began: by how much the one clock has to be shifted to meet the other. */
import type { PullFile } from './pull-file-types.ts';

/** Times beyond this are counted from an epoch, not from the start of a recording, s: they carry their fraction. */
const EPOCH_S = 1e8;
/** A pull and its log have at least so much in common, s. */
const LEAST_OVERLAP_S = 2;

interface Start {
  /** s, in the zone the file means. */ readonly at: number;
  readonly zoned: boolean;
}
function startOf({ recorded, channels }: PullFile): Start | undefined {
  const first = channels.time?.[0];
  if (!recorded || recorded.seconds === null || first === undefined) return undefined;
  const [y, m, d] = recorded.day.split('-').map(Number) as [number, number, number];
  const { seconds, offsetMinutes } = recorded;
  const fraction = first > EPOCH_S ? first % 1 : 0;
  const at = Date.UTC(y, m - 1, d, 0, 0, seconds) / 1000 - (offsetMinutes ?? 0) * 60 + fraction;
  return { at, zoned: offsetMinutes !== null };
}

/**
 * What is added to the log’s time to give the pull’s, by what both files say of when they began; to about a second,
 * which is what clocks of two recorders are worth.
 *
 * @returns undefined where one does not say, only one names its zone, or they would not meet
 */
export function clockOffset(pull: PullFile, log: PullFile): number | undefined {
  const [a, b] = [startOf(pull), startOf(log)];
  if (!a || !b || a.zoned !== b.zoned) return undefined;
  const [own, other] = [pull.channels.time!, log.channels.time!];
  const offset = b.at - a.at + own[0] - other[0];
  const common =
    Math.min(own[own.length - 1], other[other.length - 1] + offset) - Math.max(own[0], other[0] + offset);
  return common >= LEAST_OVERLAP_S ? offset : undefined;
}
