import clsx from 'clsx';
import { AlertDialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { Button, buttonClass, type ButtonKind } from './ui.tsx';

/**
 * A button for a deed that matters: it asks once and says what follows before it is done. The way back has the focus, so
 * that a second press of Enter does nothing.
 */
export function ConfirmButton({
  kind,
  small,
  disabled,
  children,
  title,
  follows,
  verb,
  onConfirm,
}: {
  kind?: ButtonKind;
  small?: boolean;
  disabled?: boolean;
  children: ReactNode;
  title: string;
  /** What follows from it. */ follows: ReactNode;
  verb: string;
  onConfirm: () => Promise<unknown> | void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <AlertDialog.Root open={open} onOpenChange={setOpen}>
      <AlertDialog.Trigger asChild>
        <Button {...(kind ? { kind } : {})} {...(small ? { small } : {})} disabled={disabled}>
          {children}
        </Button>
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-50 bg-black/45" />
        <AlertDialog.Content
          className={clsx(
            'fixed left-1/2 top-[18vh] z-50 w-[440px] max-w-[94vw] -translate-x-1/2',
            'rounded-lg border border-rule bg-sheet p-5 shadow-2xl',
          )}
        >
          <AlertDialog.Title className="font-display text-lg font-semibold leading-tight">
            {title}
          </AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mt-2 text-soft">{follows}</div>
          </AlertDialog.Description>
          <div className="mt-4 flex flex-wrap gap-3">
            <AlertDialog.Cancel className={buttonClass('plain', false)}>Go back</AlertDialog.Cancel>
            <AlertDialog.Action
              className={buttonClass(kind === 'loss' ? 'loss' : 'main', false)}
              onClick={() => void onConfirm()}
            >
              {verb}
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
