import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { toast } from 'sonner';
import { problemOf, type Problem } from '../base/api.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import { useAttachFileMutation, useRereadFileMutation } from '../base/endpoints.ts';
import { FormSelect } from '../base/select.tsx';
import { Dialog } from '../base/dialog.tsx';
import { Button, Field, ProblemNote } from '../base/ui.tsx';

const UNITS = {
  rpm: ['rpm', 'Hz', 'rad/s', 'krpm'],
  torque: ['N·m', 'lb·ft', 'kgf·m'],
  power: ['kW', 'hp', 'PS', 'W'],
} as const;
type Key = keyof typeof UNITS;
const NAMES: Record<Key, string> = { rpm: 'Engine speed', torque: 'Torque', power: 'Power' };

type Chosen = Record<Key, { column: string; unit: string }>;
const NONE = { column: '', unit: '' };
const NOTHING_CHOSEN: Chosen = { rpm: NONE, torque: NONE, power: NONE };

/** Column names of a file, from its first lines; good enough to choose from, the server reads it properly. */
async function headerOf(file: File): Promise<string[]> {
  const text = await file.slice(0, 8192).text();
  const rows = text.split(/\r?\n/).map((line) =>
    line
      .split(/[;\t|]|,(?!\d)/)
      .map((cell) => cell.replace(/^"|"$/g, '').trim())
      .filter(Boolean),
  );
  return (
    rows
      .filter((row) => row.filter((cell) => /[a-z]/i.test(cell)).length >= 2)
      .sort((a, b) => b.length - a.length)[0] ?? []
  );
}

/** Asks which column is which, and in what unit; the answer is kept for files of the same layout from this dyno. */
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
  const [header, setHeader] = useState<string[]>(
    stored
      ? stored.found.columns.map((c) => c.header)
      : Array.isArray(problem?.details.columns)
        ? problem.details.columns.map(String)
        : [],
  );
  const { control, handleSubmit, watch } = useForm<Chosen>({ defaultValues: NOTHING_CHOSEN });
  const chosen = watch();
  useEffect(() => {
    if (!file) return;
    void headerOf(file).then((found) => {
      if (found.length > 1) setHeader(found);
    });
  }, [file]);
  const send = handleSubmit(async (said) => {
    const columns = Object.fromEntries(
      Object.entries(said)
        .filter(([, c]) => c.column)
        .map(([key, c]) => [key, { column: c.column, ...(c.unit ? { unit: c.unit } : {}) }]),
    );
    const answer = file
      ? await attach({ testId, pullId, file, columns })
      : await reread({ testId, pullId, columns });
    if ('error' in answer) return;
    toast.success(
      `${name} ${file ? 'attached' : 'read in the other way'}; the columns are remembered for this dyno.`,
    );
    onDone();
  });
  return (
    <Dialog open onClose={onClose} title={`Columns of ${name}`}>
      <form className="grid gap-3" onSubmit={(event) => void send(event)}>
        <p className="text-soft">
          {problem?.message ??
            'The stored bytes stay as they are; they are read again. What rests ' +
              'on them is evaluated again, and a published claim goes stale.'}
        </p>
        {(Object.keys(UNITS) as Key[]).map((key) => (
          <div key={key} className="grid grid-cols-[1fr_130px] gap-2">
            <Field label={NAMES[key]}>
              <FormSelect control={control} name={`${key}.column`}>
                <option value="">as found</option>
                {header.map((h) => (
                  <option key={h}>{h}</option>
                ))}
              </FormSelect>
            </Field>
            <Field label="Unit">
              <FormSelect
                aria-label={`Unit of ${NAMES[key].toLowerCase()}`}
                control={control}
                name={`${key}.unit`}
              >
                <option value="">as stated</option>
                {UNITS[key].map((u) => (
                  <option key={u}>{u}</option>
                ))}
              </FormSelect>
            </Field>
          </div>
        ))}
        {error !== undefined && <ProblemNote message={problemOf(error).message} />}
        <div className="flex gap-2">
          <Button
            kind="main"
            type="submit"
            disabled={isLoading || !Object.values(chosen).some((c) => c.column)}
          >
            Read it with these columns
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
