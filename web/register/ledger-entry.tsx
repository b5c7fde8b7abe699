import '../../contract/base/words.ts';
import { zodResolver } from '@hookform/resolvers/zod';
import { format } from 'date-fns';
import { Controller, FormProvider, useForm, type Resolver } from 'react-hook-form';
import { useRef } from 'react';
import { toast } from 'sonner';
import { LEDGER_KINDS } from '../../core/register/ledger.ts';
import {
  LedgerRequest,
  type LedgerEntryShown,
  type VehicleDetail,
} from '../../contract/register/register.ts';
import { dayTime } from '../base/format.ts';
import { DateTimeInput } from '../base/date-input.tsx';
import { NumberInput } from '../base/number-input.tsx';
import { FormSelect } from '../base/select.tsx';
import { Button, Field, Input, ProblemNote } from '../base/ui.tsx';
import { useEnterLedgerMutation } from './api.ts';
import { WhatWasDone } from './ledger-what.tsx';
import { type Draft, KIND_NAMES, changeOf } from './ledger-draft.ts';
import { DraftFound } from '../base/draft-found.tsx';
import { useKeptForm } from '../base/kept-form.ts';

type Wrong = LedgerEntryShown | null;
const requestOf = (d: Draft, wrong: Wrong): unknown => ({
  at: d.at ? new Date(d.at).toISOString() : '',
  odometerKm: d.odometerKm,
  note: d.note,
  supersedes: wrong?.id ?? null,
  change: changeOf(d),
});
/** The contract checks the entry as it will be sent; its paths are those of the form. */
const resolverFor =
  (wrong: Wrong): Resolver<Draft> =>
  async (draft, context, options) => {
    const check = zodResolver(LedgerRequest) as unknown as Resolver<Draft>;
    const checked = await check(requestOf(draft, wrong) as Draft, context, options);
    if (Object.keys(checked.errors).length === 0) return { values: draft, errors: {} };
    const { change, ...rest } = checked.errors as Record<string, unknown>;
    return { values: {}, errors: { ...rest, ...(change as object) } as never };
  };
const startOf = (wrong: Wrong): Draft => ({
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
});

/** An entry in the ledger of a car: what was done when; or what puts a wrong entry right. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
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
  const [enter, { error, isLoading }] = useEnterLedgerMutation();
  const form = useForm<Draft>({
    resolver: resolverFor(wrong),
    defaultValues: startOf(wrong),
  });
  const {
    register: field,
    control,
    formState: { errors },
  } = form;
  const kept = useKeptForm(form, `ledger of:${id}:${wrong?.id ?? ''}`);
  const save = form.handleSubmit((draft) =>
    kept.saving(async () => {
      const answer = await enter({ id, entry: LedgerRequest.parse(requestOf(draft, wrong)) });
      if ('error' in answer) return false;
      toast.success('Written.');
      if (!goesOn.current) {
        onDone();
        return true;
      }
      // The next one is of the same day and reading; what was done is another.
      form.reset({ ...startOf(null), at: draft.at, odometerKm: draft.odometerKm, kind: draft.kind });
      return 'again';
    }),
  );
  const goesOn = useRef(false);
  return (
    <FormProvider {...form}>
      <form
        onSubmit={(event) => void save(event)}
        noValidate
        className="mb-4 grid gap-3 border border-rule bg-sheet p-4"
      >
        {kept.foundFrom && <DraftFound at={kept.foundFrom} onDrop={kept.beginAnew} />}
        {wrong && (
          <p className="text-[12.5px] text-ask">
            Puts right: {wrong.text}, {dayTime(wrong.at)}. The old entry stays readable and no longer counts.
          </p>
        )}
        <div className="grid gap-3 md:grid-cols-[1.5fr_1fr_1fr]">
          <Controller
            control={control}
            name="at"
            render={({ field: { value, onChange } }) => (
              <Field label="Done" error={errors.at?.message}>
                <DateTimeInput label="Done" value={value} onChange={onChange} />
              </Field>
            )}
          />
          <Controller
            control={control}
            name="odometerKm"
            render={({ field: { value, onChange, onBlur, ref } }) => (
              <Field label="Odometer, km" error={errors.odometerKm?.message} hint="if it was read">
                <NumberInput units={[{ names: ['km'] }]} value={value} {...{ onChange, onBlur, ref }} />
              </Field>
            )}
          />
          <Field label="What">
            <FormSelect control={control} name="kind">
              {[...LEDGER_KINDS, ...(wrong ? ['taken back' as const] : [])].map((k) => (
                <option key={k} value={k}>
                  {KIND_NAMES[k]}
                </option>
              ))}
            </FormSelect>
          </Field>
          <WhatWasDone detail={detail} />
          <Field label={wrong ? 'Why it is put right' : 'Note'} error={errors.note?.message}>
            <Input {...field('note')} />
          </Field>
        </div>
        <ProblemNote error={error} />
        <div className="flex gap-2">
          <Button kind="main" type="submit" disabled={isLoading} onClick={() => (goesOn.current = false)}>
            {wrong ? 'Put it right' : 'Write it down'}
          </Button>
          {!wrong && (
            <Button type="submit" disabled={isLoading} onClick={() => (goesOn.current = true)}>
              Write it and go on to another
            </Button>
          )}
          <Button
            onClick={() => {
              kept.drop();
              onDone();
            }}
          >
            Cancel
          </Button>
        </div>
      </form>
    </FormProvider>
  );
}
