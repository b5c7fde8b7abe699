import { toast } from 'sonner';
import { ControlVehicleRequest, type ControlVehicleShown } from '../../contract/register/control.ts';
import { STANDARD_NAMES, STANDARDS } from '../../core/base/standards.ts';
import { Picker } from '../base/picker.tsx';
import { RecordForm, type FieldGroup } from '../base/record-form.tsx';
import { useFindVehicles, useVehicleQuery } from './api.ts';
import { useNameControlMutation } from './control-api.ts';

function VehiclePick({ id, onChoose, ...rest }: { id: string; onChoose: (id: string) => void }) {
  const { data } = useVehicleQuery(id, { skip: !id });
  return (
    <Picker
      {...rest}
      label="Control vehicle"
      placeholder="find a vehicle"
      value={id && data ? { id, name: data.vehicle.tag } : null}
      useFind={useFindVehicles}
      onChoose={(choice) => onChoose(choice.id)}
    />
  );
}

const how: FieldGroup<keyof ControlVehicleRequest>['fields'] = [
  {
    name: 'standard',
    label: 'Corrected by',
    kind: 'select',
    options: STANDARDS.map((value) => ({ value, label: STANDARD_NAMES[value] })),
    span: 4,
  },
  { name: 'fromRpm', label: 'From, rpm', kind: 'number', span: 2 },
  { name: 'toRpm', label: 'To, rpm', kind: 'number', span: 2 },
  { name: 'gear', label: 'Gear', kind: 'text', span: 4 },
];

/** Names a control vehicle, and how it is read from now on; or begins one anew. */
export function ControlName({
  dynoId,
  anew,
  onDone,
}: {
  dynoId: string;
  /** The one that is begun anew. */ anew?: {
    readonly vehicle: ControlVehicleShown;
    readonly reason: string;
  };
  onDone: () => void;
}) {
  const [name, { error, isLoading }] = useNameControlMutation();
  const former = anew?.vehicle;
  const fields: FieldGroup<keyof ControlVehicleRequest>['fields'] = former
    ? how
    : [
        {
          name: 'vehicleId',
          label: 'Vehicle',
          kind: 'custom',
          span: 12,
          hint: 'A car on which nothing is changed, and nobody drives: its fuel, tyres and oil stay what they are.',
          render: (value: string, onChange) => <VehiclePick id={value} onChoose={onChange} />,
        },
        ...how,
      ];
  return (
    <div className="mb-4 border border-rule bg-sheet p-4">
      <RecordForm
        draft={`control:${dynoId}:${former?.id ?? ''}`}
        schema={ControlVehicleRequest}
        values={{
          vehicleId: former?.vehicleId ?? '',
          standard: former?.standard ?? 'sae-j1349',
          fromRpm: former?.fromRpm ?? 2500,
          toRpm: former?.toRpm ?? 6000,
          gear: former?.gear ?? '',
          anew: former ? { replaces: former.id, reason: anew.reason } : null,
        }}
        groups={[{ title: '', fields }]}
        verb={former ? 'Begin it anew' : 'Name it'}
        saving={isLoading}
        problem={error}
        onCancel={onDone}
        save={async (body) => {
          if ('error' in (await name({ dynoId, body }))) return false;
          toast.success(former ? 'Begun anew; its reference is built from now on.' : 'Named.');
          onDone();
          return true;
        }}
      />
    </div>
  );
}
