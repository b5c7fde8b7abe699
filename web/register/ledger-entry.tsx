import { zodResolver } from '@hookform/resolvers/zod';
import { format } from 'date-fns';
import { Controller, useForm, useWatch, type Resolver } from 'react-hook-form';
import { toast } from 'sonner';
import { LEDGER_KINDS, SERVICE_ITEMS } from '../../core/register/ledger.ts';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import {
  LedgerRequest,
  type LedgerEntryShown,
  type VehicleDetail,
} from '../../contract/register/register.ts';
import { dayTime } from '../base/format.ts';
import { DateTimeInput } from '../base/date-input.tsx';
import { Button, Field, Input, ProblemNote, Select } from '../base/ui.tsx';
import { useEnterLedgerMutation, usePlanningQuery, useRegisterQuery } from './api.ts';
import { type Draft, KIND_NAMES, changeOf } from './ledger-draft.ts';

export function EntryForm({
  detail,
  wrong,
  onDone,
}: {
  detail: VehicleDetail;
  wrong: LedgerEntryShown | null;
  onDone: () => void;
}) {
  const id = detail.vehicle.id;
  const { data: planning } = usePlanningQuery(id);
  const { data: register } = useRegisterQuery();
  const [enter, { error, isLoading }] = useEnterLedgerMutation();
  const toRequest = (d: Draft): unknown => ({
    at: d.at ? new Date(d.at).toISOString() : '',
    odometerKm: d.odometerKm,
    note: d.note,
    supersedes: wrong?.id ?? null,
    change: changeOf(d),
  });
  // The contract checks the entry as it will be sent; its paths are those of the form.
  const resolver: Resolver<Draft> = async (draft, context, options) => {
    const checked = await (zodResolver(LedgerRequest) as unknown as Resolver<Draft>)(
      toRequest(draft) as Draft,
      context,
      options,
    );
    if (Object.keys(checked.errors).length === 0) return { values: draft, errors: {} };
    const { change, ...rest } = checked.errors as Record<string, unknown>;
    return { values: {}, errors: { ...rest, ...(change as object) } as never };
  };
  const {
    register: field,
    handleSubmit,
    control,
    setValue,
    formState: { errors },
  } = useForm<Draft>({
    resolver,
    defaultValues: {
      at: format(wrong ? new Date(wrong.at) : new Date(), "yyyy-MM-dd'T'HH:mm"),
      odometerKm: wrong?.odometerKm ?? null,
      note: '',
      kind: wrong?.change?.kind ?? 'service',
      category: 'intake',
      partRevisionId: '',
      settings: {},
      calibrationId: '',
      text: '',
      item: 'air filter',
    },
  });
  const [kind, partRevisionId, category, settings] = useWatch({
    control,
    name: ['kind', 'partRevisionId', 'category', 'settings'],
  });
  const chosen = planning?.revisions.find((r) => r.id === partRevisionId);
  const present = planning?.present.configuration;
  const fittedRevision = planning?.revisions.find((r) => r.id === present?.parts[category]?.partRevisionId);
  const save = handleSubmit(async (draft) => {
    const answer = await enter({ id, entry: LedgerRequest.parse(toRequest(draft)) });
    if (!('error' in answer)) {
      toast.success('Written.');
      onDone();
    }
  });
  const optionsOf = kind === 'option set' ? fittedRevision : chosen;
  return (
    <form
      onSubmit={(event) => void save(event)}
      noValidate
      className="mb-4 grid gap-3 border border-rule bg-sheet p-4"
    >
      {wrong && (
        <p className="text-[12.5px] text-ask">
          Puts right: {wrong.text}, {dayTime(wrong.at)}. The old entry stays readable and no longer counts.
        </p>
      )}
      <div className="grid gap-3 md:grid-cols-3">
        <Controller
          control={control}
          name="at"
          render={({ field: { value, onChange } }) => (
            <Field label="Done" error={errors.at?.message}>
              <DateTimeInput label="Done" value={value} onChange={onChange} />
            </Field>
          )}
        />
        <Field label="Odometer, km" error={errors.odometerKm?.message} hint="if it was read">
          <Input
            type="number"
            {...field('odometerKm', {
              setValueAs: (v: string | number | null) => (v === '' || v === null ? null : Number(v)),
            })}
          />
        </Field>
        <Field label="What">
          <Select {...field('kind')}>
            {[...LEDGER_KINDS, ...(wrong ? ['taken back' as const] : [])].map((k) => (
              <option key={k} value={k}>
                {KIND_NAMES[k]}
              </option>
            ))}
          </Select>
        </Field>
        {kind === 'part fitted' && (
          <Field label="Part" error={errors.partRevisionId?.message} hint="parts listed for this fitment">
            <Select
              {...field('partRevisionId', {
                onChange: (e: { target: { value: string } }) => {
                  const r = planning?.revisions.find((x) => x.id === e.target.value);
                  setValue(
                    'settings',
                    Object.fromEntries((r?.options ?? []).map((o) => [o.name, o.settings[0]])),
                  );
                  if (r) setValue('category', r.category);
                },
              })}
            >
              <option value="">choose</option>
              {planning?.revisions.map((r) => (
                <option key={r.id} value={r.id}>
                  {r.name}, revision {r.revision} ({r.category})
                </option>
              ))}
            </Select>
          </Field>
        )}
        {(kind === 'option set' || kind === 'returned to stock') && (
          <Field label="Place">
            <Select {...field('category')}>
              {(present && Object.keys(present.parts).length
                ? Object.keys(present.parts)
                : PART_CATEGORIES
              ).map((c) => (
                <option key={c}>{c}</option>
              ))}
            </Select>
          </Field>
        )}
        {(kind === 'part fitted' || kind === 'option set') &&
          optionsOf?.options.map((o) => (
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
          ))}
        {kind === 'calibration' && (
          <Field label="Calibration">
            <Select {...field('calibrationId')}>
              <option value="">stock</option>
              {register?.calibrations.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}, revision {c.revision}
                </option>
              ))}
            </Select>
          </Field>
        )}
        {kind === 'service' && (
          <Field label="Renewed">
            <Select {...field('item')}>
              {SERVICE_ITEMS.map((i) => (
                <option key={i}>{i}</option>
              ))}
            </Select>
          </Field>
        )}
        {['tyres', 'fuel', 'other change', 'other change undone'].includes(kind) && (
          <Field
            label={kind === 'tyres' ? 'Which tyres' : kind === 'fuel' ? 'Which fuel' : 'What'}
            error={errors.text?.message}
            hint={
              kind === 'tyres' && detail.fitment.stockTyres
                ? `stock: ${detail.fitment.stockTyres}`
                : kind === 'fuel'
                  ? `stock: ${detail.fitment.fuel}`
                  : undefined
            }
          >
            <Input {...field('text')} />
          </Field>
        )}
        <Field label={wrong ? 'Why it is put right' : 'Note'} error={errors.note?.message}>
          <Input {...field('note')} />
        </Field>
      </div>
      <ProblemNote error={error} />
      <div className="flex gap-2">
        <Button kind="main" type="submit" disabled={isLoading}>
          {wrong ? 'Put it right' : 'Write it down'}
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
    </form>
  );
}
