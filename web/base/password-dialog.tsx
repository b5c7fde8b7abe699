import { useState } from 'react';
import { PasswordRequest, SHORTEST_PASSWORD } from '../../contract/base/http.ts';
import { useChangePasswordMutation } from './api.ts';
import { RecordForm } from './record-form.tsx';
import { Dialog } from './dialog.tsx';
import { Button } from './ui.tsx';

const FIELDS = [
  { name: 'present', label: 'Password now', kind: 'password', autoComplete: 'current-password', span: 12 },
  {
    name: 'next',
    label: 'New password',
    kind: 'password',
    autoComplete: 'new-password',
    span: 12,
    hint: `${SHORTEST_PASSWORD} characters or more; several words are easier to keep than signs.`,
  },
] as const;

/** A new password for whoever is signed in; it ends their sessions elsewhere. */
export function PasswordDialog({ demo, onClose }: { demo: boolean; onClose: () => void }) {
  const [change, { error, isLoading }] = useChangePasswordMutation();
  const [done, setDone] = useState(false);
  return (
    <Dialog open onClose={onClose} title={done ? 'The password is changed' : 'Change password'}>
      {done ? (
        <>
          <p className="mb-4">You stay signed in here; everywhere else you are signed out.</p>
          <Button kind="main" onClick={onClose}>
            Close
          </Button>
        </>
      ) : (
        <>
          {demo && (
            <p className="mb-3 text-soft">
              Sample people enter without a password; this is for those who were given one.
            </p>
          )}
          <RecordForm
            schema={PasswordRequest}
            values={{ present: '', next: '' }}
            groups={[{ title: '', fields: FIELDS }]}
            verb="Change password"
            saving={isLoading}
            problem={error}
            onCancel={onClose}
            save={async (asked) => {
              const answer = await change(asked);
              if (!('error' in answer)) setDone(true);
            }}
          />
        </>
      )}
    </Dialog>
  );
}
