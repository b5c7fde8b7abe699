import { readPullFile } from '../../core/capture/pull-file.ts';
import type { PullFile, PullFileOptions } from '../../core/capture/pull-file-types.ts';
import type { Task } from '../base/threads.ts';

/** Reads the bytes of a pull file. */
export const readPullTask: Task<[bytes: Uint8Array, options: PullFileOptions], PullFile> = {
  name: 'read pull',
  work: readPullFile,
};
