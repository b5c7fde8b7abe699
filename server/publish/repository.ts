import { and, desc, eq, getTableColumns, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Claim, PublicClaim } from '../../contract/publish/claim.ts';
import type { Glyph } from '../../contract/compare/glyph.ts';
import type { Queryable } from '../base/db.ts';
import { people } from '../base/tables.ts';
import { analyses } from '../judge/tables.ts';
import { lead, titleOf } from '../plan/repository.ts';
import { testArms, tests } from '../plan/tables.ts';
import { fitments } from '../register/tables.ts';
import { shownState } from './states.ts';
import { claims } from './tables.ts';

const author = alias(people, 'author');
const reviewer = alias(people, 'reviewer');

/** A claim’s own columns; what the public reads of it is opened only where it is shown. */
const { snapshot: _snapshot, publicClaim: _publicClaim, ...ownColumns } = getTableColumns(claims);
/** The claimed arm's curve, small, as it is kept beside the result. */
const glyph = sql<Glyph | null>`${analyses.glyphs} -> ${claims.arm}`;

/** Claims with the names around them, newest first. */
export async function listClaims(db: Queryable, where?: SQL): Promise<(Claim & { fitmentId: string })[]> {
  const rows = await db
    .select({
      claim: ownColumns,
      shown: shownState,
      lead,
      fitment: fitments,
      arm: { label: testArms.label },
      test: { id: tests.id, number: tests.number, runOrder: tests.runOrder },
      author: { id: author.id, name: author.name },
      reviewer: { id: reviewer.id, name: reviewer.name },
      glyph,
    })
    .from(claims)
    .innerJoin(fitments, eq(fitments.id, claims.fitmentId))
    .innerJoin(tests, eq(tests.id, claims.testId))
    .leftJoin(testArms, and(eq(testArms.testId, claims.testId), eq(testArms.key, claims.arm)))
    .innerJoin(analyses, eq(analyses.id, claims.analysisId))
    .innerJoin(author, eq(author.id, claims.authorId))
    .leftJoin(reviewer, eq(reviewer.id, claims.reviewerId))
    .where(where)
    .orderBy(desc(claims.draftedAt));
  return rows.map(
    ({ claim, shown, lead: first, fitment, test, arm, author: by, reviewer: checkedBy, glyph: shape }) => ({
      id: claim.id,
      code: claim.code,
      testId: claim.testId,
      testTitle: titleOf({ lead: first, fitment, test }),
      arm: claim.arm,
      armLabel: arm?.label ?? claim.arm,
      analysisId: claim.analysisId,
      fitmentId: fitment.id,
      fitmentSlug: fitment.slug,
      fitment: `${fitment.maker} ${fitment.model}`,
      subject: claim.subject,
      subjectKind: claim.subjectKind,
      tells: claim.tells,
      metric: claim.metric,
      value: claim.value,
      says: claim.says,
      unit: claim.unit,
      wording: claim.wording,
      interval: claim.interval,
      rpm: claim.rpm,
      conditions: claim.conditions,
      disclosures: claim.disclosures,
      grade: claim.grade,
      state: shown,
      author: by,
      reviewer: checkedBy?.id ? checkedBy : null,
      draftedAt: claim.draftedAt.toISOString(),
      publishedAt: claim.publishedAt?.toISOString() ?? null,
      staleReason: claim.staleReason,
      glyph: shape,
    }),
  );
}

/** A claim as anyone may read it. */
export function publicClaim({
  code,
  fitmentSlug,
  fitment,
  subject,
  subjectKind,
  tells,
  metric,
  value,
  says,
  unit,
  wording,
  interval,
  rpm,
  conditions,
  disclosures,
  grade,
  state,
  draftedAt,
  publishedAt,
  staleReason,
  glyph,
  testTitle,
  arm,
  armLabel,
}: Claim): PublicClaim {
  return {
    code,
    fitmentSlug,
    fitment,
    subject,
    subjectKind,
    tells,
    metric,
    value,
    says,
    unit,
    wording,
    interval,
    rpm,
    conditions,
    disclosures,
    grade,
    state,
    draftedAt,
    publishedAt,
    staleReason,
    glyph,
    testTitle,
    arm,
    armLabel,
  };
}
