import { readAirFile, type AirFile, type AirFileOptions } from '../../core/capture/air-file.ts';
import { pieceText, splitLog, type SplitLog } from '../../core/capture/split-log.ts';
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
