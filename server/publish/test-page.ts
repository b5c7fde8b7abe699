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

/** Tests that a person may see and that fit the words. */
const meantBy = (person: Person, q: string, now: Date): SQL | undefined =>
  and(
    person.role === 'partner shop' ? eq(tests.partnerId, person.id) : undefined,
    testsByWords(person, q, now),
  );

/** How many of them each filter shows; whose they are is only asked where it matters. */
async function countsOf(db: Db, meant: SQL | undefined): Promise<Record<TestFilter, number>> {
  const counted = (filter: SQL): SQL<number> => sql<number>`count(*) filter (where ${filter})::int`;
  const all = db
    .select({
      all: counted(sql`true`),
      asks: counted(SHOWN.asks!),
      capturing: counted(SHOWN.capturing!),
      published: counted(SHOWN.published!),
    })
    .from(testPlaces);
  const [counts] = await (meant ? all.innerJoin(tests, eq(tests.id, testPlaces.testId)).where(meant) : all);
  return counts;
}
const inOrder = (db: Db, where: SQL | undefined, limit: number) =>
  db
    .select({ id: testPlaces.testId, number: testPlaces.number })
    .from(testPlaces)
    .innerJoin(tests, eq(tests.id, testPlaces.testId))
    .where(where)
    .orderBy(desc(testPlaces.number))
    .limit(limit);

/** The newest tests that fit some words. */
export async function newestTests(
  { db, now }: Pick<Needs, 'db' | 'now'>,
  person: Person,
  q: string,
  limit: number,
): Promise<string[]> {
  await refreshPlaces(db);
  return (await inOrder(db, meantBy(person, q, now()), limit)).map((row) => row.id);
}

/** Which tests stand on a page of the list, newest first; what is shown of each is the overview's. */
export async function testIdsOf(
  { db, now }: Pick<Needs, 'db' | 'now'>,
  person: Person,
  query: z.output<typeof TestsQuery>,
): Promise<Omit<TestPage, 'items'> & { ids: string[] }> {
  await refreshPlaces(db);
  const after = readCursor(query.after, ['integer']);
  const meant = meantBy(person, query.q, now());
  const behind = after ? lt(testPlaces.number, Number(after[0])) : undefined;
  const [rows, counts] = await Promise.all([
    inOrder(db, and(meant, SHOWN[query.show], behind), query.limit + 1),
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
