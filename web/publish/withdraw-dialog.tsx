import { useLocation } from 'react-router';
import { z } from 'zod';
import { WithdrawRequest } from '../../contract/publish/claim.ts';
import { Dialog } from '../base/dialog.tsx';
import { RecordForm } from '../base/record-form.tsx';

const TITLE = 'Withdraw the claim';
/** Which it is must be said: nothing is chosen beforehand. */
const Asked = WithdrawRequest.extend({
  wrong: z.enum(['yes', 'no'], { error: 'Say whether the number was wrong.' }).transform((w) => w === 'yes'),
});

/** Takes a public claim back: why, and whether its number was wrong. */
export function WithdrawDialog({
  saving,
  problem,
  save,
  onClose,
}: {
  saving: boolean;
  problem: unknown;
  save: (said: WithdrawRequest) => Promise<unknown>;
  onClose: () => void;
}) {
  const { pathname } = useLocation();
  return (
    <Dialog open onClose={onClose} title={TITLE}>
      <RecordForm
        draft={`${pathname}: ${TITLE}`}
        schema={Asked}
        values={{ wrong: '' as never, reason: '' }}
        groups={[
          {
            title: '',
            fields: [
              {
                name: 'wrong',
                label: 'Was its number wrong?',
                kind: 'select',
                empty: 'choose',
                options: [
                  { value: 'yes', label: 'Yes: it is listed as a correction' },
                  { value: 'no', label: 'No: it is withdrawn for another reason' },
                ],
                span: 12,
              },
              {
                name: 'reason',
                label: 'Reason',
                kind: 'area',
                rows: 3,
                span: 12,
                hint: 'Everybody reads it beside the claim and among the corrections.',
              },
            ],
          },
        ]}
        verb="Withdraw it"
        takesAway
        saving={saving}
        problem={problem}
        save={save}
        onCancel={onClose}
      />
    </Dialog>
  );
}
