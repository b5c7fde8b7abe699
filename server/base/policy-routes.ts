import { desc, eq, max, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { PolicyRequest, type PolicyEntry } from '../../contract/base/policy.ts';
import { HOUSE, MANAGER } from '../../contract/base/roles.ts';
import type { Policy } from '../../core/base/policy.ts';
import { recordAudit } from './audit.ts';
import type { Queryable } from './db.ts';
import { policyInForce } from './house.ts';
import type { Needs } from './needs.ts';
import { conflict, RefusalError } from './refusals.ts';
import type { Route } from './routing.ts';
import { people, policies } from './tables.ts';

/** House policy: every version that was ever in force, and a new one with its reason. None is ever edited. */
// eslint-disable-next-line max-lines-per-function -- a table of routes, a few lines each
export function policyRoutes(
  needs: Needs,
  afterwards: () => Promise<void>,
  /** Answers for what was judged by the policy before it came into force; in the transaction that enters it. */
  judgedBefore: (tx: Queryable, policy: Policy) => Promise<void>,
): Route[] {
  const { db, now } = needs;
  const list = async (): Promise<{ inForce: string; entries: PolicyEntry[] }> => {
    const rows = await db
      .select({ policy: policies, person: people.name })
      .from(policies)
      .leftJoin(people, eq(people.id, policies.enteredBy))
      .orderBy(desc(policies.number));
    return {
      inForce: (await policyInForce(db)).version,
      entries: rows.map(({ policy, person }) => ({
        policy: policy.body,
        reason: policy.reason,
        at: policy.enteredAt.toISOString(),
        person,
      })),
    };
  };
  const enter = async (person: Person, { policy, reason }: PolicyRequest): Promise<void> => {
    if (policy.factorArms.caution < policy.factorArms.pass)
      throw new RefusalError(
        422,
        'THRESHOLDS_CROSS',
        'Arms’ factors would fail before they ask for caution.',
        'Set the caution limit at or above the pass limit.',
        { path: 'policy.factorArms' },
      );
    await db.transaction(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(727002)`);
      const [twin] = await tx
        .select({ version: policies.version })
        .from(policies)
        .where(eq(policies.version, policy.version));
      if (twin)
        throw conflict(
          'VERSION_TAKEN',
          `Policy ${policy.version} is there already and stays as it is.`,
          'Give the new one a name of its own.',
        );
      const [last] = await tx.select({ number: max(policies.number) }).from(policies);
      await tx.insert(policies).values({
        version: policy.version,
        number: (last?.number ?? 0) + 1,
        body: policy,
        reason,
        enteredAt: now(),
        enteredBy: person.id,
      });
      await recordAudit(tx, now(), person, 'entered policy', 'policy', policy.version, { reason });
      await judgedBefore(tx, policy);
    });
    // What else stands on the policy before is in question from here on; it is evaluated again one by one.
    void afterwards();
  };
  return [
    {
      method: 'get',
      path: '/policies',
      access: HOUSE,
      handle: async (_req, res) => {
        res.json(await list());
      },
    },
    {
      method: 'post',
      path: '/policies',
      access: MANAGER,
      handle: async (req, res, { person }) => {
        await enter(person, PolicyRequest.parse(req.body));
        res.status(201).json(await list());
      },
    },
  ];
}
