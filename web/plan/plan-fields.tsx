/** Pieces that the sections of the planner are made of. */
import { useState, type ReactNode } from 'react';
import { NumberInput, unitsIn, whyWrong, type NumberTyped } from '../base/number-input.tsx';
import { Field } from '../base/ui.tsx';

export const Section = ({
  title,
  note,
  children,
}: {
  title: string;
  note?: ReactNode;
  children: ReactNode;
}) => (
  <section aria-label={title} className="grid gap-3 border-t-[1.5px] border-ink pt-2.5">
    <div>
      <h2>{title}</h2>
      {note && <p className="mt-0.5 max-w-prose text-[12.5px] text-soft">{note}</p>}
    </div>
    {children}
  </section>
);
/** A number of the plan; one that is none yet is told here, and is no number to the plan. */
export function Num({
  label,
  value,
  onChange,
  error,
  hint,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  error?: string | undefined;
  hint?: string | undefined;
}) {
  const [typed, setTyped] = useState<NumberTyped>(value);
  const units = unitsIn(label);
  // What was typed stands as long as it is what the plan has.
  const own = typeof typed === 'number' ? typed : NaN;
  return (
    <Field label={label} error={whyWrong(typed, units) ?? error} hint={hint}>
      <NumberInput
        units={units}
        value={Object.is(own, value) ? typed : value}
        onChange={(next) => {
          setTyped(next);
          onChange(typeof next === 'number' ? next : NaN);
        }}
      />
    </Field>
  );
}
export function Checks<T extends string>({
  legend,
  all,
  value,
  onChange,
}: {
  legend: string;
  all: readonly T[];
  value: readonly T[];
  onChange: (value: T[]) => void;
}) {
  return (
    <fieldset>
      <legend className="font-medium">{legend}</legend>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
        {all.map((item) => (
          <label key={item} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4"
              checked={value.includes(item)}
              onChange={(e) =>
                onChange(e.target.checked ? [...value, item] : value.filter((v) => v !== item))
              }
            />
            {item}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
