/** The fields of a record's form: what each is declared as, and the control it gets. */
import clsx from 'clsx';
import type { ComponentProps, ReactElement } from 'react';
import {
  Controller,
  get,
  useFormContext,
  useWatch,
  type Control,
  type FieldValues,
  type UseFormRegister,
} from 'react-hook-form';
import { DateInput, TimeInput } from './date-input.tsx';
import { FiguresTyped } from './figures-typed.tsx';
import { NumberInput, unitsIn, type NumberTyped } from './number-input.tsx';
import { FormSelect } from './select.tsx';
import { Field, Input, Textarea } from './ui.tsx';
import { QuantityInput } from './quantity-input.tsx';

interface Spec<Name extends string> {
  readonly name: Name;
  readonly label: string;
  readonly hint?: string | undefined;
  /** Columns of twelve that the field takes. */ readonly span?: number;
}
type Option = string | { readonly value: string; readonly label: string };
/** A field of a record as its form shows it. */
export type FieldSpec<Name extends string> =
  | (Spec<Name> & { readonly kind: 'text' | 'lines' })
  | (Spec<Name> & { readonly kind: 'check' })
  | (Spec<Name> & { readonly kind: 'email' | 'password'; readonly autoComplete: string })
  | (Spec<Name> & { readonly kind: 'area'; readonly rows?: number })
  | (Spec<Name> & { readonly kind: 'date' | 'time'; readonly min?: string | undefined })
  | (Spec<Name> & {
      readonly kind: 'number';
      /** An empty field is no value. */ readonly optional?: boolean;
    })
  /** A power in kW or a torque in N·m, shown and typed in the person's unit. */
  | (Spec<Name> & { readonly kind: 'quantity'; readonly of: 'power' | 'torque' })
  | (Spec<Name> & { readonly kind: 'select'; readonly options: readonly Option[]; readonly empty?: string })
  | (Spec<Name> & {
      readonly kind: 'custom';
      readonly render: (value: never, onChange: (value: unknown) => void) => ReactElement<{ id?: string }>;
    });

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

/** One field with its label, hint and error. `nullable`: an empty text is no value. */
export function RecordField({ field, nullable }: { field: FieldSpec<string>; nullable: boolean }) {
  const {
    register,
    control,
    formState: { errors },
  } = useFormContext<FieldValues>();
  const span = clsx('col-span-full', SPAN[field.span ?? 4]);
  const error = firstMessage(get(errors, field.name));
  if (field.kind === 'check')
    return (
      <label className={clsx(span, 'flex items-center gap-2 self-end pb-1.5')}>
        <input type="checkbox" className="size-4" {...register(field.name)} />
        {field.label}
      </label>
    );
  if (field.kind === 'custom')
    return (
      <div role="group" aria-label={field.label} className={clsx(span, 'grid content-start gap-1')}>
        <span className="font-medium">{field.label}</span>
        <Controller
          control={control}
          name={field.name}
          render={({ field: { value, onChange } }) => field.render(value as never, onChange)}
        />
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
    <div className={span}>
      <Field label={field.label} hint={field.hint} error={error}>
        {controlOf(field, register, control, nullable)}
      </Field>
      {field.kind === 'area' && <FiguresIn control={control} name={field.name} />}
    </div>
  );
}

function controlOf(
  field: Exclude<FieldSpec<string>, { kind: 'check' | 'custom' }>,
  register: UseFormRegister<FieldValues>,
  control: Control,
  nullable: boolean,
): ReactElement<{ id?: string }> {
  switch (field.kind) {
    case 'text':
      return (
        <Input
          {...register(field.name, { setValueAs: (v: string | null) => (v === '' && nullable ? null : v) })}
        />
      );
    case 'email':
    case 'password':
      return <Input type={field.kind} autoComplete={field.autoComplete} {...register(field.name)} />;
    case 'date':
    case 'time':
      return <DayOrTime control={control} field={field} />;
    case 'area':
      return <Textarea rows={field.rows ?? 2} {...register(field.name)} />;
    case 'number':
      return <NumberOf control={control} field={field} />;
    case 'quantity':
      return <QuantityOf control={control} field={field} />;
    case 'select':
      return (
        <FormSelect control={control} name={field.name} empty={field.empty === undefined ? '' : null}>
          {field.empty !== undefined && <option value="">{field.empty}</option>}
          {field.options.map(optionOf)}
        </FormSelect>
      );
    case 'lines':
      return <Lines control={control} name={field.name} />;
  }
}
const optionOf = (option: Option): ReactElement => {
  const { value, label } = typeof option === 'string' ? { value: option, label: option } : option;
  return (
    <option key={value} value={value}>
      {label}
    </option>
  );
};

/** A number of the form; what its label passes down goes on to the input. */
function NumberOf({
  control,
  field,
  ...passed
}: { control: Control; field: FieldSpec<string> & { kind: 'number' } } & Partial<ComponentProps<'input'>>) {
  return (
    <Controller
      control={control}
      name={field.name}
      render={({ field: { value, onChange, onBlur, ref } }) => (
        <NumberInput
          {...(passed as { id?: string })}
          ref={ref}
          onBlur={onBlur}
          units={unitsIn(field.label)}
          value={(value as NumberTyped | undefined) ?? null}
          onChange={(typed) => onChange(typed ?? (field.optional ? null : undefined))}
        />
      )}
    />
  );
}

/** A power or torque of the form, kept in SI. */
function QuantityOf({
  control,
  field,
  ...passed
}: { control: Control; field: FieldSpec<string> & { kind: 'quantity' } } & Partial<ComponentProps<'input'>>) {
  return (
    <Controller
      control={control}
      name={field.name}
      render={({ field: { value, onChange, onBlur, ref } }) => (
        <QuantityInput
          {...(passed as { id?: string })}
          ref={ref}
          onBlur={onBlur}
          of={field.of}
          value={(value as NumberTyped | undefined) ?? null}
          onChange={(typed) => onChange(typed ?? undefined)}
        />
      )}
    />
  );
}

/** A day or a time of the form; what its label passes down goes on to the input. */
function DayOrTime({
  control,
  field,
  ...passed
}: {
  control: Control;
  field: FieldSpec<string> & { kind: 'date' | 'time' };
} & Partial<ComponentProps<typeof DateInput>>) {
  return (
    <Controller
      control={control}
      name={field.name}
      render={({ field: { value, onChange, onBlur } }) => {
        const shared = {
          ...passed,
          onBlur,
          value: (value as string | null | undefined) ?? '',
          onChange: (text: string) => onChange(text || null),
        };
        return field.kind === 'date' ? (
          <DateInput {...shared} {...(field.min ? { min: field.min } : {})} />
        ) : (
          <TimeInput {...shared} />
        );
      }}
    />
  );
}

/** What the text of a field says wrongly about figures, as it is typed. */
function FiguresIn({ control, name }: { control: Control; name: string }) {
  const typed: unknown = useWatch({ control, name });
  return <FiguresTyped text={typeof typed === 'string' ? typed : ''} />;
}

/** A list of texts, one a line. */
function Lines({ control, name, ...rest }: { control: Control; name: string; id?: string }) {
  return (
    <Controller
      control={control}
      name={name}
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
