import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { problemOf, type Problem } from '../base/api.ts';
import type { Pull } from '../../contract/capture/capture.ts';
import { useAttachFileMutation, useRereadFileMutation } from '../base/endpoints.ts';
import { Button, Dialog, Field, ProblemNote, Select } from '../base/ui.tsx';

const UNITS = {
  rpm: ['rpm', 'Hz', 'rad/s', 'krpm'],
  torque: ['N·m', 'lb·ft', 'kgf·m'],
  power: ['kW', 'hp', 'PS', 'W'],
} as const;
type Key = keyof typeof UNITS;
const NAMES: Record<Key, string> = { rpm: 'Engine speed', torque: 'Torque', power: 'Power' };

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
  const [chosen, setChosen] = useState<Record<Key, { column: string; unit: string }>>({
    rpm: { column: '', unit: '' },
    torque: { column: '', unit: '' },
    power: { column: '', unit: '' },
  });
  useEffect(() => {
    if (!file) return;
    void headerOf(file).then((found) => {
      if (found.length > 1) setHeader(found);
    });
  }, [file]);
  const set = (key: Key, part: Partial<{ column: string; unit: string }>): void =>
    setChosen((now) => ({ ...now, [key]: { ...now[key], ...part } }));
  const send = async (): Promise<void> => {
    const columns = Object.fromEntries(
      Object.entries(chosen)
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
  };
  return (
    <Dialog open onClose={onClose} title={`Columns of ${name}`}>
      <div className="grid gap-3">
        <p className="text-soft">
          {problem?.message ??
            'The stored bytes stay as they are; they are read again. What rests on them is evaluated again, and a published claim goes stale.'}
        </p>
        {(Object.keys(UNITS) as Key[]).map((key) => (
          <div key={key} className="grid grid-cols-[1fr_130px] gap-2">
            <Field label={NAMES[key]}>
              <Select value={chosen[key].column} onChange={(e) => set(key, { column: e.target.value })}>
                <option value="">as found</option>
                {header.map((h) => (
                  <option key={h}>{h}</option>
                ))}
              </Select>
            </Field>
            <Field label="Unit">
              <Select
                aria-label={`Unit of ${NAMES[key].toLowerCase()}`}
                value={chosen[key].unit}
                onChange={(e) => set(key, { unit: e.target.value })}
              >
                <option value="">as stated</option>
                {UNITS[key].map((u) => (
                  <option key={u}>{u}</option>
                ))}
              </Select>
            </Field>
          </div>
        ))}
        {error !== undefined && <ProblemNote message={problemOf(error).message} />}
        <div className="flex gap-2">
          <Button
            kind="main"
            disabled={isLoading || !Object.values(chosen).some((c) => c.column)}
            onClick={() => void send()}
          >
            Read it with these columns
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </div>
    </Dialog>
  );
}
