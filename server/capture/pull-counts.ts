import { sql } from 'drizzle-orm';
import type { Queryable } from '../base/db.ts';
import type { PullRow } from './repository.ts';

/** How far the pulls of a test have come, counted pulls only. */
export interface PullCounts {
  readonly counted: number;
  readonly withFile: number;
  readonly withAir: number;
  readonly excluded: number;
  /** A pull that is not left out has no file or no air reading yet. */ readonly missing: boolean;
}
export const NO_PULLS: PullCounts = { counted: 0, withFile: 0, withAir: 0, excluded: 0, missing: false };

/** Counted by the database, for lists. */
export async function pullCountsOf(
  db: Queryable,
  testIds: readonly string[],
): Promise<Map<string, PullCounts>> {
  if (testIds.length === 0) return new Map();
  const { rows } = await db.execute<
    { test_id: string } & Record<'counted' | 'with_file' | 'with_air' | 'excluded', number> & {
        missing: boolean;
      }
  >(sql`
    select q.test_id, count(*)::int as counted, count(f.id)::int as with_file, count(r.id)::int as with_air,
      count(q.excluded_reason)::int as excluded,
      bool_or(q.excluded_reason is null and (f.id is null or r.id is null)) as missing
    from pulls q left join pull_files f on f.pull_id = q.id and f.current
      left join air_readings r on r.pull_id = q.id and r.current
    where q.counted and q.test_id = any(${sql.param([...testIds])}::uuid[]) group by q.test_id`);
  return new Map(
    rows.map((row) => [
      row.test_id,
      {
        counted: row.counted,
        withFile: row.with_file,
        withAir: row.with_air,
        excluded: row.excluded,
        missing: row.missing,
      },
    ]),
  );
}

/** The same, counted among rows that have been read. */
export function countsIn(rows: readonly PullRow[]): PullCounts {
  const counted = rows.filter(({ pull }) => pull.counted);
  return {
    counted: counted.length,
    withFile: counted.filter((row) => row.file).length,
    withAir: counted.filter((row) => row.air).length,
    excluded: counted.filter(({ pull }) => pull.excludedReason).length,
    missing: counted.some(({ pull, file, air }) => !pull.excludedReason && (!file || !air)),
  };
}
