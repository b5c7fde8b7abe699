/** The fields of a ledger entry that depend on what was done. */
import { useFormContext, useWatch } from 'react-hook-form';
import { SERVICE_ITEMS } from '../../core/register/ledger.ts';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import type { Planning, VehicleDetail } from '../../contract/register/register.ts';
import { FormSelect, Select } from '../base/select.tsx';
import { Field, Input } from '../base/ui.tsx';
import { usePlanningQuery, useRegisterQuery } from './api.ts';
import type { Draft } from './ledger-draft.ts';

export function WhatWasDone({ detail }: { detail: VehicleDetail }) {
  const kind = useWatch<Draft, 'kind'>({ name: 'kind' });
  switch (kind) {
    case 'part fitted':
    case 'option set':
    case 'returned to stock':
      return <PartFields vehicleId={detail.vehicle.id} kind={kind} />;
    case 'calibration':
      return <CalibrationField />;
    case 'service':
      return <ServiceField />;
    case 'tyres':
    case 'fuel':
    case 'other change':
    case 'other change undone':
      return <TextField kind={kind} fitment={detail.fitment} />;
    default:
      return null;
  }
}

function PartFields({
  vehicleId,
  kind,
}: {
  vehicleId: string;
  kind: 'part fitted' | 'option set' | 'returned to stock';
}) {
  const { data: planning } = usePlanningQuery(vehicleId);
  const [partRevisionId, category] = useWatch<Draft, ['partRevisionId', 'category']>({
    name: ['partRevisionId', 'category'],
  });
  const fitted = planning?.present.configuration?.parts ?? {};
  const meant = kind === 'part fitted' ? partRevisionId : fitted[category]?.partRevisionId;
  const options = planning?.revisions.find((r) => r.id === meant)?.options ?? [];
  return (
    <>
      {kind === 'part fitted' ? (
        <FittedPart revisions={planning?.revisions ?? []} />
      ) : (
        <PlaceField places={Object.keys(fitted).length ? Object.keys(fitted) : PART_CATEGORIES} />
      )}
      {kind !== 'returned to stock' && <OptionFields options={options} />}
    </>
  );
}

type Revisions = Planning['revisions'];
function FittedPart({ revisions }: { revisions: Revisions }) {
  const {
    control,
    setValue,
    formState: { errors },
  } = useFormContext<Draft>();
  /** A part brings its own options, each on its first setting, and says where it goes. */
  const chosen = (id: string): void => {
    const revision = revisions.find((r) => r.id === id);
    const first = (revision?.options ?? []).map((o) => [o.name, o.settings[0]]);
    setValue('settings', Object.fromEntries(first) as Record<string, string>);
    if (revision) setValue('category', revision.category);
  };
  return (
    <Field label="Part" error={errors.partRevisionId?.message} hint="parts listed for this fitment">
      <FormSelect control={control} name="partRevisionId" onChosen={chosen}>
        <option value="">choose</option>
        {revisions.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name}, revision {r.revision} ({r.category})
          </option>
        ))}
      </FormSelect>
    </Field>
  );
}

function PlaceField({ places }: { places: readonly string[] }) {
  const { control } = useFormContext<Draft>();
  return (
    <Field label="Place">
      <FormSelect control={control} name="category">
        {places.map((c) => (
          <option key={c}>{c}</option>
        ))}
      </FormSelect>
    </Field>
  );
}

function OptionFields({ options }: { options: Revisions[number]['options'] }) {
  const { setValue } = useFormContext<Draft>();
  const settings = useWatch<Draft, 'settings'>({ name: 'settings' });
  return options.map((o) => (
    <Field key={o.name} label={o.name}>
      <Select
        value={settings[o.name] ?? o.settings[0]}
        onChange={(e) => setValue('settings', { ...settings, [o.name]: e.target.value })}
      >
        {o.settings.map((s) => (
          <option key={s}>{s}</option>
        ))}
      </Select>
    </Field>
  ));
}

function CalibrationField() {
  const { data: register } = useRegisterQuery();
  const { control } = useFormContext<Draft>();
  return (
    <Field label="Calibration">
      <FormSelect control={control} name="calibrationId">
        <option value="">stock</option>
        {register?.calibrations.map((c) => (
          <option key={c.id} value={c.id}>
            {c.name}, revision {c.revision}
          </option>
        ))}
      </FormSelect>
    </Field>
  );
}

function ServiceField() {
  const { control } = useFormContext<Draft>();
  return (
    <Field label="Renewed">
      <FormSelect control={control} name="item">
        {SERVICE_ITEMS.map((i) => (
          <option key={i}>{i}</option>
        ))}
      </FormSelect>
    </Field>
  );
}

function TextField({ kind, fitment }: { kind: Draft['kind']; fitment: VehicleDetail['fitment'] }) {
  const {
    register: field,
    formState: { errors },
  } = useFormContext<Draft>();
  const stock = { tyres: fitment.stockTyres, fuel: fitment.fuel }[kind as string];
  return (
    <Field
      label={{ tyres: 'Which tyres', fuel: 'Which fuel' }[kind as string] ?? 'What'}
      error={errors.text?.message}
      hint={stock ? `stock: ${stock}` : undefined}
    >
      <Input {...field('text')} />
    </Field>
  );
}
