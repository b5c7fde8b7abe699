/**
 * A deed is done once, however often it is sent: a request that changes something may carry a key (`Idempotency-Key`),
 * which is kept in the transaction of the change. Sent again under that key it gets the first answer, and nothing is
 * done; so nobody has to know whether an answer was lost before the change or after it.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import { createHash } from 'node:crypto';
import { and, eq, lt } from 'drizzle-orm';
import type { Request, Response } from 'express';
import type { Db, Queryable } from './db.ts';
import type { Needs } from './needs.ts';
import { RefusalError } from './refusals.ts';
import { keptRequests } from './tables.ts';

interface Deed {
  readonly personId: string;
  readonly key: string;
  readonly deed: string;
  readonly at: Date;
  /** Kept with a transaction that was committed. */
  done: boolean;
}
const present = new AsyncLocalStorage<Deed>();

/** The key is there already: somebody has done this, or is doing it. */
class DoneBefore extends Error {}

async function keep(tx: Queryable, deed: Deed): Promise<void> {
  const { personId, key, at } = deed;
  const kept = await tx
    .insert(keptRequests)
    .values({ personId, key, at, deed: deed.deed })
    .onConflictDoNothing()
    .returning({ key: keptRequests.key });
  if (kept.length === 0) throw new DoneBefore();
}

/** A database whose first transaction within a deed keeps the deed's key, too. */
export const keepingDeeds = (db: Db): Db =>
  new Proxy(db, {
    get(target, name) {
      if (name !== 'transaction') return Reflect.get(target, name) as unknown;
      const transaction: Db['transaction'] = async (work, config) => {
        const deed = present.getStore();
        if (!deed || deed.done) return target.transaction(work, config);
        const value = await target.transaction(async (tx) => {
          await keep(tx, deed);
          return work(tx);
        }, config);
        deed.done = true;
        return value;
      };
      return transaction;
    },
  });

const MOST_KEY = 100;
/** How long a key holds, ms. */
const KEPT_MS = 2 * 24 * 3600 * 1000;
/** How long a second sender waits for the answer to the first, and how often it looks, ms. */
const WAIT_MS = 5000;
const LOOK_MS = 100;

const deedOf = (req: Request): string => {
  const sent = req.body === undefined ? '' : JSON.stringify(req.body);
  return `${req.method} ${req.path} ${createHash('sha256').update(sent).digest('hex')}`;
};
const later = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

const OTHER_DEED = (): RefusalError =>
  new RefusalError(
    422,
    'KEY_USED_FOR_OTHER',
    'The key of this request was used for another one.',
    'Reload the page and try again.',
  );
const ANSWER_LOST = (): RefusalError =>
  new RefusalError(
    409,
    'DONE_ALREADY',
    'This has been done already; its answer was lost.',
    'Reload the page to see it.',
  );

/** Keeps what was answered, when the deed was done; an answer nobody received is kept all the same. */
function keepAnswer(db: Db, res: Response, deed: Deed): void {
  let answer: string | null = null;
  const json = res.json.bind(res);
  res.json = (body: unknown) => {
    answer = JSON.stringify(body ?? null);
    return json(body);
  };
  res.once('close', () => {
    if (!deed.done || res.statusCode >= 400) return;
    db.update(keptRequests)
      .set({ status: res.statusCode, answer })
      .where(and(eq(keptRequests.personId, deed.personId), eq(keptRequests.key, deed.key)))
      // Without it a second sender hears that it was done.
      .catch(() => undefined);
  });
}

export function createDeeds({ db, now }: Pick<Needs, 'db' | 'now'>) {
  const found = async (personId: string, key: string) => {
    const [row] = await db
      .select()
      .from(keptRequests)
      .where(and(eq(keptRequests.personId, personId), eq(keptRequests.key, key)));
    return row;
  };

  /** Gives the first answer again, once it is there. */
  async function again(res: Response, { personId, key, deed }: Deed): Promise<void> {
    for (const end = Date.now() + WAIT_MS; ;) {
      const row = await found(personId, key);
      if (!row) throw ANSWER_LOST();
      if (row.deed !== deed) throw OTHER_DEED();
      if (row.status !== null) {
        res.status(row.status).set('Idempotency-Replayed', 'true');
        if (row.answer === null) res.end();
        else res.json(JSON.parse(row.answer));
        return;
      }
      if (Date.now() > end) throw ANSWER_LOST();
      await later(LOOK_MS);
    }
  }

  return {
    /** Does what a request asks for, or gives the answer it was given before. */
    async once(
      personId: string,
      req: Request,
      res: Response,
      handle: () => Promise<void> | void,
    ): Promise<void> {
      const key = req.get('idempotency-key');
      if (key === undefined || req.method === 'GET') return handle();
      if (key.length === 0 || key.length > MOST_KEY)
        throw new RefusalError(400, 'BAD_REQUEST', `A key has 1 to ${MOST_KEY} characters.`);
      const deed: Deed = { personId, key, deed: deedOf(req), at: now(), done: false };
      if (await found(personId, key)) return again(res, deed);
      const json = res.json.bind(res);
      try {
        await present.run(deed, () => {
          keepAnswer(db, res, deed);
          return handle();
        });
      } catch (error) {
        if (!(error instanceof DoneBefore)) throw error;
        res.json = json;
        await again(res, deed);
      }
    },
    /** Drops what is too old to be sent again. */
    async dropOld(): Promise<void> {
      await db.delete(keptRequests).where(lt(keptRequests.at, new Date(now().getTime() - KEPT_MS)));
    },
  };
}
export type Deeds = ReturnType<typeof createDeeds>;
