/**
 * What somebody waits for while it is computed: how far it has come, and that it ends when they wait no longer. Known to
 * the process that computes, for as long as it does; another one says that it knows nothing of it.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import type { Request, Response } from 'express';
import type { Person } from '../../contract/base/http.ts';
import type { OnStep } from '../../core/base/on-step.ts';
import type { UnderWay } from '../../contract/base/under-way.ts';

/** Whoever asked, as the work they asked for sees them. */
interface Asker {
  readonly signal: AbortSignal;
  readonly onStep: OnStep;
}
const askers = new AsyncLocalStorage<Asker | undefined>();
/** Who waits for what is computed here; nobody for work of the queue. */
export const whoWaits = (): Asker | undefined => askers.getStore();

/** What follows from something that was asked for and must be done to its end, also when whoever asked goes away. */
export const whoeverWaits = <T>(work: () => Promise<T>): Promise<T> => askers.run(undefined, work);

const known = new Map<string, { done: number; of: number }>();
const keyOf = (person: Person, path: string): string => `${person.id} ${path}`;

/** How far it is with what a person asked for at an address; null where nothing is known of it. */
export const underWay = (person: Person, path: string): UnderWay => known.get(keyOf(person, path)) ?? null;

/** Does what was asked for, tells how far it is, and drops it when the one who asked goes away. */
export async function waitedFor(
  req: Request,
  res: Response,
  person: Person,
  work: () => Promise<unknown>,
): Promise<void> {
  const key = keyOf(person, req.path);
  const gone = new AbortController();
  const leave = (): void => {
    if (!res.writableEnded) gone.abort();
  };
  res.once('close', leave);
  try {
    const onStep: OnStep = (done, of) => void known.set(key, { done, of });
    const answer = await askers.run({ signal: gone.signal, onStep }, work);
    if (!gone.signal.aborted) res.json(answer);
  } catch (error) {
    // Nobody is there to be told.
    if (!gone.signal.aborted) throw error;
  } finally {
    known.delete(key);
    res.off('close', leave);
  }
}
