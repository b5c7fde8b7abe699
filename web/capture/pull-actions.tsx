import { useState } from 'react';
import { toast } from 'sonner';
import { EXCLUSION_REASONS, type Pull } from '../../contract/capture/capture.ts';
import { problemOf } from '../base/api.ts';
import { useExcludePullMutation, useRestorePullMutation } from '../base/endpoints.ts';
import { FiguresTyped } from '../base/figures-typed.tsx';
import { dayTime } from '../base/format.ts';
import { Select } from '../base/select.tsx';
import { Dialog } from '../base/dialog.tsx';
import { Button, Field, Mark, ProblemNote, Textarea } from '../base/ui.tsx';
import { useAmendPlanMutation } from '../plan/api.ts';
import { useRetold } from '../base/retold.ts';

export function PullStatus({ pull }: { pull: Pull }) {
  const told = useRetold();
  if (pull.excluded)
    return (
      <span title={`${pull.excluded.note} (${pull.excluded.by}, ${dayTime(pull.excluded.at)})`}>
        <Mark tone="loss">excluded: {pull.excluded.reason}</Mark>
        {pull.excluded.seenResult && <div className="text-[12px]">after the result was seen</div>}
      </span>
    );
  if (!pull.file) return <Mark tone="soft">planned</Mark>;
  const findings = pull.file.found.findings.filter((f) => f.code !== 'NO_FINAL_LINE_END');
  if (findings.length > 0)
    return (
      <span title={told(findings.map((f) => f.message).join(' '))}>
        <Mark tone="ask">{findings.length === 1 ? 'a question' : `${findings.length} questions`}</Mark>
        <div className="max-w-56 text-[12px] text-soft">{told(findings[0].message)}</div>
      </span>
    );
  return <Mark tone="stands">usable</Mark>;
}

/** Plans the left-out pull once more at the end of its run, by an amendment with the cause as its reason. */
export function RepeatButton({ testId, pull }: { testId: string; pull: Pull }) {
  const [amend, { isLoading }] = useAmendPlanMutation();
  const repeat = async (): Promise<void> => {
    const answer = await amend({
      id: testId,
      request: {
        reason: `Pull ${pull.label} was left out (${pull.excluded!.reason}) and is made once more at the end of its run.`,
        changes: { repeatedPull: { pullId: pull.id } },
      },
    });
    if ('error' in answer) toast.error(problemOf(answer.error).message);
    else toast.success(`${pull.label} is on the run sheet once more, as ${pull.label}r.`);
  };
  return (
    <Button small kind="quiet" disabled={isLoading} onClick={() => void repeat()}>
      Repeat<span className="sr-only"> {pull.label}</span>
    </Button>
  );
}

export function RestoreButton({ testId, pull }: { testId: string; pull: Pull }) {
  const [restore, { isLoading }] = useRestorePullMutation();
  return (
    <Button small kind="quiet" disabled={isLoading} onClick={() => void restore({ testId, pullId: pull.id })}>
      Restore<span className="sr-only"> {pull.label}</span>
    </Button>
  );
}

export function ExcludeDialog({
  testId,
  pull,
  seen,
  onClose,
}: {
  testId: string;
  pull: Pull;
  seen: boolean;
  onClose: () => void;
}) {
  const [exclude, { error, isLoading }] = useExcludePullMutation();
  const [reason, setReason] = useState<string>(EXCLUSION_REASONS[0]);
  const [note, setNote] = useState('');
  const save = async (): Promise<void> => {
    if (!('error' in (await exclude({ testId, pullId: pull.id, reason, note })))) onClose();
  };
  return (
    <Dialog open onClose={onClose} title={`Exclude ${pull.label} (${pull.arm})`}>
      <div className="grid gap-3">
        <p className="text-soft">
          Only for a cause, never because of its numbers. The file stays; the result is shown with and without
          the pull, and the smaller is claimed.{' '}
          {seen && <b className="text-ask">The result has been seen: this is recorded with the exclusion.</b>}
        </p>
        <Field label="Cause">
          <Select value={reason} onChange={(e) => setReason(e.target.value)}>
            {EXCLUSION_REASONS.map((r) => (
              <option key={r}>{r}</option>
            ))}
          </Select>
        </Field>
        <Field label="Note">
          <Textarea rows={3} value={note} onChange={(e) => setNote(e.target.value)} />
        </Field>
        <FiguresTyped text={note} />
        <ProblemNote error={error} />
        <div className="flex gap-2">
          <Button kind="loss" disabled={isLoading} onClick={() => void save()}>
            Exclude the pull
          </Button>
          <Button onClick={onClose}>Keep it</Button>
        </div>
      </div>
    </Dialog>
  );
}
