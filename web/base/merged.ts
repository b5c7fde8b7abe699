import { useEffect, useRef, useState } from 'react';
import type { FieldValues, UseFormReturn } from 'react-hook-form';

/** What somebody else has changed in a record while it is being edited here. */
export interface Theirs {
  readonly name: string;
  readonly was: unknown;
  readonly now: unknown;
  /** Changed here, too: saving writes what stands here. */ readonly both: boolean;
}
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/**
 * Three ways to one record: as it was when the editing began, as it is now, as it stands in the form.
 * @returns what others changed; `both` where the form holds another change of the same field
 */
export const theirChanges = (begun: FieldValues, now: FieldValues, here: FieldValues): Theirs[] =>
  Object.keys(now)
    .filter((name) => !same(begun[name], now[name]))
    .map((name) => ({
      name,
      was: begun[name] as unknown,
      now: now[name] as unknown,
      both: !same(here[name], begun[name]) && !same(here[name], now[name]),
    }));

/** Takes over what others changed where nothing was typed here, and tells all of it. */
export function useMerged<F extends FieldValues, C, O extends FieldValues>(
  form: UseFormReturn<F, C, O>,
  values: FieldValues,
) {
  const begun = useRef(values);
  const [theirs, setTheirs] = useState<Theirs[]>([]);
  useEffect(() => {
    const found = theirChanges(begun.current, values, form.getValues());
    begun.current = values;
    if (found.length === 0) return;
    for (const { name, now, both } of found)
      if (!both) form.setValue(name as never, now as never, { shouldDirty: false });
    setTheirs((before) => [...before.filter((b) => !found.some((f) => f.name === b.name)), ...found]);
  }, [values, form]);
  return {
    theirs,
    take: ({ name, now }: Theirs): void => {
      form.setValue(name as never, now as never, { shouldDirty: true, shouldValidate: true });
      setTheirs((all) => all.map((t) => (t.name === name ? { ...t, both: false } : t)));
    },
  };
}
