import clsx from 'clsx';
import { X } from 'lucide-react';
import { Dialog as RadixDialog } from 'radix-ui';
import { useRef, type ReactNode } from 'react';
import { useCameFrom } from './came-from.ts';

const FIELD =
  'input:not([type=hidden]):not([disabled]), [role=combobox]:not([disabled]), textarea:not([disabled])';

// eslint-disable-next-line max-lines-per-function -- the markup of one piece of a screen, in the order it is read
export function Dialog({
  open,
  onClose,
  title,
  children,
  wide,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  /** Wide, or most of the window for what is worked on in it. */ wide?: boolean | 'most';
}) {
  // What was typed in it is not lost by a click beside it.
  const typed = useRef(false);
  const cameFrom = useCameFrom(open);
  return (
    <RadixDialog.Root
      open={open}
      onOpenChange={(next) => {
        if (!next) onClose();
      }}
    >
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <RadixDialog.Content
          aria-describedby={undefined}
          {...cameFrom}
          onInput={() => (typed.current = true)}
          onClick={(event) => {
            if ((event.target as HTMLElement).closest('[role=option]')) typed.current = true;
          }}
          onInteractOutside={(event) => {
            if (typed.current) event.preventDefault();
          }}
          onOpenAutoFocus={(event) => {
            const first = (event.target as HTMLElement).querySelector<HTMLElement>(FIELD);
            if (!first) return;
            event.preventDefault();
            first.focus();
          }}
          className={clsx(
            'fixed left-1/2 z-50 -translate-x-1/2 ' +
              'overflow-auto rounded-lg border border-rule bg-sheet p-5 shadow-2xl',
            wide === 'most' ? 'top-[3vh] max-h-[94vh]' : 'top-[12vh] max-h-[80vh]',
            wide === 'most' ? 'w-[1160px]' : wide ? 'w-[720px]' : 'w-[480px]',
            'max-w-[94vw]',
          )}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <RadixDialog.Title className="font-display text-lg font-semibold leading-tight">
              {title}
            </RadixDialog.Title>
            <RadixDialog.Close aria-label="Close" className="rounded p-1 text-soft hover:text-ink">
              <X size={16} />
            </RadixDialog.Close>
          </div>
          {children}
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}
