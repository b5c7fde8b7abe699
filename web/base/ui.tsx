import clsx from 'clsx';
import { CircleAlert } from 'lucide-react';
import {
  cloneElement,
  useId,
  type ButtonHTMLAttributes,
  type ComponentProps,
  type ReactElement,
  type ReactNode,
} from 'react';
import { problemOf } from './api.ts';
import { useRetold } from './retold.ts';

export type ButtonKind = 'main' | 'plain' | 'quiet' | 'loss';
const BUTTON: Record<ButtonKind, string> = {
  main: 'bg-ink text-on-ink border-ink hover:opacity-90',
  plain: 'bg-sheet text-ink border-rule hover:border-ink',
  quiet: 'bg-transparent text-ink border-transparent hover:bg-faint',
  loss: 'bg-sheet text-loss border-loss hover:bg-faint',
};
export const buttonClass = (kind: ButtonKind = 'plain', small = false): string =>
  clsx(
    'inline-flex items-center justify-center gap-1.5 rounded-md border font-semibold ' +
      'whitespace-nowrap no-underline transition-colors disabled:opacity-45',
    small ? 'px-2.5 py-1 text-[12.5px]' : 'px-3.5 py-2',
    BUTTON[kind],
  );

export function Button({
  kind = 'plain',
  small,
  className,
  ...props
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: ButtonKind; small?: boolean }) {
  return <button type="button" {...props} className={clsx(buttonClass(kind, small), className)} />;
}

/** State of something, by word and mark; colour only repeats it. */
export function Mark({ tone, children }: { tone: 'stands' | 'ask' | 'loss' | 'soft'; children: ReactNode }) {
  const shape = { stands: '●', ask: '◐', loss: '▼', soft: '○' }[tone];
  return (
    <span
      className={clsx(
        'inline-flex items-baseline gap-1.5 whitespace-nowrap',
        { stands: 'text-stands', ask: 'text-ask', loss: 'text-loss', soft: 'text-soft' }[tone],
      )}
    >
      <span aria-hidden className="text-[9px]">
        {shape}
      </span>
      {children}
    </span>
  );
}

/** How every field to type or choose in looks. */
export const input =
  'rounded-md border border-line bg-sheet px-2.5 py-1.5 text-ink placeholder:text-soft aria-[invalid=true]:border-loss';
/** A label over its control; hint and error are tied to the control as its description. */
export function Field({
  label,
  hint,
  error,
  children,
}: {
  label: string;
  hint?: string | undefined;
  error?: string | undefined;
  children: ReactElement<{ id?: string; 'aria-describedby'?: string; 'aria-invalid'?: boolean }>;
}) {
  const id = useId();
  const told = error ?? hint;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] content-start gap-1">
      <label htmlFor={id} className="font-medium">
        {label}
      </label>
      {cloneElement(children, {
        id,
        ...(told ? { 'aria-describedby': `${id}-told` } : {}),
        ...(error ? { 'aria-invalid': true } : {}),
      })}
      {told && (
        <span
          id={`${id}-told`}
          role={error ? 'alert' : undefined}
          className={clsx('text-[12.5px]', error ? 'text-loss' : 'text-soft')}
        >
          {told}
        </span>
      )}
    </div>
  );
}
export const Input = ({ className, ...props }: ComponentProps<'input'>) => (
  <input {...props} className={clsx(input, className)} />
);
export const Textarea = ({ className, ...props }: ComponentProps<'textarea'>) => (
  <textarea {...props} className={clsx(input, className)} />
);

/** What went wrong, where one looks. `again` asks once more for what could not be read. */
export function ProblemNote({
  error,
  message,
  again,
}: {
  error?: unknown;
  message?: string;
  again?: () => void;
}) {
  const told = useRetold();
  if (!error && !message) return null;
  return (
    <div role="alert" className="flex items-start gap-2 border-l-4 border-loss bg-sheet px-3 py-2 text-loss">
      <CircleAlert size={16} className="mt-0.5 shrink-0" aria-hidden />
      <p className="min-w-0">{told(message ?? problemOf(error).message)}</p>
      {again && (
        <Button small onClick={again} className="ml-auto shrink-0">
          Try again
        </Button>
      )}
    </div>
  );
}

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="grid justify-items-start gap-2 border border-dashed border-rule px-6 py-8">
      <h2>{title}</h2>
      <div className="max-w-prose text-soft">{children}</div>
    </div>
  );
}
export const Loading = ({ what }: { what: string }) => (
  <p role="status" className="px-1 py-8 text-soft">
    Reading {what} …
  </p>
);

/** A caution that belongs to the work at hand; the application advises, licensed practice decides. */
export function Caution({ children }: { children: ReactNode }) {
  return (
    <aside className="border-l-4 border-ask px-3 py-1.5 text-[12.5px] text-soft">
      <b className="text-ask">Caution. </b>
      {children} Evidentia advises; local codes and licensed practice decide.
    </aside>
  );
}
export const Kbd = ({ children }: { children: ReactNode }) => (
  <kbd className="rounded border border-rule bg-paper px-1.5 font-sans text-[12px] text-soft">{children}</kbd>
);
