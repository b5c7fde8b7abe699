import { useEffect, useRef, useState } from 'react';
import type { FieldValues, UseFormReturn } from 'react-hook-form';
import { onKeptElsewhere, readKept, writeKept } from './kept-store.ts';
import { useSessionQuery } from './api.ts';
import { useUnsaved } from './unsaved.ts';

interface Kept {
  readonly at: string;
  readonly values: FieldValues;
  /** The record as it was when the typing began. */ readonly begun: FieldValues;
}
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
/** What was typed, over the record as it is now: where nothing was typed the record stands. */
const typedIn = (kept: Kept, now: FieldValues): FieldValues => ({
  ...now,
  ...Object.fromEntries(
    Object.entries(kept.values).filter(([name, value]) => !same(value, (kept.begun ?? {})[name])),
  ),
});

export interface KeptForm {
  /** When the draft that was found on the device was typed; undefined where the form began anew. */
  readonly foundFrom: string | undefined;
  /** The record as it was then: others may have changed it since. */
  readonly foundOn: FieldValues | undefined;
  /** Forgets what was typed and begins anew. */ readonly beginAnew: () => void;
  /**
   * Runs a saving; what is saved is no draft any more, what was refused (`false`) stays one. `again`: saved, and the
   * form goes on with another.
   */
  readonly saving: (save: () => unknown) => Promise<void>;
  /** Leaves the form on purpose: what was typed is dropped. */ readonly drop: () => void;
}

/**
 * Keeps what is typed in a form on the device, through steps, reload, an ended session and a second tab, until it is
 * saved or dropped; and has it asked about when somebody leaves.
 *
 * @param draft what the form is of; without it nothing is kept, as with passwords
 * @param record the record as it is now: what somebody else changes in it is nothing that was typed here
 */
// eslint-disable-next-line max-lines-per-function -- one draft: found, kept, told of, dropped; its parts share what it began as
export function useKeptForm<F extends FieldValues, C, O extends FieldValues>(
  form: UseFormReturn<F, C, O>,
  draft: string | undefined,
  record?: FieldValues,
): KeptForm {
  const { data: session } = useSessionQuery();
  const owner = session?.person?.id;
  const key = draft && owner ? `form:${draft}:${owner}` : undefined;
  const [found, setFound] = useState<Kept>();
  const begun = useRef<FieldValues>(undefined);
  begun.current ??= structuredClone(form.getValues());
  useEffect(() => {
    if (record && !same(record, begun.current)) begun.current = structuredClone(record);
  }, [record]);
  const isSaving = useRef(false);
  const isDropped = useRef(false);

  const show = (values: FieldValues): void => form.reset(values as F, { keepDefaultValues: true });
  const showing = useRef(show);
  showing.current = show;
  useEffect(() => {
    if (!key) return undefined;
    const kept = readKept<Kept>(key);
    if (kept && !same(typedIn(kept, begun.current!), begun.current)) {
      setFound(kept);
      showing.current(typedIn(kept, begun.current!));
    }
    return onKeptElsewhere(key, () => {
      const other = readKept<Kept>(key);
      showing.current(other ? typedIn(other, begun.current!) : begun.current!);
    });
  }, [key]);
  useEffect(() => {
    if (!key) return undefined;
    const { unsubscribe } = form.watch((values) => {
      if (isSaving.current || isDropped.current) return;
      // What another tab has kept is shown here, and not kept once more: that would go to and fro.
      if (same(values, readKept<Kept>(key)?.values)) return;
      const isEmpty = same(values, begun.current);
      writeKept(key, isEmpty ? undefined : { at: new Date().toISOString(), values, begun: begun.current });
    });
    return unsubscribe;
  }, [form, key]);
  useUnsaved(
    () =>
      draft !== undefined &&
      !isSaving.current &&
      !isDropped.current &&
      !same(form.getValues(), begun.current),
  );
  const drop = (): void => {
    isDropped.current = true;
    if (key) writeKept(key, undefined);
  };
  return {
    foundFrom: found?.at,
    foundOn: found?.begun,
    beginAnew: () => {
      setFound(undefined);
      if (key) writeKept(key, undefined);
      form.reset(begun.current as F);
    },
    saving: async (save) => {
      isSaving.current = true;
      const answer = await save();
      isSaving.current = false;
      if (answer === 'again') {
        if (key) writeKept(key, undefined);
        begun.current = structuredClone(form.getValues());
      } else if (answer !== false) drop();
    },
    drop,
  };
}

/** Drops the draft of another form, once what it led to is saved. */
export function useDropDraft(draft: string): () => void {
  const { data: session } = useSessionQuery();
  const owner = session?.person?.id;
  return () => {
    if (owner) writeKept(`form:${draft}:${owner}`, undefined);
  };
}
