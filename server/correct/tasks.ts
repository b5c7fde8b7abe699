import { readPullFile } from '../../core/capture/pull-file.ts';
import type { PullFileOptions } from '../../core/capture/pull-file-types.ts';
import type { RecordingSummary } from '../../core/capture/session/recording-summary.ts';
import { summariseRecording, type SummariseAs } from '../../core/correct/summarise-recording.ts';
import type { Task } from '../base/threads.ts';

/** Reads a recording and boils it down to what the bench holds it against the others by. */
export const summariseTask: Task<
  [bytes: Uint8Array, options: PullFileOptions, as: SummariseAs],
  RecordingSummary
> = {
  name: 'summarise recording',
  work: (bytes, options, as) => summariseRecording(readPullFile(bytes, options), as),
};
