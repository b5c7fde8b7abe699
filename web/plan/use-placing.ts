/** Placing sessions, one or as suggested; what is refused is said where one looks. */
import { useState } from 'react';
import { toast } from 'sonner';
import type { Suggestion } from '../../contract/plan/schedule.ts';
import { problemOf, type Problem } from '../base/api.ts';
import { usePlaceMutation, useSuggestMutation, useUnplaceMutation } from './api.ts';
import { atSite } from './schedule-time.ts';
import type { Movable } from './schedule-week.tsx';

/** How far ahead places are looked for. */
const AHEAD_DAYS = 28;

export function usePlacing() {
  const [place, { isLoading: placing }] = usePlaceMutation();
  const [unplace] = useUnplaceMutation();
  const [suggest, { error: noSuggestion, isLoading: suggesting }] = useSuggestMutation();
  const [suggestion, setSuggestion] = useState<Suggestion | null>(null);
  /** Whether it was done; what was refused is told, with where it would fit. */
  const done = (answer: { error?: unknown }, timeZone?: string): boolean => {
    if (answer.error === undefined) return true;
    const { message, details } = problemOf(answer.error);
    const fits = timeZone && typeof details.wouldFit === 'string' ? atSite(details.wouldFit, timeZone) : '';
    toast.error(fits ? `${message} It would fit on ${fits}.` : message);
    return false;
  };
  return {
    placing,
    suggesting,
    noSuggestion,
    suggestion,
    dropSuggestion: () => setSuggestion(null),
    /** Places a session where it was dropped. */
    placeAt: async ({ testId, dynoId }: Movable, start: string, timeZone: string): Promise<boolean> =>
      done(await place([{ testId, dynoId, start }]), timeZone),
    /** Places it from its dialog, where a refusal is read. */
    tryAt: async ({ testId, dynoId }: Movable, start: string): Promise<Problem | undefined> => {
      const answer = await place([{ testId, dynoId, start }]);
      return 'error' in answer && answer.error !== undefined ? problemOf(answer.error) : undefined;
    },
    takeOut: async ({ testId }: Movable): Promise<boolean> => done(await unplace(testId)),
    ask: async (from: string): Promise<void> => {
      const earliest = Math.max(Date.now(), Date.parse(`${from}T00:00:00Z`));
      const answer = await suggest({ from: new Date(earliest).toISOString(), days: AHEAD_DAYS });
      if ('data' in answer && answer.data) setSuggestion(answer.data);
    },
    accept: async (list: Suggestion['placements']): Promise<void> => {
      const wanted = list.map(({ testId, dynoId, start }) => ({
        testId,
        dynoId,
        start,
        placedBy: 'suggestion' as const,
      }));
      if (!done(await place(wanted))) return;
      toast.success(list.length === 1 ? 'Placed.' : `${list.length} sessions placed.`);
      setSuggestion(null);
    },
  };
}
