import clsx from 'clsx';
import { Command } from 'cmdk';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useFirstHit } from './use-first-hit.ts';

export interface Choice {
  readonly id: string;
  readonly name: string;
  readonly note?: string | undefined;
}

/** Chooses one of many by a loosely typed phrase; the server does the finding. */
// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function Picker({
  value,
  onChoose,
  useFind,
  placeholder,
  label,
  disabled,
  id,
  ...rest
}: {
  value: Choice | null;
  onChoose: (choice: Choice) => void;
  useFind: (phrase: string) => { choices: readonly Choice[]; busy: boolean };
  placeholder: string;
  label: string;
  disabled?: boolean;
  id?: string;
  'aria-describedby'?: string;
  'aria-invalid'?: boolean;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen} modal={false}>
      <Popover.Trigger asChild>
        <button
          type="button"
          id={id}
          {...rest}
          disabled={disabled}
          role="combobox"
          aria-expanded={open}
          aria-label={label}
          className={clsx(
            'flex min-h-[33px] w-full items-center justify-between gap-2 rounded-md border border-line ' +
              'bg-sheet px-2.5 py-1.5 text-left disabled:opacity-50 aria-[invalid=true]:border-loss',
            !value && 'text-soft',
          )}
        >
          <span className="min-w-0 break-words">{value?.name ?? placeholder}</span>
          <ChevronDown size={14} aria-hidden className="shrink-0 text-soft" />
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          className="z-50 w-[var(--radix-popover-trigger-width)] min-w-80 rounded-md border border-rule bg-sheet p-1.5 shadow-xl"
        >
          <Found
            label={label}
            useFind={useFind}
            onChoose={(choice) => {
              onChoose(choice);
              setOpen(false);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Found({
  label,
  useFind,
  onChoose,
}: {
  label: string;
  useFind: (phrase: string) => { choices: readonly Choice[]; busy: boolean };
  onChoose: (choice: Choice) => void;
}) {
  const [phrase, setPhrase] = useState('');
  const { choices, busy } = useFind(phrase);
  const [at, setAt] = useFirstHit(choices, (choice) => choice.id);
  const [taking, setTaking] = useState(false);
  // Enter before the answer came takes the first hit when it is there.
  useEffect(() => {
    if (!taking || busy) return;
    setTaking(false);
    if (choices[0]) onChoose(choices[0]);
  }, [taking, busy, choices, onChoose]);
  return (
    <Command
      shouldFilter={false}
      label={label}
      value={at}
      onValueChange={setAt}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' || !busy) return;
        event.preventDefault();
        setTaking(true);
      }}
    >
      <Command.Input
        autoFocus
        value={phrase}
        onValueChange={setPhrase}
        placeholder="type a few letters"
        className="w-full border-b border-rule bg-transparent px-2 py-1.5 outline-none placeholder:text-soft"
      />
      {/* A list that is about to change under the pointer cannot be clicked: the press would hit another. */}
      <Command.List
        className={clsx('max-h-72 overflow-auto pt-1', busy && 'pointer-events-none opacity-60')}
        aria-busy={busy}
      >
        <Command.Empty className="px-2 py-3 text-soft">
          {busy ? 'Looking …' : 'Nothing like that is in the register.'}
        </Command.Empty>
        {choices.map((choice) => (
          <Command.Item
            key={choice.id}
            value={choice.id}
            onSelect={() => onChoose(choice)}
            className="cursor-pointer rounded px-2 py-1.5 data-[selected=true]:bg-faint"
          >
            {choice.name}
            {choice.note && <span className="block text-[12px] text-soft">{choice.note}</span>}
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}
