import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useSessionQuery } from '../base/api.ts';
import { theirChanges, type Theirs } from '../base/merged.ts';
import { useKept } from '../base/use-kept.ts';
import { useUnsaved } from '../base/unsaved.ts';
import type { Draft } from './draft.ts';

interface Kept {
  readonly at: string;
  readonly draft: Draft;
  /** The plan as it was read, and when it was last written; of a new one nothing. */
  readonly begun: Draft | null;
  readonly basedOn: string | null;
  /** Somebody has typed or chosen something: what follows by itself is no draft. */
  readonly isTouched: boolean;
  readonly theirs: readonly Theirs[];
}
const isNothing = (kept: Kept | null): boolean => kept === null || !kept.isTouched;

export interface PlanDraft {
  readonly draft: Draft;
  readonly onChange: (update: (draft: Draft) => Draft) => void;
  readonly touch: () => void;
  /** When the draft was begun, if one was found on the device. */ readonly foundFrom: string | undefined;
  readonly drop: () => void;
  readonly basedOn: string | null;
  readonly theirs: readonly Theirs[];
  readonly take: (theirs: Theirs) => void;
}

/**
 * A plan while it is being built, kept on the device until it is saved; what others write meanwhile is taken over where
 * nothing was changed here, and told.
 *
 * @param of what the draft is of
 * @param first the plan as it is, or a new one
 */
export function usePlanDraft(of: string, first: Draft, basedOn: string | null): PlanDraft {
  const { data: session } = useSessionQuery();
  const [kept, setKept] = useKept<Kept | null>(`plan:${of}:${session?.person?.id ?? ''}`, null, isNothing);
  const [found] = useState(() => (kept?.isTouched ? kept.at : undefined));
  const begin = useMemo(
    (): Kept => ({
      at: new Date().toISOString(),
      draft: first,
      begun: basedOn === null ? null : first,
      basedOn,
      isTouched: false,
      theirs: [],
    }),
    [first, basedOn],
  );
  const shown = kept ?? begin;
  const change = useCallback(
    (update: (now: Kept) => Kept): void => setKept((now) => update(now ?? begin)),
    [setKept, begin],
  );
  // The plan was written by somebody else.
  const isBehind = kept !== null && basedOn !== null && kept.basedOn !== basedOn;
  useEffect(() => {
    if (!isBehind) return;
    change((now) => {
      const found = theirChanges(now.begun ?? {}, first, now.draft);
      const taken = Object.fromEntries(found.filter((t) => !t.both).map((t) => [t.name, t.now]));
      const before = now.theirs.filter((t) => !found.some((f) => f.name === t.name));
      return {
        ...now,
        draft: { ...now.draft, ...taken },
        begun: first,
        basedOn,
        theirs: [...before, ...found],
      };
    });
  }, [isBehind, change, first, basedOn]);
  // Read at once where one leaves in the same moment in which it was saved or dropped.
  const isTouched = useRef(false);
  isTouched.current = kept?.isTouched === true;
  useUnsaved(() => isTouched.current);
  return {
    draft: shown.draft,
    onChange: useCallback((update) => change((now) => ({ ...now, draft: update(now.draft) })), [change]),
    touch: useCallback(() => change((now) => (now.isTouched ? now : { ...now, isTouched: true })), [change]),
    foundFrom: kept?.isTouched ? found : undefined,
    drop: useCallback(() => {
      isTouched.current = false;
      setKept(() => null);
    }, [setKept]),
    basedOn: shown.basedOn,
    theirs: shown.theirs,
    take: ({ name, now: theirs }) =>
      change((now) => ({
        ...now,
        draft: { ...now.draft, [name]: theirs },
        theirs: now.theirs.map((t) => (t.name === name ? { ...t, both: false } : t)),
      })),
  };
}
