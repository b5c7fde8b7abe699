import { and, asc, count, desc, eq, inArray, ne, sql } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import { REVIEW } from '../../contract/base/roles.ts';
import { CLAIM_ORDER, type ClaimPage, type ClaimsQuery } from '../../contract/publish/claim.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
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

/** A page of the register of claims. */
export async function claimPage(
  { db, now }: Pick<Needs, 'db' | 'now'>,
  person: Person,
  query: z.output<typeof ClaimsQuery>,
): Promise<ClaimPage> {
  await refreshPlaces(db);
  const after = readCursor(query.after, ['integer', 'time', 'id']);
  const words = testsByWords(person, query.q, now());
  const meant = and(
    query.testId ? eq(claims.testId, query.testId) : undefined,
    query.state ? eq(claimPlaces.place, CLAIM_ORDER.indexOf(query.state)) : undefined,
    words && sql`(${words} or lower(${claims.code}) = lower(${query.q}))`,
  );
  const from = db
    .select({
      id: claimPlaces.claimId,
      place: claimPlaces.place,
      draftedAt: sql<string>`${claimPlaces.draftedAt}::text`,
    })
    .from(claimPlaces)
    .innerJoin(claims, eq(claims.id, claimPlaces.claimId))
    .innerJoin(testPlaces, eq(testPlaces.testId, claims.testId));
  const [rows, counts, mine, [{ total }]] = await Promise.all([
    from
      .where(
        and(
          meant,
          after &&
            sql`(${claimPlaces.place} > ${after[0]}::int or (${claimPlaces.place} = ${after[0]}::int and (${claimPlaces.draftedAt} < ${after[1]}::timestamptz
              or (${claimPlaces.draftedAt} = ${after[1]}::timestamptz and ${claimPlaces.claimId} > ${after[2]}::uuid))))`,
        ),
      )
      .orderBy(asc(claimPlaces.place), desc(claimPlaces.draftedAt), asc(claimPlaces.claimId))
      .limit(query.limit + 1),
    countsOf(db),
    waitingFor(db, person),
    meant
      ? db
          .select({ total: count() })
          .from(claimPlaces)
          .innerJoin(claims, eq(claims.id, claimPlaces.claimId))
          .innerJoin(testPlaces, eq(testPlaces.testId, claims.testId))
          .where(meant)
      : db.select({ total: count() }).from(claimPlaces),
  ]);
  const shown = rows.slice(0, query.limit);
  const found = shown.length
    ? await listClaims(
        db,
        inArray(
          claims.id,
          shown.map((row) => row.id),
        ),
      )
    : [];
  const byId = new Map(found.map((claim) => [claim.id, claim]));
  const last = shown.at(-1);
  return {
    items: shown.flatMap((row) => byId.get(row.id) ?? []),
    next: rows.length > query.limit && last ? cursorOf([last.place, last.draftedAt, last.id]) : null,
    total,
    counts,
    mine,
  };
}
