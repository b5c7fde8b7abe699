import clsx from 'clsx';
import { Check, ChevronDown } from 'lucide-react';
import { Select as RadixSelect } from 'radix-ui';
import {
  Children,
  isValidElement,
  useRef,
  useState,
  type ComponentProps,
  type ReactElement,
  type ReactNode,
} from 'react';
import { useController, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { input } from './ui.tsx';
import { useStandsStill } from './use-stands-still.ts';

interface Choice {
  readonly value: string;
  readonly label: string;
}
type OptionProps = ComponentProps<'option'>;

/** What stands in a list of `<option>`s, as the platform's own select would read it. */
export function choicesOf(children: ReactNode): Choice[] {
  return Children.toArray(children).flatMap((child) => {
    if (!isValidElement(child)) return [];
    const { props } = child as ReactElement<OptionProps>;
    if (child.type !== 'option') return choicesOf(props.children);
    const label = Children.toArray(props.children)
      .filter((piece) => typeof piece === 'string' || typeof piece === 'number')
      .join('');
    return [{ value: props.value === undefined ? label : String(props.value), label }];
  });
}
// An item of the list may not have an empty value; in here it has a name.
const NONE = '∅';
const inside = (value: string): string => (value === '' ? NONE : value);

type Passed = Omit<ComponentProps<'button'>, 'value' | 'onChange' | 'children' | 'type'>;
export interface SelectProps extends Passed {
  readonly value: string;
  /** As the platform's own select tells it. */
  readonly onChange: (event: { target: { value: string } }) => void;
  /** `<option>`s. */ readonly children: ReactNode;
}

const Item = ({ value, label }: Choice) => (
  <RadixSelect.Item
    value={inside(value)}
    className={clsx(
      'flex cursor-pointer items-center gap-2 rounded py-1.5 pr-3 pl-1.5 outline-none',
      'data-[highlighted]:bg-faint data-[state=checked]:font-semibold',
    )}
  >
    <span aria-hidden className="w-3.5 shrink-0">
      <RadixSelect.ItemIndicator>
        <Check size={13} />
      </RadixSelect.ItemIndicator>
    </span>
    <RadixSelect.ItemText>{label || '—'}</RadixSelect.ItemText>
  </RadixSelect.Item>
);

/** One of several; takes `<option>`s, looks like the other fields. Letters typed on it go to what begins with them. */
export function Select({ value, onChange, children, className, disabled, ...passed }: SelectProps) {
  const choices = choicesOf(children);
  const chosen = choices.find((c) => c.value === value);
  const [open, setOpen] = useState(false);
  const field = useRef<HTMLSpanElement>(null);
  useStandsStill(field, open);
  return (
    <RadixSelect.Root
      onOpenChange={setOpen}
      value={chosen ? inside(value) : ''}
      {...(disabled ? { disabled } : {})}
      onValueChange={(next) => onChange({ target: { value: next === NONE ? '' : next } })}
    >
      <RadixSelect.Trigger
        {...passed}
        className={clsx(
          input,
          'inline-flex min-h-[33px] min-w-0 max-w-full items-center justify-between gap-2 text-left disabled:opacity-60',
          className,
        )}
      >
        <span ref={field} className={clsx('min-w-0 break-words', !value && 'text-soft')}>
          <RadixSelect.Value>{chosen?.label ?? ''}</RadixSelect.Value>
        </span>
        <RadixSelect.Icon>
          <ChevronDown size={13} aria-hidden className="shrink-0 text-soft" />
        </RadixSelect.Icon>
      </RadixSelect.Trigger>
      <RadixSelect.Portal>
        <RadixSelect.Content
          position="popper"
          sideOffset={3}
          className={clsx(
            'z-[60] max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) max-w-[90vw]',
            'overflow-hidden rounded-md border border-line bg-sheet p-1 shadow-xl',
          )}
        >
          <RadixSelect.Viewport>
            {choices.map((choice) => (
              <Item key={choice.value} {...choice} />
            ))}
          </RadixSelect.Viewport>
        </RadixSelect.Content>
      </RadixSelect.Portal>
    </RadixSelect.Root>
  );
}

/** A select of a form. `empty` is what no choice is kept as. */
export function FormSelect<F extends FieldValues, N extends FieldPath<F>>({
  control,
  name,
  empty = '',
  onChosen,
  ...passed
}: Omit<SelectProps, 'value' | 'onChange' | 'name'> & {
  control: Control<F>;
  name: N;
  empty?: '' | null;
  onChosen?: (value: string) => void;
}) {
  const { field } = useController({ control, name });
  return (
    <Select
      {...passed}
      ref={field.ref}
      onBlur={field.onBlur}
      value={field.value === null || field.value === undefined ? '' : String(field.value)}
      onChange={(event) => {
        const { value } = event.target;
        field.onChange(value === '' ? empty : value);
        onChosen?.(value);
      }}
    />
  );
}
