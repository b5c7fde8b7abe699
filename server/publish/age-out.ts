import { and, eq, sql } from 'drizzle-orm';
import { policyInForce } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import type { ClaimSteps } from './changes.ts';
import { claims } from './tables.ts';

/** Claims older than the policy lets them stand go stale before anybody reads them as current. */
export const createAgeOut =
  ({ db, now }: Pick<Needs, 'db' | 'now'>, { locked, move }: Pick<ClaimSteps, 'locked' | 'move'>) =>
  async (): Promise<void> => {
    const { claimAgeMonths } = await policyInForce(db);
    const old = await db
      .select({ id: claims.id })
      .from(claims)
      .where(
        and(
          eq(claims.state, 'published'),
          sql`${claims.publishedAt} < ${now().toISOString()}::timestamptz - make_interval(months => ${claimAgeMonths})`,
        ),
      );
    for (const { id } of old)
      await db.transaction(async (tx) => {
        const claim = await locked(tx, id);
        if (claim.state !== 'published' && claim.state !== 'in question') return;
        const reason = `It is older than the ${claimAgeMonths} months a claim may stand.`;
        await move(tx, null, claim, 'stale', reason, { staleReason: reason, fellBy: 'age', fellAt: now() });
      });
  };
