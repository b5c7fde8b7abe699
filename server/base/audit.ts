import type { Person } from '../../contract/base/http.ts';
import type { Queryable } from './db.ts';
import { auditEntries } from './tables.ts';

/** Writes one audit entry, in the transaction of the change it records. */
export async function recordAudit(
  tx: Queryable,
  at: Date,
  person: Person | null,
  action: string,
  subjectKind: string,
  subjectId: string,
  detail: Record<string, unknown> = {},
): Promise<void> {
  await tx.insert(auditEntries).values({
    at,
    personId: person?.id ?? null,
    personName: person?.name ?? 'system',
    action,
    subjectKind,
    subjectId,
    detail,
  });
}
