import { useLocation } from 'react-router';
import { z } from 'zod';
import { LEAST_EVIDENCE } from '../../contract/publish/claim.ts';
import { Dialog } from '../base/dialog.tsx';
import { RecordForm } from '../base/record-form.tsx';

const Equivalence = z.object({
  reason: z.string().trim().min(10, 'Say in a sentence why it makes no difference to what was tested.'),
  evidence: z.string().trim().min(LEAST_EVIDENCE, 'Say what was compared, and by whom.'),
});

/** That a newer revision of a part does in a test what the tested one did: why, and on what evidence. */
export function EquivalenceDialog({
  what,
  saving,
  problem,
  save,
  onClose,
}: {
  what: string;
  saving: boolean;
  problem: unknown;
  save: (said: z.output<typeof Equivalence>) => Promise<unknown>;
  onClose: () => void;
}) {
  const { pathname } = useLocation();
  return (
    <Dialog open onClose={onClose} title="The revisions are equivalent here">
      <p className="mb-3">{what}</p>
      <RecordForm
        draft={`${pathname}: equivalence`}
        schema={Equivalence}
        values={{ reason: '', evidence: '' }}
        groups={[
          {
            title: '',
            fields: [
              {
                name: 'reason',
                label: 'What was changed, and why it makes no difference here',
                kind: 'area',
                rows: 3,
                span: 12,
              },
              {
                name: 'evidence',
                label: 'On what evidence',
                kind: 'area',
                rows: 2,
                span: 12,
                hint: 'drawings, parts side by side, a flow bench, a test; who looked at it',
              },
            ],
          },
        ]}
        verb="Keep the answer"
        saving={saving}
        problem={problem}
        save={save}
        onCancel={onClose}
      />
    </Dialog>
  );
}
