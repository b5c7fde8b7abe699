import { useState } from 'react';
import { toast } from 'sonner';
import { SensorInput, type DynoDetail } from '../../contract/register/register.ts';
import { day } from '../base/format.ts';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { ConfirmButton } from '../base/confirm.tsx';
import { Button, Mark } from '../base/ui.tsx';
import { useAddSensorMutation, useRemoveSensorMutation } from './api.ts';

type Sensors = DynoDetail['sensors'];
const FIELDS: readonly FieldGroup<keyof SensorInput>[] = [
  {
    title: 'Sensor',
    fields: [
      { name: 'quantity', label: 'Quantity', kind: 'text', span: 4 },
      { name: 'serial', label: 'Serial number', kind: 'text', span: 4 },
      { name: 'uncertainty', label: 'Standard uncertainty', kind: 'number', span: 2 },
      { name: 'unit', label: 'Unit', kind: 'text', span: 2 },
      { name: 'calibratedOn', label: 'Calibrated', kind: 'date', span: 4 },
      { name: 'dueOn', label: 'Due again', kind: 'date', span: 4 },
      { name: 'note', label: 'Note', kind: 'text', span: 4 },
    ],
  },
];

/** What the air of a dyno is measured with, how well, and when each is due. */
export function Sensors({
  dynoId,
  sensors,
  mayPrepare,
}: {
  dynoId: string;
  sensors: Sensors;
  mayPrepare: boolean;
}) {
  const [open, setOpen] = useState(false);
  const [now] = useState(() => new Date().toISOString().slice(0, 10));
  return (
    <section>
      <div className="mb-2 flex items-baseline justify-between">
        <h2>Sensors</h2>
        {mayPrepare && !open && (
          <Button small onClick={() => setOpen(true)}>
            Enter a sensor or a calibration
          </Button>
        )}
      </div>
      {open && <SensorForm dynoId={dynoId} now={now} onDone={() => setOpen(false)} />}
      {sensors.length === 0 ? (
        <p className="text-soft">None entered: no uncertainty of the air is known.</p>
      ) : (
        <SensorTable dynoId={dynoId} sensors={sensors} mayPrepare={mayPrepare} now={now} />
      )}
    </section>
  );
}

function SensorForm({ dynoId, now, onDone }: { dynoId: string; now: string; onDone: () => void }) {
  const [add, { error, isLoading }] = useAddSensorMutation();
  return (
    <div className="mb-4 border border-rule bg-sheet p-4">
      <RecordForm
        draft={`sensor:${dynoId}`}
        schema={SensorInput}
        values={{
          quantity: '',
          serial: '',
          uncertainty: 0.5,
          unit: '',
          calibratedOn: now,
          dueOn: null,
          note: '',
        }}
        groups={FIELDS}
        saving={isLoading}
        problem={error}
        onCancel={onDone}
        verb="Enter it"
        save={async (sensor) => {
          if ('error' in (await add({ dynoId, sensor }))) return false;
          onDone();
          toast.success('Entered.');
          return true;
        }}
      />
    </div>
  );
}

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
function SensorTable({
  dynoId,
  sensors,
  mayPrepare,
  now,
}: {
  dynoId: string;
  sensors: Sensors;
  mayPrepare: boolean;
  now: string;
}) {
  const [remove] = useRemoveSensorMutation();
  return (
    <div className="overflow-x-auto">
      <table className="ledger">
        <thead>
          <tr>
            <th>Quantity</th>
            <th>Serial</th>
            <th className="num">Standard uncertainty</th>
            <th className="pl-4!">Calibrated</th>
            <th>Due</th>
            {mayPrepare && (
              <th>
                <span className="sr-only">Remove</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {sensors.map((s) => (
            <tr key={s.id}>
              <td>
                {s.quantity}
                {s.note && <span className="block text-[12px] text-soft">{s.note}</span>}
              </td>
              <td>{s.serial}</td>
              <td className="num">
                {s.uncertainty} {s.unit}
              </td>
              <td className="pl-4!">{day(s.calibratedOn)}</td>
              <td>
                {s.dueOn ? s.dueOn < now ? <Mark tone="ask">since {day(s.dueOn)}</Mark> : day(s.dueOn) : ''}
              </td>
              {mayPrepare && (
                <td className="text-right">
                  <ConfirmButton
                    kind="quiet"
                    small
                    title={`Remove the ${s.quantity} sensor ${s.serial}?`}
                    follows={
                      'Its calibration no longer stands behind what this dyno measures; claims that rest on it are ' +
                      'evaluated again.'
                    }
                    verb="Remove it"
                    onConfirm={async () => {
                      await remove({ dynoId, id: s.id });
                    }}
                  >
                    Remove
                  </ConfirmButton>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
