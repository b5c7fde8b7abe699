import { readAirFile, type AirFile, type AirFileOptions } from '../../core/capture/air-file.ts';
import { readPullFile } from '../../core/capture/pull-file.ts';
import type { PullFile, PullFileOptions } from '../../core/capture/pull-file-types.ts';
import type { Task } from '../base/threads.ts';

/** Reads the bytes of a pull file. */
export const readPullTask: Task<[bytes: Uint8Array, options: PullFileOptions], PullFile> = {
  name: 'read pull',
  work: readPullFile,
};
/** Reads the bytes of a weather station’s file. */
export const readAirTask: Task<[bytes: Uint8Array, options: AirFileOptions], AirFile> = {
  name: 'read air',
  work: readAirFile,
};
