/** Baselines of other tests on the same fitment: what this test's is held against. */
import { and, desc, eq, ne, sql, type SQL } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { OtherBaselines } from '../../contract/compare/baselines.ts';
import { baselineDifference, type BaselineCurve } from '../../core/compare/baselines.ts';
import type { Queryable } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';
import { findTest, visibleTo } from '../plan/repository.ts';
import { testArms, tests } from '../plan/tables.ts';
import { dynos, vehicles } from '../register/tables.ts';
import { analyses } from './tables.ts';

/** Tests looked at, newest first. */
const MOST = 20;

/** The baseline of the first contrast that could be computed, kW at the wheel; a baseline that was altered is none. */
const curve = sql<BaselineCurve | null>`(
  select json_build_object('rpm', jsonb_path_query_array(c.value, '$.power.curve[*].rpm'),
                           'kw', jsonb_path_query_array(c.value, '$.power.curve[*].against'))
  from jsonb_array_elements(${analyses.result} -> 'contrasts') with ordinality c(value, place)
  where c.value ? 'power' order by c.place limit 1)`;
const unaltered = sql`not exists (select from ${testArms} a
  where a.test_id = ${tests.id} and a.role = 'baseline' and jsonb_array_length(a.changes) > 0)`;

/** A session in which a gate fails tells of something else than its car. */
const sound = eq(analyses.failing, 0);

const withCurves = (db: Queryable, where: SQL | undefined) =>
  db
    .select({
      testId: tests.id,
      number: tests.number,
      vehicleId: tests.vehicleId,
      dynoId: tests.dynoId,
      vehicle: vehicles.tag,
      dyno: dynos.name,
      at: analyses.until,
      curve,
    })
    .from(tests)
    .innerJoin(analyses, eq(analyses.id, standingAnalysis('tests')))
    .innerJoin(vehicles, eq(vehicles.id, tests.vehicleId))
    .innerJoin(dynos, eq(dynos.id, tests.dynoId))
    .where(where)
    .orderBy(desc(tests.number))
    .limit(MOST);

export async function otherBaselines(db: Queryable, testId: string, person: Person): Promise<OtherBaselines> {
  const { test } = await findTest(db, testId, person);
  return { baselines: await baselinesBeside(db, test, person) };
}

/** @param person who looks, and sees what they may see; nobody: everything there is */
export async function baselinesBeside(
  db: Queryable,
  test: typeof tests.$inferSelect,
  person?: Person,
): Promise<OtherBaselines['baselines']> {
  const [own] = await withCurves(db, eq(tests.id, test.id));
  if (!own?.curve) return [];
  const alike = and(eq(tests.fitmentId, test.fitmentId), eq(tests.standard, test.standard));
  const seen = person ? visibleTo(person) : undefined;
  const others = await withCurves(db, and(ne(tests.id, test.id), alike, unaltered, sound, seen));
  return others.flatMap(({ curve: other, vehicleId, dynoId, at, ...rest }) => {
    const difference = other ? baselineDifference(own.curve!, other) : undefined;
    if (!difference) return [];
    const same = { sameVehicle: vehicleId === test.vehicleId, sameDyno: dynoId === test.dynoId };
    return [{ ...rest, ...difference, at: at?.toISOString() ?? null, ...same }];
  });
}
