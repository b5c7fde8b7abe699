import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import {
  ControlCheckRequest,
  LEAST_CHECK_PULLS,
  type ControlVehicleShown,
} from '../../contract/register/control.ts';
import { DEFAULT_POLICY } from '../../core/base/policy.ts';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { buttonClass, ProblemNote } from '../base/ui.tsx';
import { useEnterCheckMutation, useSendCheckFileMutation } from './control-api.ts';

interface Sent {
  readonly name: string;
  readonly sha256: string;
}
const { pulls, ...asked } = ControlCheckRequest.shape;
const { name: _name, sha256: _sha256, ...air } = pulls.element.shape;
/** One reading of the air for the pulls of a check, which take a few minutes. */
const CheckForm = z.object({
  ...asked,
  ...air,
  files: z
    .array(z.object({ name: z.string(), sha256: z.string() }))
    .min(LEAST_CHECK_PULLS, `Choose the files of ${LEAST_CHECK_PULLS} counted pulls or more.`),
});
type CheckForm = z.infer<typeof CheckForm>;

/** Files that are kept as they are chosen; the check names them once it is entered. */
function FilesOf({
  controlId,
  value,
  onChange,
  ...rest
}: {
  controlId: string;
  value: readonly Sent[];
  onChange: (files: readonly Sent[]) => void;
}) {
  const [send, { error }] = useSendCheckFileMutation();
  const [busy, setBusy] = useState(false);
  const choose = async (files: readonly File[]): Promise<void> => {
    setBusy(true);
    const sent: Sent[] = [];
    for (const file of files) {
      const answer = await send({ controlId, file });
      if (!('data' in answer) || !answer.data) break;
      sent.push({ name: file.name, sha256: answer.data.sha256 });
    }
    onChange(sent);
    setBusy(false);
  };
  return (
    <div {...rest} className="grid justify-items-start gap-1">
      <label className={buttonClass('plain', true)}>
        {busy ? 'Sending …' : value.length > 0 ? 'Choose others' : 'Choose the files'}
        <input
          type="file"
          multiple
          className="sr-only"
          aria-label="Files of the counted pulls"
          disabled={busy}
          onChange={(event) => void choose([...(event.target.files ?? [])])}
        />
      </label>
      {value.length > 0 && (
        <span className="text-[12.5px] text-soft">
          Kept, in this order: {value.map((f) => f.name).join(', ')}
        </span>
      )}
      <ProblemNote error={error} />
    </div>
  );
}

/** Enters one measurement of a control vehicle. */
// eslint-disable-next-line max-lines-per-function -- a form, field by field
export function ControlCheckForm({ vehicle, onDone }: { vehicle: ControlVehicleShown; onDone: () => void }) {
  const [enter, { error, isLoading }] = useEnterCheckMutation();
  const [today] = useState(() => new Date().toISOString().slice(0, 10));
  const groups: FieldGroup<keyof CheckForm>[] = [
    {
      title: '',
      fields: [
        { name: 'day', label: 'Day', kind: 'date', span: 4 },
        { name: 'time', label: 'First pull, at the site', kind: 'time', span: 4 },
        { name: 'warmUps', label: 'Warm-up pulls before', kind: 'number', span: 4 },
        { name: 'temperatureC', label: 'Temperature, °C', kind: 'number', span: 4 },
        { name: 'pressureHpa', label: 'Pressure at the site, hPa', kind: 'number', span: 4 },
        { name: 'humidityPct', label: 'Humidity, %', kind: 'number', span: 4 },
        {
          name: 'files',
          label: 'Counted pulls',
          kind: 'custom',
          span: 12,
          hint: 'In the order they were made, as the dyno wrote them. They are kept as they are.',
          render: (value: readonly Sent[], onChange) => (
            <FilesOf controlId={vehicle.id} value={value} onChange={onChange} />
          ),
        },
        { name: 'note', label: 'Note', kind: 'text', span: 12 },
      ],
    },
  ];
  return (
    <div className="mb-3 border border-rule bg-sheet p-4">
      <RecordForm
        draft={`check:${vehicle.id}`}
        schema={CheckForm}
        values={{
          day: today,
          time: '',
          warmUps: DEFAULT_POLICY.warmUpPulls,
          note: '',
          files: [],
          temperatureC: NaN,
          pressureHpa: NaN,
          humidityPct: NaN,
        }}
        groups={groups}
        verb="Enter the check"
        saving={isLoading}
        problem={error}
        onCancel={onDone}
        save={async ({ files, temperatureC, pressureHpa, humidityPct, ...rest }) => {
          const body = {
            ...rest,
            pulls: files.map((file) => ({ ...file, temperatureC, pressureHpa, humidityPct })),
          };
          if ('error' in (await enter({ controlId: vehicle.id, body }))) return false;
          toast.success('Entered; sessions since the check before are judged again.');
          onDone();
          return true;
        }}
      />
    </div>
  );
}
