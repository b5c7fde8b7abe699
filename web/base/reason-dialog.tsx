import type { ReactNode } from 'react';
import { z } from 'zod';
import { RecordForm } from './record-form.tsx';
import { Dialog } from './dialog.tsx';
import { useLocation } from 'react-router';

/** Asks why, before something that others will read about is done. `least`: characters a reason needs. */
export function ReasonDialog({
  title,
  hint,
  verb,
  least,
  takesAway = false,
  saving,
  problem,
  save,
  onClose,
  children,
}: {
  title: string;
  hint: string;
  verb: string;
  least: number;
  takesAway?: boolean;
  saving: boolean;
  problem?: unknown;
  /** Resolves to `false` where it was refused. */ save: (reason: string) => Promise<unknown>;
  onClose: () => void;
  children?: ReactNode;
}) {
  const { pathname } = useLocation();
  const schema = z.object({
    reason: z.string().trim().min(least, `Say why, in ${least} characters or more: others read it later.`),
  });
  return (
    <Dialog open onClose={onClose} title={title}>
      {children}
      <RecordForm
        draft={`${pathname}: ${title}`}
        schema={schema}
        values={{ reason: '' }}
        groups={[
          { title: '', fields: [{ name: 'reason', label: 'Reason', kind: 'area', rows: 3, span: 12, hint }] },
        ]}
        verb={verb}
        takesAway={takesAway}
        saving={saving}
        problem={problem}
        save={({ reason }) => save(reason)}
        onCancel={onClose}
      />
    </Dialog>
  );
}
