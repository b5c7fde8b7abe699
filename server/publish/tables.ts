import { sql } from 'drizzle-orm';
import {
  bigint,
  bigserial,
  boolean,
  check,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { ClaimSnapshot, KeptState, PublicClaim } from '../../contract/publish/claim.ts';
import type { FellBy } from '../../contract/publish/corrections.ts';
import type { ClaimSubject } from '../../core/plan/subject.ts';
import type { ClaimText } from '../../core/publish/claim.ts';
import type { ClaimForm, Policy } from '../../core/base/policy.ts';
import type { ClaimUnit } from '../../core/base/rounding.ts';
import type { Metric } from '../../core/plan/metrics.ts';
import { at, people, type InputKind } from '../base/tables.ts';
import { analyses } from '../judge/tables.ts';
import { testArms, tests } from '../plan/tables.ts';
import { fitments, partRevisions } from '../register/tables.ts';

export const claims = pgTable(
  'claims',
  {
    id: uuid().primaryKey(),
    code: text().notNull().unique(),
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    analysisId: uuid()
      .notNull()
      .references(() => analyses.id),
    fitmentId: uuid()
      .notNull()
      .references(() => fitments.id),
    partRevisionId: uuid().references(() => partRevisions.id),
    /** The arm the claim is about. */ arm: text().notNull().default('part'),
    /** What was tested: the headline, with references for the names of parts. */
    subject: text().notNull().default(''),
    subjectKind: text().$type<ClaimSubject['kind']>().notNull().default('part'),
    /** A gain claimed, or a result told as advice (a loss, no gain shown, what a change is worth). */
    tells: text().$type<'gain' | 'advice'>().notNull().default('gain'),
    metric: text().$type<Metric>().notNull(),
    value: doublePrecision().notNull(),
    /** What the value is, by the policy it was drafted under. */
    says: text().$type<ClaimForm>().notNull().default('lower limit'),
    unit: text().$type<ClaimUnit>().notNull(),
    rpm: doublePrecision(),
    interval: jsonb().$type<ClaimText['interval']>(),
    wording: text().notNull(),
    conditions: jsonb().$type<string[]>().notNull(),
    disclosures: jsonb().$type<string[]>().notNull(),
    grade: text().notNull(),
    state: text().$type<KeptState>().notNull(),
    authorId: uuid()
      .notNull()
      .references(() => people.id),
    reviewerId: uuid().references(() => people.id),
    draftedAt: at().notNull(),
    publishedAt: at(),
    staleReason: text(),
    /** Why a public claim no longer stands; null while it does. */ fellBy: text().$type<FellBy>(),
    /** Since when it does not stand. */ fellAt: at(),
    /** All that the public reads of it, as it was approved. */ snapshot: jsonb().$type<ClaimSnapshot>(),
    /** The claim itself out of it, read out by the database, for lists that do not open the rest. */
    publicClaim: jsonb()
      .$type<PublicClaim>()
      .generatedAlwaysAs(sql`snapshot #> '{evidence,claim}'`),
  },
  (t) => [
    uniqueIndex('drafted_once')
      .on(t.analysisId, t.arm, t.metric, t.unit, t.tells)
      .where(sql`${t.state} in ('draft', 'in review', 'returned', 'published')`),
    index('claims_of_test').on(t.testId),
    index('claims_of_revision').on(t.partRevisionId),
    foreignKey({
      name: 'claim_of_an_arm',
      columns: [t.testId, t.arm],
      foreignColumns: [testArms.testId, testArms.key],
    }),
    foreignKey({
      name: 'analysis_is_of_the_test',
      columns: [t.analysisId, t.testId],
      foreignColumns: [analyses.id, analyses.testId],
    }),
    index('claims_of_fitment').on(t.fitmentId, t.state),
    index('claims_of_analysis').on(t.analysisId),
    index('published_by_age')
      .on(t.publishedAt)
      .where(sql`${t.state} = 'published'`),
    index('fallen_by_time')
      .on(t.fellAt)
      .where(sql`${t.fellAt} is not null`),
    check('author_does_not_approve', sql`${t.reviewerId} is null or ${t.reviewerId} <> ${t.authorId}`),
    check(
      'claim_state_known',
      sql`${t.state} in ('draft', 'in review', 'returned', 'published', 'stale', 'withdrawn')`,
    ),
    check('claim_form_known', sql`${t.says} in ('lower limit', 'mean with range')`),
    // A gain says at most its lower limit or, where policy words means, its mean; a mean has its range with it.
    check(
      'claim_says_at_most',
      sql`${t.tells} <> 'gain' or (${t.says} = 'lower limit' and (${t.interval} is null or jsonb_typeof(${t.interval}) = 'null'
        or ${t.value} <= (${t.interval} ->> 'lower')::float8 + 1e-6))
        or (${t.says} = 'mean with range' and coalesce((${t.interval} ->> 'lower')::float8 > 0
          and ${t.value} <= (${t.interval} ->> 'gain')::float8 + 1e-6, false))`,
    ),
    check('fell_by_known', sql`${t.fellBy} in ('age', 'evidence', 'wrong', 'set aside')`),
    check(
      'fell_by_something',
      sql`(${t.state} in ('stale', 'withdrawn')) = (${t.fellBy} is not null and ${t.fellAt} is not null)`,
    ),
    check(
      'published_by_a_reviewer',
      sql`${t.state} <> 'published' or (${t.reviewerId} is not null and ${t.publishedAt} is not null)`,
    ),
  ],
);

/** A policy that somebody thinks of, held against every claim that is public, before it is in force. */
export const policyPreviews = pgTable(
  'policy_previews',
  {
    id: uuid().primaryKey(),
    policy: jsonb().$type<Policy>().notNull(),
    reason: text().notNull(),
    /** Claims that are public when it begins. */ total: integer().notNull(),
    state: text().$type<'running' | 'done' | 'cancelled'>().notNull(),
    askedBy: uuid()
      .notNull()
      .references(() => people.id),
    askedAt: at().notNull(),
    endedAt: at(),
  },
  (t) => [
    check('preview_state_known', sql`${t.state} in ('running', 'done', 'cancelled')`),
    check('preview_ends_once', sql`(${t.state} = 'running') = (${t.endedAt} is null)`),
    index('previews_running')
      .on(t.askedAt)
      .where(sql`${t.state} = 'running'`),
  ],
);
/** What would become of each claim under it. Append-only. */
export const policyPreviewClaims = pgTable(
  'policy_preview_claims',
  {
    previewId: uuid()
      .notNull()
      .references(() => policyPreviews.id),
    claimId: uuid()
      .notNull()
      .references(() => claims.id),
    holds: boolean().notNull(),
    /** What would be said instead, or why nothing; empty where it holds. */ instead: text()
      .notNull()
      .default(''),
  },
  (t) => [
    primaryKey({ columns: [t.previewId, t.claimId] }),
    index('preview_changes')
      .on(t.previewId)
      .where(sql`not ${t.holds}`),
  ],
);

/** What happened to a claim; append-only by trigger. */
export const claimEvents = pgTable(
  'claim_events',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    claimId: uuid()
      .notNull()
      .references(() => claims.id),
    at: at().notNull(),
    /** Nobody where the application itself moved it. */ personId: uuid().references(() => people.id),
    fromState: text().$type<KeptState>(),
    toState: text().$type<KeptState>().notNull(),
    note: text().notNull().default(''),
  },
  (t) => [index('events_of_claim').on(t.claimId, t.id)],
);

/** That what happened to a published claim has been taken over into the shop. Append-only. */
export const takenOver = pgTable('taken_over', {
  eventId: bigint({ mode: 'number' })
    .primaryKey()
    .references(() => claimEvents.id),
  personId: uuid()
    .notNull()
    .references(() => people.id),
  at: at().notNull(),
});

/** That a change of an input does not touch a claim, with the reason and who says so (nobody: evaluated again). Append-only. */
export const changeAnswers = pgTable(
  'change_answers',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    claimId: uuid()
      .notNull()
      .references(() => claims.id),
    kind: text().$type<InputKind>().notNull(),
    subjectId: uuid().notNull(),
    version: integer().notNull(),
    reason: text().notNull(),
    /** Of a newer revision: what shows that it is equivalent. */ evidence: text().notNull().default(''),
    personId: uuid().references(() => people.id),
    at: at().notNull(),
  },
  (t) => [
    index('answers_of_claim').on(t.claimId, t.kind, t.subjectId),
    check('answer_has_a_reason', sql`length(${t.reason}) >= 10`),
  ],
);
