import clsx from 'clsx';
import { CalendarDays } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState, type ComponentProps } from 'react';
import { DayPicker } from 'react-day-picker';
import { isoOf, readTypedDate, readTypedTime } from './dates.ts';
import { localDate, shownDate } from './shown-dates.ts';
import { Input } from './ui.tsx';

type Passed = Pick<
  ComponentProps<'input'>,
  'id' | 'aria-describedby' | 'aria-invalid' | 'aria-label' | 'disabled' | 'name' | 'onBlur'
>;

/** A text that means something once it can be read; what cannot be read stays as typed and is said. */
function useTyped(
  value: string,
  shown: (value: string) => string,
  read: (text: string) => string | undefined,
) {
  const [typed, setTyped] = useState<string | null>(null);
  const unreadable = typed !== null && typed.trim() !== '' && read(typed) === undefined;
  return {
    text: typed ?? shown(value),
    unreadable,
    type: (text: string, onChange: (value: string) => void): void => {
      setTyped(text);
      const known = text.trim() === '' ? '' : read(text);
      if (known !== undefined) onChange(known);
    },
    settle: (): void => {
      if (!unreadable) setTyped(null);
    },
    clear: (): void => setTyped(null),
  };
}

/** A date, typed or taken from a calendar; its value is 2026-11-24 or empty. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function DateInput({
  value,
  onChange,
  min,
  className,
  onBlur,
  ...props
}: Passed & { value: string; onChange: (iso: string) => void; min?: string; className?: string }) {
  const field = useTyped(value, shownDate, readTypedDate);
  const [open, setOpen] = useState(false);
  return (
    <span className={clsx('grid gap-1', className)}>
      <span className="relative block">
        <Input
          {...props}
          type="text"
          autoComplete="off"
          placeholder="day month year"
          value={field.text}
          aria-invalid={field.unreadable || props['aria-invalid']}
          onChange={(e) => field.type(e.target.value, onChange)}
          onBlur={(e) => {
            field.settle();
            onBlur?.(e);
          }}
          className="w-full pr-9"
        />
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger
            type="button"
            disabled={props.disabled}
            aria-label="Open the calendar"
            className="absolute inset-y-0 right-1 grid w-7 place-items-center text-soft hover:text-ink"
          >
            <CalendarDays size={15} aria-hidden />
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              sideOffset={4}
              className="z-50 rounded-md border border-rule bg-sheet p-3 shadow-lg"
            >
              <DayPicker
                mode="single"
                weekStartsOn={1}
                showOutsideDays
                autoFocus
                defaultMonth={value ? localDate(value) : undefined}
                selected={value ? localDate(value) : undefined}
                disabled={min ? { before: localDate(min) } : undefined}
                onSelect={(date) => {
                  field.clear();
                  onChange(date ? isoOf(date) : '');
                  setOpen(false);
                }}
                classNames={CALENDAR}
              />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </span>
      {field.unreadable && (
        <span role="alert" className="text-[12.5px] text-loss">
          Write it as 24 Nov 2026.
        </span>
      )}
    </span>
  );
}

/** A time of day on a 24-hour clock; its value is 14:05 or empty. */
export function TimeInput({
  value,
  onChange,
  onBlur,
  ...props
}: Passed & { value: string; onChange: (time: string) => void }) {
  const field = useTyped(value, (v) => v, readTypedTime);
  return (
    <span className="grid min-w-0 gap-1">
      <Input
        {...props}
        type="text"
        autoComplete="off"
        placeholder="14:05"
        className="w-full min-w-0"
        value={field.text}
        aria-invalid={field.unreadable || props['aria-invalid']}
        onChange={(e) => field.type(e.target.value, onChange)}
        onBlur={(e) => {
          field.settle();
          onBlur?.(e);
        }}
      />
      {field.unreadable && (
        <span role="alert" className="text-[12.5px] text-loss">
          Write it as 14:05.
        </span>
      )}
    </span>
  );
}

/** A day and a time; its value is 2026-11-24T14:05 or empty while either is missing. */
export function DateTimeInput({
  value,
  onChange,
  label,
  id,
  ...props
}: Passed & { value: string; onChange: (local: string) => void; label: string }) {
  const [date, time] = value.split('T') as [string, string?];
  return (
    <span className="grid grid-cols-[minmax(0,1fr)_88px] items-start gap-2">
      <DateInput
        {...props}
        id={id}
        aria-label={`${label}: day`}
        value={date}
        onChange={(d) => onChange(d ? `${d}T${time ?? '00:00'}` : '')}
      />
      <TimeInput
        {...props}
        aria-label={`${label}: time`}
        value={time?.slice(0, 5) ?? ''}
        onChange={(t) => onChange(date ? `${date}T${t || '00:00'}` : '')}
      />
    </span>
  );
}

const DAY_BUTTON = 'grid size-8 place-items-center rounded hover:bg-faint';
const CALENDAR = {
  months: 'relative',
  month_caption: 'flex h-8 items-center pl-2 font-semibold',
  nav: 'absolute right-0 top-0 flex gap-1',
  button_previous: DAY_BUTTON,
  button_next: DAY_BUTTON,
  chevron: 'size-4 fill-current',
  weekday: 'size-8 text-center text-[12px] font-normal text-soft',
  day_button: DAY_BUTTON,
  today: 'font-semibold underline',
  outside: 'text-soft',
  selected: '[&>button]:bg-ink [&>button]:text-on-ink',
  disabled: 'opacity-40',
};
