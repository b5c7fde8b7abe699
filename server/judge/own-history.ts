/** Scatter of a dyno from its finished tests, as their standing analyses hold them. */
import { sql } from 'drizzle-orm';
import type { OwnHistoryShown } from '../../contract/register/own-history.ts';
import { lp } from '../../core/base/units.ts';
import { ownHistory, type PastSession } from '../../core/compare/own-history.ts';
import type { Queryable } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';
import { registerDayVariance } from '../../core/register/day-variance.ts';
import { repeatedTests } from './together-days.ts';
import { notSpoilt } from './finished-tests.ts';

interface PullSeen {
  readonly run: number;
  readonly averageLp: number | null;
  readonly peakKw: number | null;
  readonly powerKw: readonly (number | null)[] | null;
}

/** Tests looked at, newest first: an older dyno is another one. */
const MOST = 40;
interface SessionSeen extends Record<string, unknown> {
  readonly test: number;
  readonly pulls: readonly PullSeen[] | null;
}

function sessionOf(pulls: readonly PullSeen[]): PastSession[] {
  if (pulls.some((p) => p.averageLp === null || p.peakKw === null || p.powerKw === null)) return [];
  return [
    {
      run: pulls.map((p) => p.run),
      averages: pulls.map((p) => p.averageLp!),
      peaks: pulls.map((p) => lp(p.peakKw!)),
      curves: pulls.map((p) => p.powerKw!.map((kw) => (kw === null || kw <= 0 ? NaN : lp(kw)))),
    },
  ];
}

export async function historyOf(tx: Queryable, dynoId: string): Promise<OwnHistoryShown> {
  const { rows } = await tx.execute<SessionSeen>(sql`
    select t.number as test,
      (select json_agg(json_build_object('run', p.run, 'averageLp', r -> 'averageLp',
           'peakKw', r -> 'peakPower' -> 'kw', 'powerKw', c -> 'powerKw') order by p.position)
       from jsonb_array_elements(a.result -> 'pulls') r
         join pulls p on p.test_id = t.id and p.label = r ->> 'id'
         join lateral (select value as c from jsonb_array_elements(a.curves -> 'pulls') where value ->> 'id' = r ->> 'id') k on true
       where p.counted and not r ? 'excluded') as pulls
    from tests t join analyses a on a.id = ${standingAnalysis()}
    where t.dyno_id = ${dynoId} and ${notSpoilt}
    order by t.number desc limit ${MOST}`);
  const used = rows.flatMap(({ test, pulls }) =>
    sessionOf(pulls ?? []).map((session) => ({ test, session })),
  );
  return {
    history: ownHistory(used.map((u) => u.session)) ?? null,
    tests: used.map((u) => u.test).sort((a, b) => a - b),
    days: await daysOf(tx),
  };
}

/** Over all dynos of the house: a gain differs from day to day with the car and the part, not with the bench. */
async function daysOf(tx: Queryable): Promise<OwnHistoryShown['days']> {
  const repeated = await repeatedTests(tx);
  const days = registerDayVariance(repeated);
  return days
    ? {
        registered: days.registered,
        repeats: days.J,
        variance: days.variance,
        df: days.df,
        tests: repeated.map((r) => r.tests),
      }
    : null;
}
