import { and, asc, desc, eq, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type { TestFilter, TestPage, TestSort, TestsQuery } from '../../contract/overview.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { tests } from '../plan/tables.ts';
import { fitments } from '../register/tables.ts';
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
/** The least gain up to which the present result goes, as the list tells it; none while pulls are missing. */
const gain = sql`case when ${testPlaces.capturing} then null else (select min(k.up_to_kw) from contrasts k
  where k.analysis_id = ${tests.currentAnalysisId} and k.position = 0) end`;
/** What a list is ordered by, the number of the test apart, which comes last and parts what is alike. */
const ORDERS: Readonly<
  Record<Exclude<TestSort, 'newest' | 'oldest'>, { by: SQL; down: boolean; cast: SQL }>
> = {
  changed: { by: sql`${tests.updatedAt}`, down: true, cast: sql`timestamptz` },
  fitment: {
    by: sql`(${fitments.maker} || ' ' || ${fitments.model}) collate "C"`,
    down: false,
    cast: sql`text`,
  },
  gain: { by: sql`coalesce(${gain}, '-Infinity')::float8`, down: true, cast: sql`float8` },
};
const orderOf = (sort: TestSort) => (sort === 'newest' || sort === 'oldest' ? undefined : ORDERS[sort]);
const inOrder = (db: Db, where: SQL | undefined, limit: number, sort: TestSort = 'newest') => {
  const order = orderOf(sort);
  const byNumber = sort === 'oldest' ? asc(testPlaces.number) : desc(testPlaces.number);
  return db
    .select({
      id: testPlaces.testId,
      number: testPlaces.number,
      value: order ? sql<string>`(${order.by})::text` : sql<string>`''`,
    })
    .from(testPlaces)
    .innerJoin(tests, eq(tests.id, testPlaces.testId))
    .innerJoin(fitments, eq(fitments.id, tests.fitmentId))
    .where(where)
    .orderBy(...(order ? [order.down ? sql`${order.by} desc` : sql`${order.by} asc`] : []), byNumber)
    .limit(limit);
};
/** Behind the last row of the page before. */
function behindOf(sort: TestSort, after: (string | number)[] | undefined): SQL | undefined {
  if (!after) return undefined;
  const [value, number] = after;
  const order = orderOf(sort);
  const byNumber =
    sort === 'oldest' ? sql`${testPlaces.number} > ${number}` : sql`${testPlaces.number} < ${number}`;
  if (!order) return byNumber;
  const last = sql`${value}::${order.cast}`;
  const further = order.down ? sql`${order.by} < ${last}` : sql`${order.by} > ${last}`;
  return sql`(${further} or (${order.by} = ${last} and ${byNumber}))`;
}

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
  const after = readCursor(query.after, ['text', 'integer']);
  const meant = meantBy(person, query.q, now());
  const behind = behindOf(query.sort, after);
  const [rows, counts] = await Promise.all([
    inOrder(db, and(meant, SHOWN[query.show], behind), query.limit + 1, query.sort),
    countsOf(db, meant),
  ]);
  const shown = rows.slice(0, query.limit);
  return {
    ids: shown.map((row) => row.id),
    next: rows.length > query.limit ? cursorOf([shown.at(-1)!.value, shown.at(-1)!.number]) : null,
    total: counts[query.show],
    counts,
  };
}
