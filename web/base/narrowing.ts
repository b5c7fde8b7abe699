import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useSettled } from './use-settled.ts';

/**
 * What a list is narrowed to and sorted by, kept in the address: through a reload, for a link, and under a name.
 *
 * @param standard what holds where the address says nothing
 */
export function useNarrowing<T extends Record<string, string>>(standard: T) {
  const [search, setSearch] = useSearchParams();
  const now = Object.fromEntries(
    Object.entries(standard).map(([name, value]) => [name, search.get(name) ?? value]),
  ) as T;
  const set = (change: Partial<T>): void =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(change) as [string, string][])
          if (value === standard[name]) next.delete(name);
          else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return { now, set, search: search.toString() };
}

/** Words of a search field: written into the address once they stand still. */
export function useWords(kept: string, keep: (words: string) => void) {
  const [words, setWords] = useState(kept);
  const [told, setTold] = useState(kept);
  // Another view was chosen: its words stand in the field.
  if (told !== kept) {
    setTold(kept);
    if (kept !== words.trim()) setWords(kept);
  }
  const settled = useSettled(words.trim());
  useEffect(() => {
    if (settled !== kept && settled === words.trim()) keep(settled);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- follows what was typed, not what the address says
  }, [settled]);
  return [words, setWords] as const;
}
