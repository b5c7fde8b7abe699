import clsx from 'clsx';
import type { ReactNode } from 'react';

/** A row of choices of which one holds: filters of a list, views of a page. */
export function Chips<V extends string | undefined>({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: V;
  choices: readonly { readonly value: V; readonly text: ReactNode }[];
  onChange: (value: V) => void;
}) {
  return (
    <div role="group" aria-label={label} className="flex flex-wrap gap-1">
      {choices.map((choice) => (
        <button
          key={choice.value ?? ''}
          type="button"
          aria-pressed={choice.value === value}
          onClick={() => onChange(choice.value)}
          className={clsx(
            'rounded-full border px-3 py-1',
            choice.value === value ? 'border-ink bg-ink text-on-ink' : 'border-rule text-soft hover:text-ink',
          )}
        >
          {choice.text}
        </button>
      ))}
    </div>
  );
}
