/** What was public and no longer stands, for anyone to read: nothing that was once said disappears. */
import { and, count, desc, eq, isNotNull, or, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { PublicClaim } from '../../contract/publish/claim.ts';
import type {
  Correction,
  Corrections,
  CorrectionsQuery,
  Replacement,
} from '../../contract/publish/corrections.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db, Queryable } from '../base/db.ts';
import { matches } from '../register/found-by.ts';
import { fitments } from '../register/tables.ts';
import { claims } from './tables.ts';

/**
 * What is said today of the same part on the same fitment, published after a claim: of the same metric first, then
 * the newest. Where a claim is about no part, of the same subject.
 */
const replacement = (old: SQL): SQL<PublicClaim | null> => sql<PublicClaim | null>`(
  select c.public_claim from claims_shown d join claims c on c.id = d.id
    left join part_revisions r on r.id = c.part_revision_id
    left join part_revisions o on o.id = ${old}.part_revision_id
  where c.fitment_id = ${old}.fitment_id and d.state = 'published' and c.published_at > ${old}.published_at
    and (r.part_id = o.part_id or (r.part_id is null and o.part_id is null and c.subject = ${old}.subject))
  order by (c.metric = ${old}.metric and c.unit = ${old}.unit and c.tells = ${old}.tells) desc, c.published_at desc, c.id
  limit 1)`;

const asReplacement = (claim: PublicClaim | null): Replacement | null =>
  claim && { code: claim.code, wording: claim.wording, publishedAt: claim.publishedAt };

/** What replaced one claim, if anything did. */
export async function replacedBy(db: Queryable, claimId: string): Promise<Replacement | null> {
  const [row] = await db
    .select({ instead: replacement(sql`claims`) })
    .from(claims)
    .where(eq(claims.id, claimId));
  return asReplacement(row?.instead ?? null);
}

/** A page of them, the latest first. */
export async function correctionsPage(
  db: Db,
  query: z.output<typeof CorrectionsQuery>,
): Promise<Corrections> {
  const after = readCursor(query.after, ['time', 'id']);
  const meant = and(
    isNotNull(claims.fellAt),
    isNotNull(claims.snapshot),
    query.fellBy && eq(claims.fellBy, query.fellBy),
    query.q
      ? or(
          matches(fitments.foundBy, query.q),
          sql`position(lower(${query.q}) in lower(${claims.publicClaim} ->> 'subject')) > 0`,
          eq(claims.code, query.q),
        )
      : undefined,
  );
  const [rows, [{ total }]] = await Promise.all([
    db
      .select({
        id: claims.id,
        claim: claims.publicClaim,
        fellAt: sql<string>`${claims.fellAt}::text`,
        fellBy: claims.fellBy,
        reason: claims.staleReason,
        instead: replacement(sql`claims`),
      })
      .from(claims)
      .innerJoin(fitments, eq(fitments.id, claims.fitmentId))
      .where(
        and(
          meant,
          after && sql`(${claims.fellAt}, ${claims.id}) < (${after[0]}::timestamptz, ${after[1]}::uuid)`,
        ),
      )
      .orderBy(desc(claims.fellAt), desc(claims.id))
      .limit(query.limit + 1),
    db
      .select({ total: count() })
      .from(claims)
      .innerJoin(fitments, eq(fitments.id, claims.fitmentId))
      .where(meant),
  ]);
  const shown = rows.slice(0, query.limit);
  const last = shown.at(-1);
  return {
    items: shown.map(correctionShown),
    next: rows.length > query.limit && last ? cursorOf([last.fellAt, last.id]) : null,
    total,
  };
}

function correctionShown(row: {
  claim: PublicClaim | null;
  fellAt: string;
  fellBy: Correction['fellBy'] | null;
  reason: string | null;
  instead: PublicClaim | null;
}): Correction {
  const { code, fitmentSlug, fitment, subject, tells, wording, publishedAt } = row.claim!;
  return {
    code,
    fitmentSlug,
    fitment,
    subject,
    tells,
    wording,
    publishedAt,
    fellAt: new Date(row.fellAt).toISOString(),
    fellBy: row.fellBy!,
    reason: row.reason ?? '',
    instead: asReplacement(row.instead),
  };
}
