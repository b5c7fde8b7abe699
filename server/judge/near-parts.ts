/** What was tested on a fitment beside the part of an arm that may be the same thing under another name or revision. */
import { and, asc, eq, inArray, or } from 'drizzle-orm';
import { nearTo, type Near } from '../../core/register/near-parts.ts';
import type { Queryable } from '../base/db.ts';
import { testArms, tests } from '../plan/tables.ts';
import { partRevisions, parts } from '../register/tables.ts';

/** By revision, why it is near; empty where the arm is of no part. */
export async function nearParts(
  db: Queryable,
  fitmentId: string,
  revisionId: string | null,
): Promise<ReadonlyMap<string, Near>> {
  if (revisionId === null) return new Map();
  const own = db
    .select({ id: partRevisions.partId })
    .from(partRevisions)
    .where(eq(partRevisions.id, revisionId));
  const testedHere = db
    .select({ id: testArms.partRevisionId })
    .from(testArms)
    .innerJoin(tests, eq(tests.id, testArms.testId))
    .where(and(eq(tests.fitmentId, fitmentId), eq(testArms.role, 'part')));
  const rows = await db
    .select({
      id: partRevisions.id,
      partId: partRevisions.partId,
      partName: parts.name,
      maker: parts.maker,
      category: parts.category,
      revision: partRevisions.revision,
      changeNote: partRevisions.changeNote,
    })
    .from(partRevisions)
    .innerJoin(parts, eq(parts.id, partRevisions.partId))
    .where(or(inArray(parts.id, own), inArray(partRevisions.id, testedHere)))
    .orderBy(asc(partRevisions.createdAt), asc(partRevisions.id));
  return nearTo(revisionId, rows);
}
