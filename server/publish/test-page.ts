import { and, desc, eq, lt, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type { TestFilter, TestPage, TestsQuery } from '../../contract/overview.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { tests } from '../plan/tables.ts';
import { testPlaces } from './places-tables.ts';
import { refreshPlaces } from './places.ts';
import { testsByWords } from './test-words.ts';

const SHOWN: Readonly<Record<TestFilter, SQL | undefined>> = {
  all: undefined,
  asks: sql`${testPlaces.asks}`,
  capturing: sql`${testPlaces.capturing}`,
  published: sql`${testPlaces.published}`,
};

/** Tests of every filter that this person may see and that fit the words. */
async function countsOf(db: Db, where: SQL | undefined): Promise<Record<TestFilter, number>> {
  const counted = (filter: SQL): SQL<number> => sql<number>`count(*) filter (where ${filter})::int`;
  const [counts] = await db
    .select({
      all: counted(sql`true`),
      asks: counted(SHOWN.asks!),
      capturing: counted(SHOWN.capturing!),
      published: counted(SHOWN.published!),
    })
    .from(testPlaces)
    .innerJoin(tests, eq(tests.id, testPlaces.testId))
    .where(where);
  return counts;
}

/** Which tests stand on a page of the list, newest first; what is shown of each is the overview's. */
export async function testIdsOf(
  { db, now }: Pick<Needs, 'db' | 'now'>,
  person: Person,
  query: z.output<typeof TestsQuery>,
): Promise<Omit<TestPage, 'items'> & { ids: string[] }> {
  await refreshPlaces(db);
  const after = readCursor(query.after, ['integer']);
  const meant = and(
    person.role === 'partner shop' ? eq(tests.partnerId, person.id) : undefined,
    testsByWords(person, query.q, now()),
  );
  const [rows, counts] = await Promise.all([
    db
      .select({ id: testPlaces.testId, number: testPlaces.number })
      .from(testPlaces)
      .innerJoin(tests, eq(tests.id, testPlaces.testId))
      .where(and(meant, SHOWN[query.show], after ? lt(testPlaces.number, Number(after[0])) : undefined))
      .orderBy(desc(testPlaces.number))
      .limit(query.limit + 1),
    countsOf(db, meant),
  ]);
  const shown = rows.slice(0, query.limit);
  return {
    ids: shown.map((row) => row.id),
    next: rows.length > query.limit ? cursorOf([shown.at(-1)!.number]) : null,
    total: counts[query.show],
    counts,
  };
}
