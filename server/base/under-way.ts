/**
 * What somebody waits for while it is computed: how far it has come, and that it ends when they wait no longer. The
 * server that computes knows it at once; what takes longer is told to the others through the database.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import type { Request, Response } from 'express';
import type { Person } from '../../contract/base/http.ts';
import type { OnStep } from '../../core/base/on-step.ts';
import type { UnderWay } from '../../contract/base/under-way.ts';
import type { Board } from './under-way-board.ts';

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

/** How often the others are told, ms; what ends before is not told at all. */
const TOLD_EVERY = 500;

export interface UnderWays {
  /** How far it is with what a person asked for at an address; null where nothing is known of it. */
  readonly known: (person: Person, path: string) => Promise<UnderWay>;
  /** Does what was asked for, tells how far it is, and drops it when the one who asked goes away. */
  readonly waitedFor: (
    req: Request,
    res: Response,
    person: Person,
    work: () => Promise<unknown>,
  ) => Promise<void>;
}

/** @param clock ms; tells only how much time has passed */
export function createUnderWays(board: Board, clock: () => number = () => performance.now()): UnderWays {
  const here = new Map<string, { done: number; of: number }>();
  const keyOf = (person: Person, path: string): string => `${person.id} ${path}`;

  /** Tells the others now and then, one telling after the other; that they cannot be told hinders no work. */
  function telling(person: Person, path: string) {
    let last = clock();
    let said: Promise<void> | undefined;
    return {
      step: (step: { done: number; of: number }): void => {
        if (clock() - last < TOLD_EVERY) return;
        last = clock();
        said = (said ?? Promise.resolve())
          .then(() => board.tell({ person, path }, step))
          .catch(() => undefined);
      },
      end: (): void => void said?.then(() => board.drop({ person, path })).catch(() => undefined),
    };
  }

  return {
    known: async (person, path) => here.get(keyOf(person, path)) ?? (await board.read({ person, path })),
    async waitedFor(req, res, person, work) {
      const key = keyOf(person, req.path);
      const others = telling(person, req.path);
      const gone = new AbortController();
      const leave = (): void => {
        if (!res.writableEnded) gone.abort();
      };
      res.once('close', leave);
      try {
        const onStep: OnStep = (done, of) => {
          here.set(key, { done, of });
          others.step({ done, of });
        };
        const answer = await askers.run({ signal: gone.signal, onStep }, work);
        if (!gone.signal.aborted) res.json(answer);
      } catch (error) {
        // Nobody is there to be told.
        if (!gone.signal.aborted) throw error;
      } finally {
        here.delete(key);
        others.end();
        res.off('close', leave);
      }
    },
  };
}
