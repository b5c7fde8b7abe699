/** Where every server reads how far another is with something: rows that live for as long as it is computed. */
import { and, eq, gt, lt, or, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { UnderWay } from '../../contract/base/under-way.ts';
import type { Db } from './db.ts';
import { underWays } from './tables.ts';

/** What of a person is computed at which address. */
export interface Of {
  readonly person: Pick<Person, 'id'>;
  readonly path: string;
}
export interface Board {
  readonly tell: (of: Of, step: { done: number; of: number }) => Promise<void>;
  readonly drop: (of: Of) => Promise<void>;
  readonly read: (of: Of) => Promise<UnderWay>;
}

/** A row that nobody has brought up to date for so long is of a server that has died. */
const FRESH = sql`now() - interval '1 minute'`;
const LEFT_BEHIND = sql`now() - interval '1 day'`;

export const boardOf = (db: Db): Board => ({
  tell: async ({ person, path }, { done, of }) => {
    const row = { done, total: of, at: sql`now()` };
    await db
      .insert(underWays)
      .values({ personId: person.id, path, ...row })
      .onConflictDoUpdate({ target: [underWays.personId, underWays.path], set: row });
  },
  drop: async ({ person, path }) => {
    const own = and(eq(underWays.personId, person.id), eq(underWays.path, path));
    await db.delete(underWays).where(or(own, lt(underWays.at, LEFT_BEHIND)));
  },
  read: async ({ person, path }) => {
    const [row] = await db
      .select({ done: underWays.done, of: underWays.total })
      .from(underWays)
      .where(and(eq(underWays.personId, person.id), eq(underWays.path, path), gt(underWays.at, FRESH)));
    return row ?? null;
  },
});
