import { useEffect } from 'react';

/** Sends what waits on the device at once, every so often, and when the network is back. */
export function useSendingAgain(send: () => Promise<void>, everyMs: number, connected = true): void {
  useEffect(() => {
    void send();
    const again = setInterval(() => void send(), everyMs);
    const online = (): void => void send();
    window.addEventListener('online', online);
    return () => {
      clearInterval(again);
      window.removeEventListener('online', online);
    };
  }, [send, everyMs, connected]);
}
