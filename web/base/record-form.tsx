import { zodResolver } from '@hookform/resolvers/zod';
import clsx from 'clsx';
import type { ComponentProps, ReactElement, ReactNode } from 'react';
import {
  Controller,
  useForm,
  type Control,
  type DefaultValues,
  type FieldError,
  type FieldValues,
  type Path,
  type Resolver,
} from 'react-hook-form';
import type { z } from 'zod';
import { DateInput } from './date-input.tsx';
import { Button, Field, Input, ProblemNote, Select, Textarea } from './ui.tsx';

interface Spec<Name extends string> {
  readonly name: Name;
  readonly label: string;
  readonly hint?: string;
  /** Columns of twelve that the field takes. */ readonly span?: number;
}
/** A field of a record as its form shows it. */
export type FieldSpec<Name extends string> =
  | (Spec<Name> & { readonly kind: 'text' | 'area' | 'date' })
  | (Spec<Name> & {
      readonly kind: 'number';
      readonly step?: number | 'any';
      /** An empty field is no value. */ readonly optional?: boolean;
    })
  | (Spec<Name> & {
      readonly kind: 'select';
      readonly options: readonly (string | { readonly value: string; readonly label: string })[];
      readonly empty?: string;
    })
  | (Spec<Name> & { readonly kind: 'check' })
  | (Spec<Name> & { readonly kind: 'lines' })
  | (Spec<Name> & {
      readonly kind: 'custom';
      readonly render: (value: never, onChange: (value: unknown) => void) => ReactElement<{ id?: string }>;
    });
export interface FieldGroup<Name extends string> {
  readonly title: string;
  readonly fields: readonly FieldSpec<Name>[];
  readonly note?: ReactNode;
}

const SPAN: Record<number, string> = {
  2: 'md:col-span-2',
  3: 'md:col-span-3',
  4: 'md:col-span-4',
  5: 'md:col-span-5',
  6: 'md:col-span-6',
  8: 'md:col-span-8',
  9: 'md:col-span-9',
  12: 'md:col-span-12',
};

/** A date of the form; what its label passes down goes on to the input. */
function DateControl({
  control,
  name,
  ...passed
}: { control: Control<FieldValues>; name: string } & Partial<ComponentProps<typeof DateInput>>) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange, onBlur } }) => (
        <DateInput
          {...passed}
          onBlur={onBlur}
          value={(value as string | null | undefined) ?? ''}
          onChange={(iso) => onChange(iso || null)}
        />
      )}
    />
  );
}

/** A form of a record: checked by the same contract the server checks by, errors beside their fields. */
export function RecordForm<S extends z.ZodType<FieldValues, FieldValues>>({
  schema,
  groups,
  values,
  save,
  saving,
  problem,
  onCancel,
  verb = 'Save',
}: {
  schema: S;
  groups: readonly FieldGroup<string & keyof z.input<S>>[];
  values: z.input<S>;
  save: (record: z.output<S>) => Promise<void> | void;
  saving?: boolean;
  problem?: unknown;
  onCancel?: () => void;
  verb?: string;
}) {
  const {
    register,
    control,
    handleSubmit,
    formState: { errors },
  } = useForm<z.input<S>, unknown, z.output<S>>({
    resolver: zodResolver(schema) as unknown as Resolver<z.input<S>, unknown, z.output<S>>,
    defaultValues: values as DefaultValues<z.input<S>>,
  });
  const messageOf = (name: string): string | undefined =>
    firstMessage((errors as Record<string, FieldError | undefined>)[name]);
  const wrong = Object.keys(errors).length;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        void handleSubmit((record) => save(record))(event);
      }}
      noValidate
      className="grid gap-5"
    >
      {groups.map((group) => (
        <fieldset
          key={group.title}
          className="grid gap-x-4 gap-y-3 border-t border-rule pt-3 md:grid-cols-12"
        >
          <legend className="pr-3 font-semibold">{group.title}</legend>
          {group.note && <p className="text-[12.5px] text-soft md:col-span-12">{group.note}</p>}
          {group.fields.map((field) => {
            const path = field.name as unknown as Path<z.input<S>>;
            const span = clsx('col-span-full', SPAN[field.span ?? 4]);
            const error = messageOf(field.name);
            if (field.kind === 'check')
              return (
                <label key={field.name} className={clsx(span, 'flex items-center gap-2 self-end pb-1.5')}>
                  <input type="checkbox" className="size-4" {...register(path)} />
                  {field.label}
                </label>
              );
            const control_ = ((): ReactElement<{ id?: string }> => {
              switch (field.kind) {
                case 'text':
                  return (
                    <Input
                      {...register(path, {
                        setValueAs: (v: string | null) =>
                          v === '' && isNullable(values, field.name) ? null : v,
                      })}
                    />
                  );
                case 'date':
                  return <DateControl control={control as unknown as Control<FieldValues>} name={path} />;
                case 'area':
                  return <Textarea rows={2} {...register(path)} />;
                case 'number':
                  return (
                    <Input
                      type="number"
                      step={field.step ?? 'any'}
                      inputMode="decimal"
                      {...register(path, {
                        setValueAs: (v: string | number | null) =>
                          v === '' || v === null ? (field.optional ? null : undefined) : Number(v),
                      })}
                    />
                  );
                case 'select':
                  return (
                    <Select
                      {...register(path, {
                        setValueAs: (v: string | null) => (v === '' && field.empty !== undefined ? null : v),
                      })}
                    >
                      {field.empty !== undefined && <option value="">{field.empty}</option>}
                      {field.options.map((o) => {
                        const { value, label } = typeof o === 'string' ? { value: o, label: o } : o;
                        return (
                          <option key={value} value={value}>
                            {label}
                          </option>
                        );
                      })}
                    </Select>
                  );
                case 'lines':
                  return <Lines control={control as never} name={field.name} />;
                case 'custom':
                  return (
                    <Controller
                      control={control}
                      name={path}
                      render={({ field: { value, onChange } }) => field.render(value, onChange)}
                    />
                  ) as ReactElement<{ id?: string }>;
              }
            })();
            if (field.kind === 'custom')
              return (
                <div
                  key={field.name}
                  role="group"
                  aria-label={field.label}
                  className={clsx(span, 'grid content-start gap-1')}
                >
                  <span className="font-medium">{field.label}</span>
                  {control_}
                  {(error ?? field.hint) && (
                    <span
                      role={error ? 'alert' : undefined}
                      className={clsx('text-[12.5px]', error ? 'text-loss' : 'text-soft')}
                    >
                      {error ?? field.hint}
                    </span>
                  )}
                </div>
              );
            return (
              <div key={field.name} className={span}>
                <Field label={field.label} hint={field.hint} error={error}>
                  {control_}
                </Field>
              </div>
            );
          })}
        </fieldset>
      ))}
      {wrong > 0 && (
        <p role="alert" className="text-loss">
          {wrong === 1 ? 'One field needs' : `${wrong} fields need`} another look; see above.
        </p>
      )}
      <ProblemNote error={problem} />
      <div className="flex gap-3">
        <Button kind="main" type="submit" disabled={saving}>
          {verb}
        </Button>
        {onCancel && <Button onClick={onCancel}>Cancel</Button>}
      </div>
    </form>
  );
}

const isNullable = (values: FieldValues, name: string): boolean => values[name] === null;
/** The first message in an error, however deep it lies (lists of records have theirs inside). */
function firstMessage(error: unknown): string | undefined {
  if (typeof error !== 'object' || error === null) return undefined;
  if ('message' in error && typeof error.message === 'string' && error.message !== '') return error.message;
  for (const [key, inner] of Object.entries(error))
    if (key !== 'ref') {
      const found = firstMessage(inner);
      if (found) return found;
    }
  return undefined;
}

/** A list of texts, one a line. */
function Lines({ control, name, ...rest }: { control: never; name: string; id?: string }) {
  return (
    <Controller
      control={control}
      name={name as never}
      render={({ field: { value, onChange } }) => (
        <Textarea
          rows={2}
          {...rest}
          defaultValue={((value as string[] | undefined) ?? []).join('\n')}
          onChange={(e) =>
            onChange(
              e.target.value
                .split('\n')
                .map((line) => line.trim())
                .filter(Boolean),
            )
          }
          placeholder="one a line"
        />
      )}
    />
  );
}
