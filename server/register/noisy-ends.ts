import { sql } from 'drizzle-orm';
import type { NoisyEndSeen } from '../../contract/register/register.ts';
import type { Queryable } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';

const SHOWN = 3;

/**
 * Ends of past windows where this vehicle scattered far more than elsewhere, newest test first: a plan that leaves
 * them out sees smaller gains. Read from the analyses that stand.
 */
export async function noisyEndsOf(db: Queryable, vehicleId: string): Promise<NoisyEndSeen[]> {
  const { rows } = await db.execute<{ test: number; seen: Omit<NoisyEndSeen, 'test'> }>(sql`
    select t.number as test, c -> 'scatter' -> 'noisyEnd' as seen
    from tests t join analyses a on a.id = ${standingAnalysis()}, jsonb_array_elements(a.result -> 'contrasts') c
    where t.vehicle_id = ${vehicleId} and jsonb_typeof(c -> 'scatter' -> 'noisyEnd') = 'object'
    order by t.number desc limit ${SHOWN}`);
  return rows.map(({ test, seen }) => ({ test, side: seen.side, rpm: seen.rpm, times: seen.times }));
}
