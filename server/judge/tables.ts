import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  doublePrecision,
  foreignKey,
  index,
  integer,
  json,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import type { Glyph } from '../../core/compare/glyph.ts';
import type { PullCurve } from '../../core/compare/pull-results.ts';
import type { TestResult } from '../../core/judge/analyse-test.ts';
import type { Policy } from '../../core/base/policy.ts';
import { at, people, type InputKind } from '../base/tables.ts';
import { tests } from '../plan/tables.ts';

/** Analyses: written once, never edited (trigger); a later one supersedes by its number. */
export const analyses = pgTable(
  'analyses',
  {
    id: uuid().primaryKey(),
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    number: integer().notNull(),
    inputsHash: text().notNull(),
    inputs: jsonb().$type<Record<string, unknown>>().notNull(),
    result: jsonb().$type<TestResult>().notNull(),
    curves: jsonb().$type<{ rpm: number[]; pulls: PullCurve[] }>().notNull(),
    policy: jsonb().$type<Policy>().notNull(),
    /** Read out of the result by the database, for lists that do not open it. */
    verdict: text().generatedAlwaysAs(sql`result ->> 'verdict'`),
    grade: text().generatedAlwaysAs(sql`result ->> 'grade'`),
    /** Findings that bar a claim, and those that are cautions; a gain that is not shown is a result and counts in neither. */
    failing: integer().generatedAlwaysAs(
      sql`jsonb_array_length(jsonb_path_query_array(result, '$.findings[*] ? (@.state == "fail" && @.gate != "effect")'))`,
    ),
    cautions: integer().generatedAlwaysAs(
      sql`jsonb_array_length(jsonb_path_query_array(result, '$.findings[*] ? (@.state == "caution")'))`,
    ),
    /** Small curves by arm, for the same lists; null in rows older than this column. Kept as the text that is sent. */
    glyphs: json().$type<Record<string, Glyph | null>>(),
    softwareVersion: text().notNull(),
    computedAt: at().notNull(),
    /** The last moment of the session it is of: what is entered for later does not touch it. */ until: at(),
  },
  (t) => [
    unique('one_analysis_a_number').on(t.testId, t.number),
    unique('analysis_with_its_test').on(t.id, t.testId),
    unique('one_analysis_an_input').on(t.testId, t.inputsHash),
  ],
);

/**
 * Results as rows: the metrics of every contrast of an analysis, for lists and for work that compares tests. Where
 * pulls are left out there is a second row with them put back. Written once, with the analysis.
 */
export const contrasts = pgTable(
  'contrasts',
  {
    analysisId: uuid()
      .notNull()
      .references(() => analyses.id),
    position: integer().notNull(),
    withExcluded: boolean().notNull(),
    arm: text().notNull(),
    against: text().notNull(),
    design: text().notNull(),
    /** Why there is no result; the metrics are then empty. */
    refused: text(),
    upToPct: doublePrecision(),
    upToPctRpm: doublePrecision(),
    upToKw: doublePrecision(),
    upToKwRpm: doublePrecision(),
    upToNm: doublePrecision(),
    upToNmRpm: doublePrecision(),
    averagePct: doublePrecision(),
    averagePctLower: doublePrecision(),
    averagePctUpper: doublePrecision(),
    peakKw: doublePrecision(),
    peakKwLower: doublePrecision(),
    peakKwUpper: doublePrecision(),
    peakAtEdge: boolean(),
    worstPct: doublePrecision(),
    worstPctRpm: doublePrecision(),
    provenLosses: integer(),
  },
  (t) => [
    primaryKey({ columns: [t.analysisId, t.position, t.withExcluded] }),
    check('refused_or_measured', sql`(${t.refused} is null) = (${t.upToKw} is not null)`),
  ],
);

/** Inputs that cannot be analysed, with why: the same inputs are not tried again at every look. Append-only. */
export const failedAnalyses = pgTable(
  'failed_analyses',
  {
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    inputsHash: text().notNull(),
    code: text().notNull(),
    message: text().notNull(),
    failedAt: at().notNull(),
  },
  (t) => [primaryKey({ columns: [t.testId, t.inputsHash] })],
);

/** What people answered for: a finding of an analysis, as it read. Append-only; the last answer counts. */
export const findingAnswers = pgTable(
  'finding_answers',
  {
    id: uuid().primaryKey(),
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    analysisId: uuid()
      .notNull()
      .references(() => analyses.id),
    code: text().notNull(),
    message: text().notNull(),
    /** The arm it is about; null where the test has one, or for answers from before this was kept. */ arm: text(),
    answer: text().notNull(),
    answeredBy: uuid()
      .notNull()
      .references(() => people.id),
    answeredAt: at().notNull(),
  },
  (t) => [
    index('answers_of_test').on(t.testId, t.answeredAt),
    foreignKey({
      name: 'answer_to_its_own_test',
      columns: [t.analysisId, t.testId],
      foreignColumns: [analyses.id, analyses.testId],
    }),
    check('answer_says_something', sql`length(trim(${t.answer})) >= 20`),
  ],
);

/** Which version of each input an analysis read; 0 is one that had never changed. Append-only. */
export const analysisInputs = pgTable(
  'analysis_inputs',
  {
    analysisId: uuid()
      .notNull()
      .references(() => analyses.id),
    kind: text().$type<InputKind>().notNull(),
    subjectId: uuid().notNull(),
    version: integer().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.analysisId, t.kind, t.subjectId] }),
    index('analyses_on_input').on(t.kind, t.subjectId),
  ],
);
