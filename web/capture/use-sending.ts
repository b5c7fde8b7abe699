/** Files on their way to pulls: which goes where, what was refused, and what one answer settles for others. */
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Pull } from '../../contract/capture/capture.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { MAX_PULL_FILE_BYTES } from '../../core/capture/limits.ts';
import { problemOf, type Problem } from '../base/api.ts';
import { useAttachFileMutation } from '../base/endpoints.ts';
import { fileHash } from '../base/file-hash.ts';
import { bytes } from '../base/format.ts';
import { assign, type Assigned } from './assign.ts';

export interface Refused {
  readonly file: File;
  readonly pull: Pull;
  readonly problem: Problem;
}
/** Questions about columns that one answer settles for every file of the same layout. */
const ASKS: ReadonlySet<string> = new Set([
  'UNIT_UNKNOWN',
  'AMBIGUOUS_COLUMNS',
  'NO_ENGINE_SPEED',
  'NO_TORQUE_NOR_POWER',
]);
export const asksForColumns = ({ problem }: Refused): boolean => ASKS.has(problem.code);

/** Files with their first lines, which may say what they are. */
const withHeads = (files: readonly File[]) =>
  Promise.all(files.map(async (file) => ({ file, head: await file.slice(0, 4096).text() })));

const tooLarge = (file: File): Problem => ({
  code: 'FILE_TOO_LARGE',
  message:
    `${file.name}: the file has ${bytes(file.size)}; a pull file may have ` +
    `${bytes(MAX_PULL_FILE_BYTES)}. Export the one pull, not the whole session.`,
  details: {},
});

export function useSending(detail: TestDetail) {
  const [attach] = useAttachFileMutation();
  const [refused, setRefused] = useState<readonly Refused[]>([]);
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);
  const [unplaced, setUnplaced] = useState<readonly Assigned<File>[]>([]);
  const cancelled = useRef(false);

  const sendOne = async (file: File, pull: Pull): Promise<Problem | undefined> => {
    if (file.size > MAX_PULL_FILE_BYTES) return tooLarge(file);
    const sha256 = await fileHash(file);
    const answer = await attach({
      testId: detail.summary.id,
      pullId: pull.id,
      file,
      ...(sha256 ? { sha256 } : {}),
    });
    return 'error' in answer ? problemOf(answer.error) : undefined;
  };
  const send = async (list: readonly Assigned<File>[]): Promise<void> => {
    setRefused([]);
    const fits = list.filter((entry): entry is { file: File; pull: Pull } => entry.pull !== undefined);
    const asked = list.filter((entry) => !entry.pull);
    if (asked.length > 0) setUnplaced(asked);
    const bad: Refused[] = [];
    cancelled.current = false;
    let sent = 0;
    for (const [i, { file, pull }] of fits.entries()) {
      if (cancelled.current) break;
      sent += 1;
      setProgress({ done: i, of: fits.length });
      const problem = await sendOne(file, pull);
      if (problem) bad.push({ file, pull, problem });
    }
    setProgress(null);
    setRefused(bad);
    const taken = sent - bad.length;
    const left = fits.length - sent;
    const rest = left > 0 ? ` ${left} left out: you stopped it.` : '';
    if (taken > 0 || left > 0) toast.success(`${taken} ${taken === 1 ? 'file' : 'files'} attached.${rest}`);
  };
  const sendBySelf = async (files: readonly File[]): Promise<void> =>
    send(assign(await withHeads(files), detail.pulls, detail.arms));
  const leave = (file: File): void => setUnplaced((list) => list.filter((entry) => entry.file !== file));
  /** One answer serves every file of this layout: the others are sent again with it. */
  const answered = (about: Refused): void => {
    const others = refused.filter((r) => r !== about && asksForColumns(r));
    const rest = refused.filter((r) => r !== about && !asksForColumns(r));
    setRefused(rest);
    if (others.length > 0) void send(others).then(() => setRefused((list) => [...rest, ...list]));
  };
  /** The file that is on its way still arrives; those behind it stay where they are. */
  const cancel = (): void => {
    cancelled.current = true;
  };
  return { send, sendBySelf, answered, leave, cancel, refused, progress, unplaced };
}
export type Sending = ReturnType<typeof useSending>;
