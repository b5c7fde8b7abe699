import { useCallback, useEffect, useRef, useState } from 'react';
import { onKeptElsewhere, readKept, writeKept } from './kept-store.ts';

/**
 * What somebody is typing, kept on the device until it is saved: through a step to another page, a reload, a session
 * that ended, and in a second tab, which shows the same.
 *
 * @param key what the draft is of, with whose it is
 * @param empty a draft in which nothing is typed; it is not kept
 */
export function useKept<T>(key: string, empty: T, isEmpty: (draft: T) => boolean) {
  const [draft, setDraft] = useState<T>(() => readKept<T>(key) ?? empty);
  const [at, setAt] = useState(key);
  if (at !== key) {
    setAt(key);
    setDraft(readKept<T>(key) ?? empty);
  }
  const newest = useRef(draft);
  newest.current = draft;
  const set = useCallback(
    (change: (now: T) => T): void => {
      const next = change(newest.current);
      newest.current = next;
      setDraft(next);
      writeKept(key, isEmpty(next) ? undefined : next);
    },
    [key, isEmpty],
  );
  useEffect(() => onKeptElsewhere(key, () => setDraft(readKept<T>(key) ?? empty)), [key, empty]);
  return [draft, set] as const;
}
