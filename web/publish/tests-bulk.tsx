import { useState } from 'react';
import { toast } from 'sonner';
import type { TestSummary } from '../../contract/overview.ts';
import { oneByOne, type Outcome } from '../base/one-by-one.ts';
import { saveFile } from '../base/save-file.ts';
import { Select } from '../base/select.tsx';
import { ConfirmButton } from '../base/confirm.tsx';
import { Dialog } from '../base/dialog.tsx';
import { Button, Field } from '../base/ui.tsx';
import { useAssignTestMutation, useLockPlanMutation } from '../plan/api.ts';
import { useRegisterQuery } from '../register/api.ts';
import { testsFile } from './list-files.ts';

const count = (n: number): string => (n === 1 ? 'one test' : `${n} tests`);
const HOUSE = '';

/** What can be done with the tests that are chosen: each by itself, and what was refused is told one by one. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function TestsBulk({
  tests,
  isManager,
  onDone,
}: {
  tests: readonly TestSummary[];
  isManager: boolean;
  onDone: () => void;
}) {
  const [lock] = useLockPlanMutation();
  const [assign] = useAssignTestMutation();
  const [assigning, setAssigning] = useState(false);
  const [outcome, setOutcome] = useState<{ verb: string; of: Outcome<TestSummary> }>();
  const open = tests.filter((t) => t.lockedAt === null);
  const tell = (verb: string, of: Outcome<TestSummary>): void => {
    if (of.refused.length > 0) setOutcome({ verb, of });
    else toast.success(`${verb}: ${count(of.done.length)}.`);
    if (of.done.length > 0) onDone();
  };
  return (
    <div role="group" aria-label="With the chosen tests" className="flex flex-wrap items-center gap-2">
      <b>{count(tests.length)} chosen</b>
      {isManager && (
        <>
          <ConfirmButton
            small
            disabled={open.length === 0}
            title={`Lock ${count(open.length)}?`}
            follows={
              'Arms, vehicle, dyno and protocol of each stay as they are from now on; a lock cannot be taken back. ' +
              'A plan that has a stop, or that somebody has changed meanwhile, is left as it is and told.'
            }
            verb="Lock them"
            onConfirm={async () =>
              tell('Locked', await oneByOne(open, (t) => lock({ id: t.id, basedOn: t.updatedAt })))
            }
          >
            {open.length === tests.length ? 'Lock' : `Lock the ${open.length} that are not locked`}
          </ConfirmButton>
          <Button small disabled={open.length === 0} onClick={() => setAssigning(true)}>
            Assign …
          </Button>
        </>
      )}
      <Button small onClick={() => saveFile('tests.csv', testsFile(tests))}>
        Export as CSV
      </Button>
      <Button small kind="quiet" onClick={onDone}>
        Choose none
      </Button>
      {assigning && (
        <AssignDialog
          many={open.length}
          onClose={() => setAssigning(false)}
          onAssign={async (partnerId) => {
            const of = await oneByOne(open, (t) => assign({ id: t.id, partnerId }));
            setAssigning(false);
            tell('Assigned', of);
          }}
        />
      )}
      <Dialog
        open={outcome !== undefined}
        onClose={() => setOutcome(undefined)}
        title="Not all could be done"
      >
        <p>
          {outcome?.verb}: {count(outcome?.of.done.length ?? 0)}. Left as they are:
        </p>
        <ul className="mt-2 list-disc pl-5">
          {outcome?.of.refused.map(({ row, why }) => (
            <li key={row.id}>
              Test {row.number}: {why}
            </li>
          ))}
        </ul>
      </Dialog>
    </div>
  );
}

function AssignDialog({
  many,
  onAssign,
  onClose,
}: {
  many: number;
  onAssign: (partnerId: string | null) => Promise<void>;
  onClose: () => void;
}) {
  const { data: register } = useRegisterQuery();
  const [partnerId, setPartnerId] = useState(HOUSE);
  const [busy, setBusy] = useState(false);
  return (
    <Dialog open onClose={onClose} title={`Assign ${count(many)}`}>
      <Field label="Who runs it" hint="Tests whose plans are locked stay where they are.">
        <Select value={partnerId} onChange={(e) => setPartnerId(e.target.value)}>
          <option value={HOUSE}>the house</option>
          {register?.partners.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </Select>
      </Field>
      <div className="mt-4 flex gap-2">
        <Button
          kind="main"
          disabled={busy || !register}
          onClick={() => {
            setBusy(true);
            void onAssign(partnerId === HOUSE ? null : partnerId);
          }}
        >
          Assign
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
