import { useRef } from 'react';

/** What has the focus; of a menu that is about to close the button it belongs to. */
function focused(): HTMLElement | null {
  const at = document.activeElement as HTMLElement | null;
  const menu = at?.closest('[role=menu]');
  const button = menu?.getAttribute('aria-labelledby');
  return button ? document.getElementById(button) : at;
}
/**
 * Where the focus was when a dialog opened, and how it goes back there. A field that takes the focus as it is drawn is
 * there before the dialog looks, so it is asked for while the dialog is drawn.
 */
export function useCameFrom(open: boolean) {
  const from = useRef<HTMLElement | null>(null);
  const was = useRef(false);
  if (open && !was.current) from.current = focused();
  was.current = open;
  return {
    onCloseAutoFocus: (event: Event): void => {
      if (!from.current?.isConnected) return;
      event.preventDefault();
      from.current.focus();
    },
  };
}
