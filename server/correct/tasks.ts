import { readPullFile } from '../../core/capture/pull-file.ts';
import type { PullFileOptions } from '../../core/capture/pull-file-types.ts';
import type { RecordingSummary } from '../../core/capture/session/recording-summary.ts';
import { summariseRecording, type SummariseAs } from '../../core/correct/summarise-recording.ts';
import { controlLevels } from '../../core/correct/control-level.ts';
import type { Task } from '../base/threads.ts';

/** Reads a recording and boils it down to what the bench holds it against the others by. */
export const summariseTask: Task<
  [bytes: Uint8Array, options: PullFileOptions, as: SummariseAs],
  RecordingSummary
> = {
  name: 'summarise recording',
  work: (bytes, options, as) => summariseRecording(readPullFile(bytes, options), as),
};

/** Reads what a control vehicle made in each of its pulls. */
export const controlTask: Task<Parameters<typeof controlLevels>, ReturnType<typeof controlLevels>> = {
  name: 'control levels',
  work: controlLevels,
};
