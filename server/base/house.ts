import { desc, sql } from 'drizzle-orm';
import { DEFAULT_POLICY, type Policy } from '../../core/base/policy.ts';
import type { Queryable } from './db.ts';
import type { Needs } from './needs.ts';
import { policies, softwareVersions } from './tables.ts';

/** Version of the computing: raised whenever a result could come out otherwise than before. */
export const SOFTWARE_VERSION = '0.16.0';

/** The policy in force; the one the application ships with where none was ever entered. */
export async function policyInForce(db: Queryable): Promise<Policy> {
  const [row] = await db
    .select({ body: policies.body, version: policies.version })
    .from(policies)
    .orderBy(desc(policies.number))
    .limit(1);
  // A field that came with a later version of the application has its default until somebody sets it.
  return row ? { ...DEFAULT_POLICY, ...row.body, version: row.version } : DEFAULT_POLICY;
}

/** Writes down, once, the policy the application begins with and every version of it that serves this database. */
export async function ensureHouse({ db, now, softwareVersion }: Needs): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(727002)`);
    const { version, ...body } = DEFAULT_POLICY;
    const [there] = await tx.select({ version: policies.version }).from(policies).limit(1);
    if (!there)
      await tx.insert(policies).values({
        version,
        number: 1,
        body: { version, ...body },
        reason: 'The policy the application begins with.',
        enteredAt: now(),
      });
    // What an earlier version computed without ever serving here counts as served: the newer one is then a change.
    await tx.execute(sql`
      insert into software_versions (version, first_served_at)
      select software_version, min(computed_at) from analyses where software_version <> ${softwareVersion}
      group by software_version on conflict do nothing`);
    await tx
      .insert(softwareVersions)
      .values({ version: softwareVersion, firstServedAt: now() })
      .onConflictDoNothing();
  });
}

/**
 * Takes the lock of a test. Whatever changes what a test rests on, or judges it, takes this first, then rows of
 * claims, then rows of the register: one order, so that two people at once wait for each other and never deadlock.
 */
export const lockTest = async (tx: Queryable, testId: string): Promise<void> => {
  await tx.execute(sql`select 1 from tests where id = ${testId} for update`);
};
