import { sql } from 'drizzle-orm';
import { index, integer, jsonb, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { Glyph } from '../../core/compare/glyph.ts';
import type { PullCurve, TestResult } from '../../core/judge/analyse-test.ts';
import type { Policy } from '../../core/base/policy.ts';
import { at, type InputKind } from '../base/tables.ts';
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
    /** Small curves by arm, for the same lists; null in rows older than this column. */ glyphs:
      jsonb().$type<Record<string, Glyph | null>>(),
    softwareVersion: text().notNull(),
    computedAt: at().notNull(),
    /** The last moment of the session it is of: what is entered for later does not touch it. */ until: at(),
  },
  (t) => [
    unique('one_analysis_a_number').on(t.testId, t.number),
    unique('one_analysis_an_input').on(t.testId, t.inputsHash),
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
