import { PullFileError } from '../../core/base/errors.ts';
import { readAirFile, type AirFile, type AirFileOptions } from '../../core/capture/air-file.ts';
import { pieceText, splitLog, type SplitLog } from '../../core/capture/split-log.ts';
import { QUANTITY_NAMES, type Quantity } from '../../core/base/quantities.ts';
import { alignFiles, hasSpeed, joinLog, type LogPlace } from '../../core/capture/join-log.ts';
import { readPullFile } from '../../core/capture/pull-file.ts';
import type { PullFile, PullFileOptions } from '../../core/capture/pull-file-types.ts';
import type { Task } from '../base/threads.ts';

/** Reads the bytes of a pull file. */
export const readPullTask: Task<[bytes: Uint8Array, options: PullFileOptions], PullFile> = {
  name: 'read pull',
  work: readPullFile,
};
/** Finds the pulls in a long log. */
export const splitTask: Task<[bytes: Uint8Array, options: PullFileOptions], SplitLog> = {
  name: 'split log',
  work: splitLog,
};
/** The file of one pull of a long log. */
export const pieceTask: Task<Parameters<typeof pieceText>, string> = {
  name: 'piece of log',
  work: pieceText,
};
/** Reads the bytes of a weather station’s file. */
export const readAirTask: Task<[bytes: Uint8Array, options: AirFileOptions], AirFile> = {
  name: 'read air',
  work: readAirFile,
};

export interface Joined {
  readonly alignment: LogPlace | undefined;
  /** Channels of the log that the pull lacks, as people call them. */ readonly adds: string[];
  readonly pull: Trace;
  readonly log: Trace;
}
interface Trace {
  t: number[];
  rpm: number[];
}
const DRAWN = 400;
/** Engine speed over time with so many points as a drawing needs. */
function thinned({ channels, rpm, samples }: PullFile): Trace {
  const { time } = channels;
  const step = Math.max(1, Math.ceil(samples / DRAWN));
  const at = time ? [...time.keys()].filter((i) => i % step === 0 && Number.isFinite(rpm[i])) : [];
  return { t: at.map((i) => time![i]), rpm: at.map((i) => rpm[i]) };
}
/** Reads a pull and a log, and finds where their engine speeds meet. */
export const joinTask: Task<
  [pull: Uint8Array, pullOptions: PullFileOptions, log: Uint8Array, logOptions: PullFileOptions],
  Joined
> = {
  name: 'join log',
  work: (pullBytes, pullOptions, logBytes, logOptions) => {
    const pull = readPullFile(pullBytes, pullOptions);
    const log = readPullFile(logBytes, { ...logOptions, torque: 'optional' });
    const joined = joinLog(pull, log, 0);
    const adds = (Object.keys(joined.channels) as Quantity[]).filter((q) => !pull.channels[q]);
    const alignment = alignFiles(pull, log);
    if (!hasSpeed(log) && !alignment)
      throw new PullFileError(
        'NO_ENGINE_SPEED',
        'The log has no engine speed, and the files do not both say when they began, or began at other times.',
        'Log the engine speed with it: it tells where the log belongs.',
        logOptions.file ? { file: logOptions.file } : {},
      );
    return {
      alignment,
      adds: adds.map((q) => QUANTITY_NAMES[q]),
      pull: thinned(pull),
      log: thinned(log),
    };
  },
};
