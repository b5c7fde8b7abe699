import { sql } from 'drizzle-orm';
import { lp } from '../../core/base/units.ts';
import { registerDayVariance, type DayRegistration } from '../../core/register/day-variance.ts';
import type { Queryable } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';

/** What gains differ by from day to day, by other parts measured more than once on one car; never by this one. */
export async function dayVariance(
  db: Queryable,
  but: readonly unknown[] = [],
): Promise<DayRegistration | undefined> {
  return registerDayVariance((await repeatedTests(db, but)).map(({ d, u2 }) => ({ d, u2 })));
}

interface Repeated {
  readonly tests: number[];
  readonly d: number[];
  readonly u2: number[];
}
export async function repeatedTests(db: Queryable, but: readonly unknown[] = []): Promise<Repeated[]> {
  // Results are large and most changes were measured once: which were measured again is told without opening any.
  const { rows } = await db.execute<{ numbers: number[]; gains: number[]; variances: number[] }>(sql`
    with again as materialized (
      select * from (
        select t.id, t.number, t.current_analysis_id, m.key, t.vehicle_id, t.standard, t.from_rpm, t.to_rpm, m.differences,
          count(*) over (partition by t.vehicle_id, t.standard, t.from_rpm, t.to_rpm, m.differences) as times
        from tests t join test_arms m on m.test_id = t.id and m.role = 'part'
        where m.differences <> ${JSON.stringify(but)}::jsonb and m.differences <> '[]'::jsonb) k
      where times > 1)
    select array_agg(t.number order by t.number) as numbers, array_agg(c.gain order by t.number) as gains,
      array_agg(c.variance order by t.number) as variances
    from again t join analyses a on a.id = ${standingAnalysis()} and a.failing = 0
      join lateral (
        select (value -> 'relative' -> 'bandAverage' ->> 'gain')::float8 as gain,
          (select sum((b ->> 'variance')::float8) from jsonb_array_elements(value -> 'budget') b
            where b ->> 'source' in ('repeatability', 'mount')) as variance
        from jsonb_array_elements(a.result -> 'contrasts')
        where value ->> 'arm' = t.key and value ? 'relative') c on true
    group by t.vehicle_id, t.standard, t.from_rpm, t.to_rpm, t.differences having count(*) > 1`);
  return rows.map(({ numbers, gains, variances }) => ({
    tests: numbers,
    d: gains.map((gain) => lp(1 + gain / 100)),
    u2: variances,
  }));
}
