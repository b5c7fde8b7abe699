import { zodResolver } from '@hookform/resolvers/zod';
import clsx from 'clsx';
import { format } from 'date-fns';
import { useState } from 'react';
import { Controller, useForm, useWatch, type Resolver } from 'react-hook-form';
import { toast } from 'sonner';
import { LEDGER_KINDS, SERVICE_ITEMS, type LedgerKind } from '../../core/register/ledger.ts';
import { PART_CATEGORIES, type PartCategory } from '../../core/register/parts.ts';
import {
  LedgerRequest,
  type LedgerEntryShown,
  type VehicleDetail,
} from '../../contract/register/register.ts';
import { day, dayTime, number } from '../base/format.ts';
import { DateTimeInput } from '../base/date-input.tsx';
import { Button, Field, Input, Loading, Mark, ProblemNote, Select } from '../base/ui.tsx';
import { useConfigurationQuery, useEnterLedgerMutation, usePlanningQuery, useRegisterQuery } from './api.ts';

/** What was on the car on a day, and whether that is stock: computed from the ledger, with what is not stock listed. */
export function OnThatDay({ vehicleId }: { vehicleId: string }) {
  const [on, setOn] = useState(() => format(new Date(), "yyyy-MM-dd'T'HH:mm"));
  const [now] = useState(() => new Date());
  const asked = on === '' || Number.isNaN(Date.parse(on)) ? now : new Date(on);
  const { data, error } = useConfigurationQuery({ id: vehicleId, on: asked.toISOString() });
  return (
    <section aria-labelledby="on-that-day" className="border border-rule bg-sheet p-4">
      <h2 id="on-that-day">What was on it</h2>
      <div className="mt-1 flex items-baseline gap-2 text-[12.5px] text-soft">
        on
        <DateTimeInput label="The question is about" value={on} onChange={setOn} />
      </div>
      <ProblemNote error={error} />
      {!data && !error && <Loading what="the ledger" />}
      {data && (
        <>
          <p className="mt-3">
            {data.stock.stock === 'yes' ? (
              <Mark tone="stands">This is stock.</Mark>
            ) : data.stock.stock === 'no' ? (
              <Mark tone="ask">Not stock</Mark>
            ) : (
              <Mark tone="soft">Not known to be stock</Mark>
            )}
          </p>
          <ul className="text-[12.5px]">
            {data.stock.notStock.map((d) => (
              <li key={d.text} className="text-ask">
                {d.subject}: {d.text}
              </li>
            ))}
            {data.stock.worn.map((d) => (
              <li key={d.text} className="text-ask">
                worn: {d.text}
              </li>
            ))}
            {data.stock.notRecorded.map((d) => (
              <li key={d.text} className="text-soft">
                {d.text}
              </li>
            ))}
          </ul>
          <dl className="mt-3 border-t border-rule">
            {data.lines.map((line) => (
              <div
                key={`${line.subject} ${line.text}`}
                className="grid grid-cols-[104px_1fr] gap-2 border-b border-rule py-1"
              >
                <dt className="text-soft">{line.subject}</dt>
                <dd>
                  {line.text}
                  {line.since && <span className="text-soft"> · {day(line.since)}</span>}
                </dd>
              </div>
            ))}
            <div className="grid grid-cols-[104px_1fr] gap-2 py-1">
              <dt className="text-soft">odometer</dt>
              <dd>
                {data.odometerKm === null ? 'not recorded' : `${number(data.odometerKm, 0)} km or more`}
              </dd>
            </div>
          </dl>
        </>
      )}
    </section>
  );
}

/** The ledger itself, newest first; wrong entries stay readable, struck through, with what put them right. */
export function Ledger({ detail, mayWrite }: { detail: VehicleDetail; mayWrite: boolean }) {
  const [writing, setWriting] = useState<'new' | LedgerEntryShown | null>(null);
  return (
    <section aria-labelledby="ledger">
      <div className="mb-2 flex items-baseline justify-between">
        <h2 id="ledger">Ledger</h2>
        {mayWrite && writing === null && (
          <Button small onClick={() => setWriting('new')}>
            Write an entry
          </Button>
        )}
      </div>
      {writing !== null && (
        <EntryForm
          key={writing === 'new' ? 'new' : writing.id}
          detail={detail}
          wrong={writing === 'new' ? null : writing}
          onDone={() => setWriting(null)}
        />
      )}
      {detail.ledger.length === 0 && (
        <p className="border border-dashed border-rule px-4 py-5 text-soft">
          Nothing is written down. Begin with tyres, fuel and the last service: until then nobody knows
          whether this car is stock.
        </p>
      )}
      {detail.ledger.length > 0 && (
        <table className="ledger">
          <thead>
            <tr>
              <th>Done</th>
              <th>What</th>
              <th className="num">Odometer</th>
              <th>Written by</th>
              {mayWrite && (
                <th>
                  <span className="sr-only">Put right</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {detail.ledger.map((e) => (
              <tr key={e.id} className={clsx(e.superseded && 'text-soft')}>
                <td className="whitespace-nowrap pr-4">
                  {day(e.at)}
                  <span className="block text-[12px] text-soft">{format(new Date(e.at), 'HH:mm')}</span>
                </td>
                <td>
                  {e.superseded ? <s>{e.text}</s> : e.text}
                  {e.superseded && <span className="ml-2 text-[12px]">put right later</span>}
                  {e.supersedes && (
                    <span className="ml-2 text-[12px] text-ask">puts another entry right</span>
                  )}
                  {e.note && <span className="block text-[12.5px] text-soft">{e.note}</span>}
                </td>
                <td className="num">{e.odometerKm === null ? '' : `${number(e.odometerKm, 0)} km`}</td>
                <td className="pl-3! text-[12.5px] text-soft">
                  {e.enteredBy.split(',')[0]}
                  <span className="block">{dayTime(e.enteredAt)}</span>
                </td>
                {mayWrite && (
                  <td className="text-right">
                    {!e.superseded && (
                      <Button kind="quiet" small onClick={() => setWriting(e)}>
                        Put right
                      </Button>
                    )}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

interface Draft {
  at: string;
  odometerKm: number | null;
  note: string;
  kind: LedgerKind | 'taken back';
  category: PartCategory;
  partRevisionId: string;
  settings: Record<string, string>;
  calibrationId: string;
  text: string;
  item: (typeof SERVICE_ITEMS)[number];
}
const KIND_NAMES: Record<Draft['kind'], string> = {
  'part fitted': 'A part was fitted',
  'option set': 'An option was set',
  'returned to stock': 'Put back to stock',
  calibration: 'Calibration flashed',
  tyres: 'Tyres',
  fuel: 'Fuel',
  service: 'Service',
  'other change': 'Something else was changed',
  'other change undone': 'Something else was undone',
  'taken back': 'Nothing: it did not happen',
};

function EntryForm({
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

function changeOf(d: Draft): unknown {
  switch (d.kind) {
    case 'taken back':
      return null;
    case 'part fitted':
      return { kind: d.kind, category: d.category, partRevisionId: d.partRevisionId, settings: d.settings };
    case 'option set':
      return { kind: d.kind, category: d.category, settings: d.settings };
    case 'returned to stock':
      return { kind: d.kind, category: d.category };
    case 'calibration':
      return { kind: d.kind, calibrationId: d.calibrationId || null };
    case 'service':
      return { kind: d.kind, item: d.item };
    default:
      return { kind: d.kind, text: d.text };
  }
}
