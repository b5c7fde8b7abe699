import { useCallback } from 'react';
import { useLocation, useSearchParams } from 'react-router';

/**
 * Changes what stands in the address of a page. Made from the address as it is at that moment: what a page last drew
 * may be older, where two things are changed one right after the other. Nothing is written once another page is open.
 */
export function useAddress(): [URLSearchParams, (change: (now: URLSearchParams) => void) => void] {
  const [params, setParams] = useSearchParams();
  const { pathname } = useLocation();
  const write = useCallback(
    (change: (now: URLSearchParams) => void): void => {
      if (window.location.pathname !== pathname) return;
      const now = new URLSearchParams(window.location.search);
      change(now);
      setParams(now, { replace: true, preventScrollReset: true });
    },
    [setParams, pathname],
  );
  return [params, write];
}
