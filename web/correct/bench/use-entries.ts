import { useCallback, useRef } from 'react';
import type { EntryBody } from '../../../contract/capture/bench.ts';
import { problemOf, refusedWith } from '../../base/api.ts';
import { useSendingAgain } from '../../base/use-sending-again.ts';
import { useKept } from '../../base/use-kept.ts';
import { useWriteEntryMutation } from './api.ts';
import { afterSending, sendWaiting, type Waiting } from './entry-queue.ts';

const AGAIN_MS = 3000;
const NONE: Waiting[] = [];
const isNone = (list: Waiting[]): boolean => list.length === 0;
/** A UUID; browsers make one only on secure addresses, and a cell’s network often has none. */
const newId = (): string => {
  if (typeof crypto.randomUUID === 'function') return crypto.randomUUID();
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
};
/** Entries that wait, and how to write one. */
export function useEntries(testId: string, personId: string, connected: boolean) {
  const [waiting, setWaiting] = useKept<Waiting[]>(`bench:${testId}:${personId}`, NONE, isNone);
  const [send] = useWriteEntryMutation();
  const newest = useRef(waiting);
  newest.current = waiting;
  const sending = useRef(false);
  const flush = useCallback(async (): Promise<void> => {
    const asked = newest.current;
    if (sending.current || asked.every((e) => e.refused !== undefined)) return;
    sending.current = true;
    try {
      const left = await sendWaiting(asked, async (entry) => {
        const answer = await send({ testId, ...entry });
        // Its first answer was lost: it is written.
        if (!('error' in answer) || problemOf(answer.error).code === 'DONE_ALREADY') return { ok: true };
        return { ok: false, refused: refusedWith(answer.error) };
      });
      setWaiting((now) => afterSending(now, asked, left));
    } finally {
      sending.current = false;
    }
  }, [send, setWaiting, testId]);
  useSendingAgain(flush, AGAIN_MS, connected);
  const write = (
    body: EntryBody,
    about: { pullId?: string | null; recordingId?: string | null } = {},
  ): void => {
    const entry: Waiting = {
      id: newId(),
      saidAt: new Date().toISOString(),
      pullId: about.pullId ?? null,
      recordingId: about.recordingId ?? null,
      body,
    };
    setWaiting((now) => [...now, entry]);
    // The list has it before it is sent.
    setTimeout(() => void flush(), 0);
  };
  const drop = (id: string): void => setWaiting((now) => now.filter((e) => e.id !== id));
  return { waiting, write, drop };
}
export type Entries = ReturnType<typeof useEntries>;
