/** What the register has beside the part of an arm that may be the same thing under another name or revision. */
import { asc, eq, sql } from 'drizzle-orm';
import { nearTo, type Near } from '../../core/register/near-parts.ts';
import type { Queryable } from '../base/db.ts';
import { partRevisions, parts } from '../register/tables.ts';

/** By revision, why it is near; empty where the arm is of no part. */
export async function nearParts(
  db: Queryable,
  revisionId: string | null,
): Promise<ReadonlyMap<string, Near>> {
  if (revisionId === null) return new Map();
  const rows = await db
    .select({
      id: partRevisions.id,
      partId: partRevisions.partId,
      partName: parts.name,
      revision: partRevisions.revision,
      changeNote: partRevisions.changeNote,
    })
    .from(partRevisions)
    .innerJoin(parts, eq(parts.id, partRevisions.partId))
    .where(
      sql`(lower(btrim(${parts.maker})), ${parts.category}) = (select lower(btrim(p.maker)), p.category
        from parts p join part_revisions r on r.part_id = p.id where r.id = ${revisionId})`,
    )
    .orderBy(asc(partRevisions.createdAt), asc(partRevisions.id));
  return nearTo(revisionId, rows);
}
