import { useCallback, useEffect, useRef, useState } from 'react';

const PREFIX = 'evidentia-draft:';
const storage = (): Storage | undefined => {
  try {
    return globalThis.localStorage;
  } catch {
    return undefined;
  }
};
function readKept<T>(key: string): T | undefined {
  try {
    const text = storage()?.getItem(PREFIX + key);
    return text ? (JSON.parse(text) as T) : undefined;
  } catch {
    return undefined;
  }
}

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
      try {
        if (isEmpty(next)) storage()?.removeItem(PREFIX + key);
        else storage()?.setItem(PREFIX + key, JSON.stringify(next));
      } catch {
        // A full device keeps it for this page alone.
      }
    },
    [key, isEmpty],
  );
  useEffect(() => {
    const onElsewhere = (event: StorageEvent): void => {
      if (event.key === PREFIX + key) setDraft(readKept<T>(key) ?? empty);
    };
    window.addEventListener('storage', onElsewhere);
    return () => window.removeEventListener('storage', onElsewhere);
  }, [key, empty]);
  return [draft, set] as const;
}
