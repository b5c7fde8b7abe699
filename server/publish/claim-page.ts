import { and, asc, count, desc, eq, inArray, ne, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import { REVIEW } from '../../contract/base/roles.ts';
import {
  CLAIM_ORDER,
  type ClaimPage,
  type ClaimSort,
  type ClaimsQuery,
} from '../../contract/publish/claim.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { fitments } from '../register/tables.ts';
import { claimPlaces, testPlaces } from './places-tables.ts';
import { refreshPlaces } from './places.ts';
import { listClaims } from './repository.ts';
import { claims } from './tables.ts';
import { testsByWords } from './test-words.ts';

async function countsOf(db: Db): Promise<ClaimPage['counts']> {
  const rows = await db
    .select({ place: claimPlaces.place, n: count() })
    .from(claimPlaces)
    .groupBy(claimPlaces.place);
  return Object.fromEntries(rows.map((row) => [CLAIM_ORDER[row.place], row.n]));
}
async function waitingFor(db: Db, person: Person): Promise<number> {
  if (!REVIEW.includes(person.role)) return 0;
  const [{ n }] = await db
    .select({ n: count() })
    .from(claims)
    .where(and(eq(claims.state, 'in review'), ne(claims.authorId, person.id)));
  return n;
}

/** What the register is ordered by first; what is alike in it stands newest first. */
const ORDERS: Readonly<Record<ClaimSort, { by: SQL; down: boolean; cast: SQL }>> = {
  waiting: { by: sql`${claimPlaces.place}`, down: false, cast: sql`int` },
  newest: { by: sql`0`, down: false, cast: sql`int` },
  published: {
    by: sql`coalesce(${claims.publishedAt}, '-infinity')`,
    down: true,
    cast: sql`timestamptz`,
  },
  fitment: {
    by: sql`(${fitments.maker} || ' ' || ${fitments.model}) collate "C"`,
    down: false,
    cast: sql`text`,
  },
};
const listed = (db: Db, sort: ClaimSort) =>
  db
    .select({
      id: claimPlaces.claimId,
      value: sql<string>`(${ORDERS[sort].by})::text`,
      draftedAt: sql<string>`${claimPlaces.draftedAt}::text`,
    })
    .from(claimPlaces)
    .innerJoin(claims, eq(claims.id, claimPlaces.claimId))
    .innerJoin(fitments, eq(fitments.id, claims.fitmentId))
    .innerJoin(testPlaces, eq(testPlaces.testId, claims.testId));
const inOrder = (db: Db, where: SQL | undefined, limit: number, sort: ClaimSort = 'waiting') =>
  listed(db, sort)
    .where(where)
    .orderBy(
      sql`${ORDERS[sort].by} ${ORDERS[sort].down ? sql`desc` : sql`asc`}`,
      desc(claimPlaces.draftedAt),
      asc(claimPlaces.claimId),
    )
    .limit(limit);
const behind = (sort: ClaimSort, after: ReturnType<typeof readCursor>): SQL | undefined =>
  after &&
  sql`(${ORDERS[sort].by} ${ORDERS[sort].down ? sql`<` : sql`>`} ${after[0]}::${ORDERS[sort].cast}
    or (${ORDERS[sort].by} = ${after[0]}::${ORDERS[sort].cast}
    and (${claimPlaces.draftedAt} < ${after[1]}::timestamptz
      or (${claimPlaces.draftedAt} = ${after[1]}::timestamptz and ${claimPlaces.claimId} > ${after[2]}::uuid))))`;

/** Claims whose tests fit the words, or whose code they are. */
function claimsByWords(person: Person, q: string, now: Date): SQL | undefined {
  const words = testsByWords(person, q, now);
  return words && sql`(${words} or lower(${claims.code}) = lower(${q}))`;
}
async function totalOf(db: Db, meant: SQL | undefined): Promise<number> {
  const every = db.select({ total: count() }).from(claimPlaces);
  const [{ total }] = await (meant
    ? every
        .innerJoin(claims, eq(claims.id, claimPlaces.claimId))
        .innerJoin(testPlaces, eq(testPlaces.testId, claims.testId))
        .where(meant)
    : every);
  return total;
}
/** The claims of some rows, in their order. */
async function claimsOf(db: Db, ids: readonly string[]): Promise<ClaimPage['items']> {
  if (ids.length === 0) return [];
  const byId = new Map(
    (await listClaims(db, inArray(claims.id, [...ids]))).map((claim) => [claim.id, claim]),
  );
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/** The first claims that fit some words. */
export async function firstClaims(
  { db, now }: Pick<Needs, 'db' | 'now'>,
  person: Person,
  q: string,
  limit: number,
): Promise<ClaimPage['items']> {
  await refreshPlaces(db);
  const rows = await inOrder(db, claimsByWords(person, q, now()), limit);
  return claimsOf(
    db,
    rows.map((row) => row.id),
  );
}

/** A page of the register of claims. */
export async function claimPage(
  { db, now }: Pick<Needs, 'db' | 'now'>,
  person: Person,
  query: z.output<typeof ClaimsQuery>,
): Promise<ClaimPage> {
  await refreshPlaces(db);
  const after = readCursor(query.after, ['text', 'time', 'id']);
  const meant = and(
    query.testId ? eq(claims.testId, query.testId) : undefined,
    query.state ? eq(claimPlaces.place, CLAIM_ORDER.indexOf(query.state)) : undefined,
    claimsByWords(person, query.q, now()),
  );
  const [rows, counts, mine, total] = await Promise.all([
    inOrder(db, and(meant, behind(query.sort, after)), query.limit + 1, query.sort),
    countsOf(db),
    waitingFor(db, person),
    totalOf(db, meant),
  ]);
  const shown = rows.slice(0, query.limit);
  const last = shown.at(-1);
  return {
    items: await claimsOf(
      db,
      shown.map((row) => row.id),
    ),
    next: rows.length > query.limit && last ? cursorOf([last.value, last.draftedAt, last.id]) : null,
    total,
    counts,
    mine,
  };
}
