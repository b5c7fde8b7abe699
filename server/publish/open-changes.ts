/** Changes under claims since their analysis that nobody has answered. */
import { sql } from 'drizzle-orm';
import type { Queryable } from '../base/db.ts';
import type { InputKind } from '../base/tables.ts';

export interface OpenChange extends Record<string, unknown> {
  readonly id: number;
  readonly kind: InputKind;
  readonly subjectId: string;
  readonly version: number;
  readonly at: string;
  readonly what: string;
}

/** By claim, in the order they came. */
export async function openChangesOf(
  tx: Queryable,
  ids: readonly string[],
): Promise<Map<string, OpenChange[]>> {
  const { rows } = await tx.execute<OpenChange & { claimId: string }>(
    sql`select claim_id as "claimId", change_id::int as id, kind, subject_id as "subjectId", version, at, what
      from unanswered_changes where claim_id = any(${sql.param([...ids])}::uuid[]) order by change_id`,
  );
  const byClaim = new Map<string, OpenChange[]>();
  for (const { claimId, ...change } of rows) {
    const known = byClaim.get(claimId) ?? [];
    byClaim.set(claimId, [...known, { ...change, at: new Date(change.at).toISOString() }]);
  }
  return byClaim;
}
export const openChanges = async (tx: Queryable, claimId: string): Promise<OpenChange[]> =>
  (await openChangesOf(tx, [claimId])).get(claimId) ?? [];
