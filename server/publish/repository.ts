import { and, asc, desc, eq, inArray, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Claim, PublicClaim } from '../../contract/publish/claim.ts';
import type { Glyph } from '../../contract/compare/glyph.ts';
import { isRefused, type TestResult } from '../../core/judge/analyse-test.ts';
import type { Queryable } from '../base/db.ts';
import { people } from '../base/tables.ts';
import { analyses } from '../judge/tables.ts';
import { titleOf } from '../judge/service.ts';
import { tests } from '../plan/tables.ts';
import { fitments, partRevisions, parts } from '../register/tables.ts';
import { claims } from './tables.ts';

const author = alias(people, 'author');
const reviewer = alias(people, 'reviewer');

/** The gain curve thinned to at most 41 points: enough to be known by its shape. */
export function glyphOf(result: TestResult): Glyph | null {
  const contrast = result.contrasts[0];
  if (!contrast || isRefused(contrast)) return null;
  const { curve } = contrast.relative;
  const step = Math.max(1, Math.ceil((curve.length - 1) / 40));
  const points = curve.filter((_, i) => i % step === 0 || i === curve.length - 1);
  const round = (value: number): number => Number(value.toFixed(3));
  return { rpm: points.map((p) => p.rpm), gain: points.map((p) => round(p.gain)), lower: points.map((p) => round(p.lower)), upper: points.map((p) => round(p.upper)) };
}

/** Claims with the names around them, newest first. */
export async function listClaims(db: Queryable, where?: SQL): Promise<(Claim & { fitmentId: string })[]> {
  const rows = await db.select({ claim: claims, fitment: fitments, revision: partRevisions, part: parts, test: { id: tests.id, number: tests.number }, author: { id: author.id, name: author.name }, reviewer: { id: reviewer.id, name: reviewer.name }, result: analyses.result })
    .from(claims).innerJoin(fitments, eq(fitments.id, claims.fitmentId)).innerJoin(partRevisions, eq(partRevisions.id, claims.partRevisionId)).innerJoin(parts, eq(parts.id, partRevisions.partId))
    .innerJoin(tests, eq(tests.id, claims.testId)).innerJoin(analyses, eq(analyses.id, claims.analysisId)).innerJoin(author, eq(author.id, claims.authorId)).leftJoin(reviewer, eq(reviewer.id, claims.reviewerId))
    .where(where).orderBy(desc(claims.draftedAt));
  return rows.map(({ claim, fitment, revision, part, author: by, reviewer: checkedBy, result }) => ({
    id: claim.id, code: claim.code, testId: claim.testId, testTitle: titleOf({ part, revision, fitment }), analysisId: claim.analysisId, fitmentId: fitment.id, fitmentSlug: fitment.slug,
    fitment: `${fitment.maker} ${fitment.model}`, part: `${part.name}, revision ${revision.revision}`, metric: claim.metric, value: claim.value, unit: claim.unit, wording: claim.wording, interval: claim.interval, rpm: claim.rpm,
    conditions: claim.conditions, disclosures: claim.disclosures, grade: claim.grade, state: claim.state, author: by, reviewer: checkedBy?.id ? checkedBy : null,
    draftedAt: claim.draftedAt.toISOString(), publishedAt: claim.publishedAt?.toISOString() ?? null, staleReason: claim.staleReason, glyph: glyphOf(result),
  }));
}

/** A claim as anyone may read it. */
export function publicClaim({ code, fitmentSlug, fitment, part, metric, value, unit, wording, interval, rpm, conditions, disclosures, grade, state, draftedAt, publishedAt, staleReason, glyph, testTitle }: Claim): PublicClaim {
  return { code, fitmentSlug, fitment, part, metric, value, unit, wording, interval, rpm, conditions, disclosures, grade, state, draftedAt, publishedAt, staleReason, glyph, testTitle };
}

/** The newest analysis of each test, without its curves. */
export async function latestAnalyses(db: Queryable, testIds: readonly string[]) {
  if (testIds.length === 0) return new Map<string, { result: TestResult; id: string }>();
  const rows = await db.select({ id: analyses.id, testId: analyses.testId, result: analyses.result }).from(analyses)
    .where(and(inArray(analyses.testId, [...testIds]), sql`${analyses.number} = (select max(a.number) from analyses a where a.test_id = ${analyses.testId})`)).orderBy(asc(analyses.number));
  return new Map(rows.map(({ testId, id, result }) => [testId, { id, result }]));
}
