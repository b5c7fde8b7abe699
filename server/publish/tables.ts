import { sql } from 'drizzle-orm';
import { bigserial, check, doublePrecision, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { ClaimState } from '../../contract/publish/claim.ts';
import type { ClaimText } from '../../core/publish/claim.ts';
import type { ClaimUnit } from '../../core/judge/display.ts';
import type { Metric } from '../../core/plan/metrics.ts';
import { at, people } from '../base/tables.ts';
import { analyses } from '../judge/tables.ts';
import { tests } from '../plan/tables.ts';
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
    partRevisionId: uuid()
      .notNull()
      .references(() => partRevisions.id),
    /** The arm the claim is about. */ arm: text().notNull().default('part'),
    metric: text().$type<Metric>().notNull(),
    value: doublePrecision().notNull(),
    unit: text().$type<ClaimUnit>().notNull(),
    rpm: doublePrecision(),
    interval: jsonb().$type<ClaimText['interval']>(),
    wording: text().notNull(),
    conditions: jsonb().$type<string[]>().notNull(),
    disclosures: jsonb().$type<string[]>().notNull(),
    grade: text().notNull(),
    state: text().$type<ClaimState>().notNull(),
    authorId: uuid()
      .notNull()
      .references(() => people.id),
    reviewerId: uuid().references(() => people.id),
    draftedAt: at().notNull(),
    publishedAt: at(),
    staleReason: text(),
  },
  (t) => [
    check('author_does_not_approve', sql`${t.reviewerId} is null or ${t.reviewerId} <> ${t.authorId}`),
    check(
      'claim_state_known',
      sql`${t.state} in ('draft', 'in review', 'returned', 'published', 'stale', 'withdrawn')`,
    ),
    check(
      'published_by_a_reviewer',
      sql`${t.state} <> 'published' or (${t.reviewerId} is not null and ${t.publishedAt} is not null)`,
    ),
  ],
);

/** What happened to a claim; append-only by trigger. */
export const claimEvents = pgTable('claim_events', {
  id: bigserial({ mode: 'number' }).primaryKey(),
  claimId: uuid()
    .notNull()
    .references(() => claims.id),
  at: at().notNull(),
  personId: uuid()
    .notNull()
    .references(() => people.id),
  fromState: text().$type<ClaimState>(),
  toState: text().$type<ClaimState>().notNull(),
  note: text().notNull().default(''),
});
