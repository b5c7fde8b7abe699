/** A database that does not answer: how it is told, and how long anybody waits before it is said. */
import { RefusalError } from './refusals.ts';

/** What a reader waits for an answer of the database before being told, ms. */
export const PATIENCE_MS = 800;

export const databaseAway = (): RefusalError =>
  new RefusalError(
    503,
    'DATABASE_AWAY',
    'The records cannot be reached at this moment.',
    'Nothing was stored. Try again in a minute.',
  );
export const databaseBusy = (): RefusalError =>
  new RefusalError(
    503,
    'DATABASE_BUSY',
    'The records are busy: somebody else holds what is needed.',
    'Nothing was changed. Try again in a minute.',
  );

/** Codes of the operating system, and words of the driver where it gives no code. */
const LOST = new RegExp(
  [
    'ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT',
    'Connection terminated',
    'timeout exceeded when trying to connect',
    'Client has encountered a connection error',
  ].join('|'),
);
/** A refusal for an error of the connection or of a time limit; undefined for any other. */
export function asAway(error: unknown): RefusalError | undefined {
  for (let at = error; at instanceof Error; at = at.cause) {
    const code = 'code' in at ? String(at.code) : '';
    // Shut down, crashed or starting; too many connections.
    if (/^(57P0[123]|08...|53300)$/.test(code) || LOST.test(`${code} ${at.message}`)) return databaseAway();
    // A statement or a wait for a lock that took too long; a transaction that stood still.
    if (/^(57014|55P03|25P03)$/.test(code)) return databaseBusy();
  }
  return undefined;
}

/** Patience is counted in steps of so many ms. */
const STEP_MS = 100;

/**
 * What comes within the patience of a reader; undefined when it does not, or fails for want of the database. While this
 * process stands still (a machine that is paused, a long computation) the database cannot answer it: however long that
 * was, it counts as one step.
 */
export async function inTime<T>(asked: Promise<T>, ms = PATIENCE_MS): Promise<T | undefined> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<undefined>((resolve) => {
    const wait = (left: number): void => {
      if (left <= 0) resolve(undefined);
      else timer = setTimeout(() => wait(left - STEP_MS), Math.min(STEP_MS, left));
    };
    wait(ms);
  });
  const answer = asked.catch((error: unknown) => {
    if (asAway(error)) return undefined;
    throw error;
  });
  try {
    return await Promise.race([answer, late]);
  } finally {
    clearTimeout(timer);
  }
}
