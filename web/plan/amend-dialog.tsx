import '../../contract/base/words.ts';
import { zodResolver } from '@hookform/resolvers/zod';
import clsx from 'clsx';
import { FormProvider, useForm, useFormContext, type Resolver } from 'react-hook-form';
import { toast } from 'sonner';
import { AmendRequest } from '../../contract/plan/test.ts';
import type { TestDetail } from '../../contract/overview.ts';
import { RecordField } from '../base/record-fields.tsx';
import { Dialog } from '../base/dialog.tsx';
import { Button, ProblemNote } from '../base/ui.tsx';
import { draftOf, fieldsFor, formOf, METRIC_CHOICES, type AmendForm } from './amend-fields.ts';
import { DECISIVE, FIELD_NAMES, type Field_ } from './amend-words.ts';
import { useAmendPlanMutation } from './api.ts';
import { DraftFound } from '../base/draft-found.tsx';
import { useKeptForm } from '../base/kept-form.ts';

/** The form is checked as the amendment that would be sent: what is not changed is not looked at. */
const checkDraft = zodResolver(AmendRequest);
const resolver: Resolver<AmendForm, unknown, AmendRequest> = (values, context, options) =>
  checkDraft(draftOf(values), context, options as never);

/** One change to a locked plan, with its reason; what it does to a claim is said before it is made. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function AmendDialog({ detail, onClose }: { detail: TestDetail; onClose: () => void }) {
  const [amend, { error, isLoading }] = useAmendPlanMutation();
  const form = useForm<AmendForm, unknown, AmendRequest>({ resolver, defaultValues: formOf(detail) });
  const field = form.watch('field');
  const kept = useKeptForm(form, `amendment of:${detail.summary.id}`);
  const save = form.handleSubmit((request) =>
    kept.saving(async () => {
      if ('error' in (await amend({ id: detail.summary.id, request }))) return false;
      toast.success('Amended. The plan as it was locked stays readable.');
      onClose();
      return true;
    }),
  );
  const choices = (Object.keys(formOf(detail).changes) as Field_[]).map((f) => ({
    value: f,
    label: f === 'addedRun' ? 'a run is added' : FIELD_NAMES[f],
  }));
  return (
    <Dialog wide open onClose={onClose} title="Amend the locked plan">
      <FormProvider {...form}>
        <form
          noValidate
          className="grid gap-4 md:grid-cols-12 [&>*]:col-span-full"
          onSubmit={(event) => void save(event)}
        >
          {kept.foundFrom && <DraftFound at={kept.foundFrom} onDrop={kept.beginAnew} />}
          <RecordField
            nullable={false}
            field={{ name: 'field', label: 'What is changed', kind: 'select', span: 12, options: choices }}
          />
          {field === 'metrics' ? (
            <Metrics />
          ) : (
            <div className="grid gap-3 md:grid-cols-12">
              {fieldsFor(field, detail).map((spec) => (
                <RecordField key={spec.name} field={spec} nullable={false} />
              ))}
            </div>
          )}
          <Weight begun={detail.pulls.some((p) => p.file)} decisive={DECISIVE.includes(field)} />
          {kept.foundFrom && <DraftFound at={kept.foundFrom} onDrop={kept.beginAnew} />}
          <RecordField
            nullable={false}
            field={{ name: 'reason', label: 'Reason', kind: 'area', rows: 2, span: 12 }}
          />
          <ProblemNote error={error} />
          <div className="flex gap-3">
            <Button kind="main" type="submit" disabled={isLoading}>
              Amend the plan
            </Button>
            <Button
              onClick={() => {
                kept.drop();
                onClose();
              }}
            >
              Cancel
            </Button>
          </div>
        </form>
      </FormProvider>
    </Dialog>
  );
}

function Metrics() {
  const { register, formState } = useFormContext<AmendForm>();
  const told = formState.errors.changes?.metrics?.message;
  return (
    <fieldset className="flex flex-wrap gap-4">
      <legend className="font-medium">Metrics</legend>
      {METRIC_CHOICES.map(({ value, label }) => (
        <label key={value} className="flex items-center gap-2">
          <input type="checkbox" value={value} {...register('changes.metrics')} />
          {label}
        </label>
      ))}
      {told && (
        <p role="alert" className="w-full text-[12.5px] text-loss">
          {told}
        </p>
      )}
    </fieldset>
  );
}

/** What the amendment does to the result, by what is changed and when. */
function Weight({ begun, decisive }: { begun: boolean; decisive: boolean }) {
  return (
    <p className={clsx('text-[12.5px]', begun && decisive ? 'text-loss' : 'text-soft')}>
      {!begun
        ? 'No pull has been captured yet: the amendment is told, and weighs nothing.'
        : decisive
          ? '▼ Pulls have been captured: after this change the result can only be indicative, and published claims of this test go stale.'
          : 'Pulls have been captured: the amendment is told as a caution, and published claims of this test go stale.'}
    </p>
  );
}
