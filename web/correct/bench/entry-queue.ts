/**
 * What was written at the bench and is not with the server yet: kept on the device, through a reload and in every tab,
 * and sent in the order it was written. Each entry has an id of its own, so that sent twice it is written once.
 */
import type { EntryRequest } from '../../../contract/capture/bench.ts';

export interface Waiting extends EntryRequest {
  /** Why the server would not have it; it stays until somebody drops it. */ readonly refused?: string;
}
export type Sent = { readonly ok: true } | { readonly ok: false; readonly refused: string | null };

/**
 * Sends what waits, one after the other, until one cannot be sent: what comes after it is later, and stays behind it.
 * @param send null as refusal says that nobody answered
 * @returns what still waits
 */
export async function sendWaiting(
  waiting: readonly Waiting[],
  send: (entry: EntryRequest) => Promise<Sent>,
): Promise<Waiting[]> {
  const left: Waiting[] = [];
  let isAway = false;
  for (const entry of waiting) {
    if (isAway || entry.refused !== undefined) {
      left.push(entry);
      continue;
    }
    const { refused: _, ...bare } = entry;
    const answer = await send(bare);
    if (answer.ok) continue;
    if (answer.refused === null) isAway = true;
    left.push(answer.refused === null ? entry : { ...entry, refused: answer.refused });
  }
  return left;
}
/** What waits after some was sent: what was added meanwhile stays. */
export const afterSending = (
  now: readonly Waiting[],
  asked: readonly Waiting[],
  left: readonly Waiting[],
): Waiting[] => {
  const done = new Set(asked.filter((e) => !left.some((l) => l.id === e.id)).map((e) => e.id));
  const told = new Map(left.map((l) => [l.id, l]));
  return now.filter((e) => !done.has(e.id)).map((e) => told.get(e.id) ?? e);
};
