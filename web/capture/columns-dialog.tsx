import { useState } from 'react';
import { toast } from 'sonner';
import type { Pull } from '../../contract/capture/capture.ts';
import type { ColumnKey } from '../../core/base/quantities.ts';
import { problemOf, type Problem } from '../base/api.ts';
import { Dialog } from '../base/dialog.tsx';
import { useAttachFileMutation, useRereadFileMutation } from '../base/endpoints.ts';
import { Button, ProblemNote } from '../base/ui.tsx';
import { choicesOf, twice, type Said } from './column-choices.ts';
import { ColumnsTable } from './columns-table.tsx';
import { useColumnPreview } from './use-column-preview.ts';

/**
 * Shows the columns of a file with their first cells and what each looks like, and asks which is which, in what unit;
 * the answer is kept for files of the same layout from this dyno.
 */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function ColumnsDialog({
  testId,
  pullId,
  file,
  problem,
  stored,
  onClose,
  onDone,
}: {
  testId: string;
  pullId: string;
  /** A file that is not stored yet, with the question about it. */
  file?: File;
  problem?: Problem;
  /** A stored file that was read wrongly; its bytes stay, it is read again. */
  stored?: NonNullable<Pull['file']>;
  onClose: () => void;
  onDone: () => void;
}) {
  const [attach, sending] = useAttachFileMutation();
  const [reread, reading] = useRereadFileMutation();
  const isLoading = sending.isLoading || reading.isLoading;
  const error = sending.error ?? reading.error;
  const name = file?.name ?? stored?.name ?? '';
  const columns = useColumnPreview({ testId, pullId, file, stored });
  const [said, setSaid] = useState<Said>({});
  const double: ColumnKey | undefined = twice(said);
  const send = async (): Promise<void> => {
    const chosen = choicesOf(said);
    const answer = file
      ? await attach({ testId, pullId, file, columns: chosen })
      : await reread({ testId, pullId, columns: chosen });
    if ('error' in answer) return;
    toast.success(
      `${name} ${file ? 'attached' : 'read in the other way'}; the columns are remembered for this dyno.`,
    );
    onDone();
  };
  return (
    <Dialog open onClose={onClose} title={`Columns of ${name}`} wide>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <p className="text-soft">
          {problem?.message ??
            'The stored bytes stay as they are; they are read again. What rests ' +
              'on them is evaluated again, and a published claim goes stale.'}
        </p>
        <ColumnsTable columns={columns} said={said} onSay={setSaid} />
        {double && (
          <ProblemNote message="Two columns are said to hold the same: leave one as it was found." />
        )}
        {error !== undefined && <ProblemNote message={problemOf(error).message} />}
        <div className="flex gap-2">
          <Button
            kind="main"
            type="submit"
            disabled={isLoading || double !== undefined || Object.keys(choicesOf(said)).length === 0}
          >
            Read it with these columns
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
