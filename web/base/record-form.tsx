import '../../contract/base/words.ts';
import { zodResolver } from '@hookform/resolvers/zod';
import type { FormEvent, ReactNode } from 'react';
import { FormProvider, useForm, type DefaultValues, type FieldValues, type Resolver } from 'react-hook-form';
import type { z } from 'zod';
import { RecordField, type FieldSpec } from './record-fields.tsx';
import { Button, ProblemNote } from './ui.tsx';
import { DraftFound } from './draft-found.tsx';
import { useKeptForm } from './kept-form.ts';
import { theirChanges, useMerged } from './merged.ts';
import { OthersChanged } from './others-changed.tsx';

export interface FieldGroup<Name extends string> {
  /** Empty: a form of one group, which needs no heading of its own. */
  readonly title: string;
  readonly fields: readonly FieldSpec<Name>[];
  readonly note?: ReactNode;
}
interface RecordFormProps<S extends z.ZodType<FieldValues, FieldValues>> {
  readonly schema: S;
  readonly groups: readonly FieldGroup<string & keyof z.input<S>>[];
  readonly values: z.input<S>;
  /** Resolves to `false` where it was not saved. */
  readonly save: (record: z.output<S>) => unknown;
  /** What the form is of, for its draft on the device; without it none is kept. */ readonly draft?: string;
  readonly saving?: boolean;
  readonly problem?: unknown;
  readonly onCancel?: () => void;
  readonly verb?: string;
  /** What leaves the form without saving. */ readonly cancelVerb?: string;
  /** Saving takes something away. */ readonly takesAway?: boolean;
  /** Further ways out, beside saving and leaving. */ readonly besides?: ReactNode;
  /** Said between the fields and the buttons. */ readonly children?: ReactNode;
}

/** A form of a record: checked by the same contract the server checks by, errors beside their fields. */
export function RecordForm<S extends z.ZodType<FieldValues, FieldValues>>(props: RecordFormProps<S>) {
  const { schema, groups, values, save, saving, problem, onCancel, verb = 'Save' } = props;
  const form = useForm<z.input<S>, unknown, z.output<S>>({
    resolver: zodResolver(schema) as unknown as Resolver<z.input<S>, unknown, z.output<S>>,
    defaultValues: values as DefaultValues<z.input<S>>,
  });
  const fields = groups.flatMap((g) => g.fields);
  const kept = useKeptForm(form, props.draft, values);
  const { theirs, take } = useMerged(form, values);
  // A draft that was found may be older than what somebody else has written since.
  const older = kept.foundOn ? theirChanges(kept.foundOn, values, form.getValues()) : [];
  const wrong = Object.keys(form.formState.errors).length;
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    event.stopPropagation();
    void form.handleSubmit((record) => kept.saving(() => save(record)))(event);
  };
  return (
    <FormProvider {...form}>
      <form onSubmit={submit} noValidate className="grid gap-5">
        {kept.foundFrom && <DraftFound at={kept.foundFrom} onDrop={kept.beginAnew} />}
        <OthersChanged
          theirs={[...older, ...theirs]}
          labelOf={(name) => fields.find((f) => f.name === name)?.label ?? name}
          onTake={take}
        />
        {groups.map((group) => (
          <Group key={group.title} group={group} values={values} />
        ))}
        {props.children}
        {wrong > 0 && (
          <p role="alert" className="text-loss">
            {wrong === 1 ? 'One field needs' : `${wrong} fields need`} another look; see above.
          </p>
        )}
        <ProblemNote error={problem} />
        <div className="flex flex-wrap gap-3">
          <Button kind={props.takesAway ? 'loss' : 'main'} type="submit" disabled={saving}>
            {verb}
          </Button>
          {props.besides}
          {onCancel && (
            <Button
              onClick={() => {
                kept.drop();
                onCancel();
              }}
            >
              {props.cancelVerb ?? 'Cancel'}
            </Button>
          )}
        </div>
      </form>
    </FormProvider>
  );
}

function Group({ group, values }: { group: FieldGroup<string>; values: FieldValues }) {
  const fields = group.fields.map((field) => (
    <RecordField key={field.name} field={field} nullable={values[field.name] === null} />
  ));
  if (!group.title) return <div className="grid gap-x-4 gap-y-3 md:grid-cols-12">{fields}</div>;
  return (
    <fieldset className="grid gap-x-4 gap-y-3 border-t border-rule pt-3 md:grid-cols-12">
      <legend className="pr-3 font-semibold">{group.title}</legend>
      {group.note && <p className="text-[12.5px] text-soft md:col-span-12">{group.note}</p>}
      {fields}
    </fieldset>
  );
}
