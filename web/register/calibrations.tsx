import { useState } from 'react';
import { toast } from 'sonner';
import { CalibrationInput } from '../../contract/register/register.ts';
import { day } from '../base/format.ts';
import { Picker, type Choice } from '../base/picker.tsx';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { Button, Caution, Empty, Loading, ProblemNote } from '../base/ui.tsx';
import {
  useAddCalibrationMutation,
  useFindFitments,
  useFindParts,
  usePartQuery,
  useRegisterQuery,
} from './api.ts';
import { PageHead, useMay } from './layout.tsx';

/** SHA-256 of a file, taken in the browser: the calibration itself is somebody's property and is not sent. */
async function hashOf(file: File): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', await file.arrayBuffer());
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function CalibrationsPage() {
  const may = useMay();
  const { data, error, refetch } = useRegisterQuery();
  const [add, { error: refused, isLoading }] = useAddCalibrationMutation();
  const [writing, setWriting] = useState(false);
  const [fitment, setFitment] = useState<Choice | null>(null);
  const [expected, setExpected] = useState<Choice[]>([]);
  const [file, setFile] = useState('');
  const groups: FieldGroup<keyof CalibrationInput>[] = [
    {
      title: 'Calibration',
      fields: [
        { name: 'name', label: 'Name', kind: 'text', span: 4 },
        { name: 'revision', label: 'Revision', kind: 'text', span: 2 },
        {
          name: 'fileHash',
          label: 'File',
          kind: 'custom',
          span: 6,
          hint: file || 'Its SHA-256 is taken here; the file itself is not sent or kept.',
          render: (value: string, onChange) => (
            <div className="grid gap-1">
              <input
                type="file"
                aria-label="Calibration file"
                onChange={(e) => {
                  const chosen = e.target.files?.[0];
                  if (chosen)
                    void hashOf(chosen).then((hash) => {
                      setFile(chosen.name);
                      onChange(hash);
                    });
                }}
              />
              <code className="break-all text-[11.5px] text-soft">{value}</code>
            </div>
          ),
        },
      ],
    },
    {
      title: 'What it expects',
      fields: [
        {
          name: 'fitmentId',
          label: 'Made for',
          kind: 'custom',
          span: 6,
          render: (_v: string, onChange) => (
            <Picker
              label="Fitment"
              placeholder="any fitment"
              value={fitment}
              useFind={useFindFitments}
              onChoose={(choice) => {
                setFitment(choice);
                onChange(choice.id);
              }}
            />
          ),
        },
        { name: 'fuel', label: 'Fuel', kind: 'text', span: 3, hint: 'with its octane, e.g. 98 RON' },
        { name: 'ethanolPct', label: 'Ethanol, %', kind: 'number', optional: true, span: 3 },
        {
          name: 'expectsPartRevisionIds',
          label: 'Parts it expects on the car',
          kind: 'custom',
          span: 6,
          render: (value: string[], onChange) => (
            <div className="grid gap-1.5">
              {expected
                .filter((c) => value.includes(c.id))
                .map((c) => (
                  <span key={c.id}>
                    {c.name}{' '}
                    <button
                      type="button"
                      aria-label={`Remove ${c.name}`}
                      onClick={() => onChange(value.filter((v) => v !== c.id))}
                    >
                      ✕
                    </button>
                  </span>
                ))}
              <NewestRevision
                onChoose={(choice) => {
                  setExpected([...expected, choice]);
                  onChange([...value, choice.id]);
                }}
              />
            </div>
          ),
        },
        { name: 'note', label: 'Note', kind: 'area', span: 6 },
      ],
    },
  ];
  return (
    <main className="px-6 py-5">
      <PageHead
        title="Calibrations"
        note="Known by the hash of their file: the same name with another file is another calibration."
      >
        {may.manage && !writing && (
          <Button kind="main" onClick={() => setWriting(true)}>
            New calibration
          </Button>
        )}
      </PageHead>
      {writing && (
        <div className="mb-6 max-w-[900px]">
          <RecordForm
            draft="new calibration"
            schema={CalibrationInput}
            groups={groups}
            values={{
              name: '',
              revision: '1',
              fileHash: '',
              fileName: '',
              fitmentId: null,
              fuel: null,
              ethanolPct: null,
              expectsPartRevisionIds: [],
              note: '',
            }}
            saving={isLoading}
            problem={refused}
            onCancel={() => setWriting(false)}
            verb="Add the calibration"
            save={async (record) => {
              const answer = await add({ ...record, fileName: file });
              if ('error' in answer) return false;
              setWriting(false);
              toast.success('Added.');
              return true;
            }}
          />
        </div>
      )}
      <ProblemNote error={error} again={() => void refetch()} />
      {!data && !error && <Loading what="the calibrations" />}
      {data && data.calibrations.length === 0 && (
        <Empty title="No calibration yet">Add one by its file; a plan that needs one asks for it.</Empty>
      )}
      {data && data.calibrations.length > 0 && (
        <div className="overflow-x-auto">
          <table className="ledger">
            <thead>
              <tr>
                <th>Calibration</th>
                <th>Made for</th>
                <th>Fuel</th>
                <th>Expects</th>
                <th>SHA-256 of the file</th>
                <th>Added</th>
              </tr>
            </thead>
            <tbody>
              {data.calibrations.map((c) => (
                <tr key={c.id}>
                  <td>
                    <b>{c.name}</b>, revision {c.revision}
                    {c.note && <span className="block text-[12.5px] text-soft">{c.note}</span>}
                  </td>
                  <td>{c.fitment ?? 'any'}</td>
                  <td>
                    {c.fuel ?? ''}
                    {c.ethanolPct === null ? '' : `, ${c.ethanolPct} % ethanol`}
                  </td>
                  <td>{c.expects.join('; ')}</td>
                  <td>
                    <code title={c.fileHash} className="text-[12px]">
                      {c.fileHash.slice(0, 12)}…
                    </code>
                    {c.fileName && <span className="block text-[12px] text-soft">{c.fileName}</span>}
                  </td>
                  <td>{day(c.createdAt)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <div className="mt-6 max-w-prose">
        <Caution>
          A calibration made for another fuel, ethanol content or part can harm the engine: check what the
          fuel system is known to stand.
        </Caution>
      </div>
    </main>
  );
}

/** A part by name; its newest revision is what is expected. */
function NewestRevision({ onChoose }: { onChoose: (choice: Choice) => void }) {
  const [part, setPart] = useState<Choice | null>(null);
  const { data } = usePartQuery(part?.id ?? '', { skip: !part });
  const ready = part && data?.part.id === part.id ? data.revisions[0] : undefined;
  return (
    <div className="grid gap-1">
      <Picker
        label="Part it expects"
        placeholder="add a part"
        value={part}
        useFind={useFindParts}
        onChoose={setPart}
      />
      {ready && (
        <Button
          small
          onClick={() => {
            onChoose({ id: ready.id, name: `${part!.name}, revision ${ready.revision}` });
            setPart(null);
          }}
        >
          Add {part!.name}, revision {ready.revision}
        </Button>
      )}
    </div>
  );
}
