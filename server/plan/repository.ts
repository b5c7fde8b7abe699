import { and, desc, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { ClaimScope } from '../../core/plan/arm-types.ts';
import { subjectText } from '../../core/plan/subject.ts';
import type { Difference } from '../../core/register/ledger.ts';
import type { Queryable } from '../base/db.ts';
import { notFound } from '../base/refusals.ts';
import { people } from '../base/tables.ts';
import { dynos, fitments, partRevisions, parts, vehicles } from '../register/tables.ts';
import { tests } from './tables.ts';

/** A partner shop sees the tests assigned to it and nothing else. */
export const visibleTo = (person: Person): SQL | undefined =>
  person.role === 'partner shop' ? eq(tests.partnerId, person.id) : undefined;

/** The first arm under test: what a test is called by. */
export interface Lead {
  readonly label: string;
  readonly scope: ClaimScope;
  readonly differences: readonly Difference[];
}
export const lead = sql<Lead | null>`(select json_build_object('label', a.label, 'scope', a.scope, 'differences', a.differences)
  from test_arms a where a.test_id = ${tests.id} and a.role = 'part' order by a.position limit 1)`;

const withNames = (db: Queryable) =>
  db
    .select({
      test: tests,
      fitment: fitments,
      vehicle: vehicles,
      revision: partRevisions,
      part: parts,
      dyno: dynos,
      lead,
    })
    .from(tests)
    .innerJoin(fitments, eq(fitments.id, tests.fitmentId))
    .innerJoin(vehicles, eq(vehicles.id, tests.vehicleId))
    .leftJoin(partRevisions, eq(partRevisions.id, tests.partRevisionId))
    .leftJoin(parts, eq(parts.id, partRevisions.partId))
    .innerJoin(dynos, eq(dynos.id, tests.dynoId));

export type TestRow = Awaited<ReturnType<typeof findTest>>;

/** Tests a person may see, newest first, or those that a condition picks. */
export const listTests = (db: Queryable, person: Person | undefined, where?: SQL) =>
  withNames(db)
    .where(and(person && visibleTo(person), where))
    .orderBy(desc(tests.number));

/** One test, or the refusal a person gets for one that does not exist or is not theirs to see. */
export async function findTest(db: Queryable, id: string, person?: Person) {
  const [row] = await withNames(db).where(and(eq(tests.id, id), person && visibleTo(person)));
  if (!row) throw notFound('test');
  return row;
}

/** What a person reads as the test's title: what its first arm changes, on the fitment; names of parts as references. */
export const titleOf = ({
  lead: first,
  fitment,
  test,
}: Pick<TestRow, 'lead' | 'fitment'> & { test: Pick<TestRow['test'], 'runOrder'> }): string => {
  const more = new Set(test.runOrder).size - 2;
  const what = first ? subjectText(first) : 'nothing yet';
  return `${what}${more > 0 ? ` and ${more} more ${more === 1 ? 'arm' : 'arms'}` : ''}, on ${fitment.maker} ${fitment.model}`;
};

export async function namesOf(db: Queryable, ids: readonly (string | null)[]): Promise<Map<string, string>> {
  const wanted = [...new Set(ids.filter((id) => id !== null))];
  if (wanted.length === 0) return new Map();
  return new Map(
    (
      await db.select({ id: people.id, name: people.name }).from(people).where(inArray(people.id, wanted))
    ).map(({ id, name }) => [id, name]),
  );
}
