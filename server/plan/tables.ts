import { sql } from 'drizzle-orm';
import { boolean, check, doublePrecision, integer, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { Standard } from '../../core/base/standards.ts';
import type { Metric } from '../../core/plan/metrics.ts';
import { at, people } from '../base/tables.ts';
import { dynos, fitments, partRevisions, vehicles } from '../register/tables.ts';

/** A test of one part against stock. Its plan cannot change once `locked_at` is set (trigger). */
export const tests = pgTable('tests', {
  id: uuid().primaryKey(), number: integer().notNull().unique().generatedAlwaysAsIdentity(), question: text().notNull(),
  fitmentId: uuid().notNull().references(() => fitments.id), vehicleId: uuid().notNull().references(() => vehicles.id),
  partRevisionId: uuid().notNull().references(() => partRevisions.id), dynoId: uuid().notNull().references(() => dynos.id),
  partnerId: uuid().references(() => people.id),
  standard: text().$type<Standard>().notNull(), fromRpm: doublePrecision().notNull(), toRpm: doublePrecision().notNull(), stepRpm: doublePrecision().notNull(),
  smoothingRpm: doublePrecision().notNull(), confidence: doublePrecision().notNull(), driftBound: doublePrecision().notNull(), metric: text().$type<Metric>().notNull(),
  protocol: text().notNull(), pullsPerRun: integer().notNull(), warmUps: integer().notNull(), remount: boolean().notNull(),
  gear: text().notNull(), fuel: text().notNull(), calibration: text().notNull(),
  createdBy: uuid().notNull().references(() => people.id), createdAt: at().notNull(), lockedAt: at(), lockedBy: uuid().references(() => people.id), planHash: text(), updatedAt: at().notNull(),
}, (t) => [
  check('band_is_a_range', sql`${t.toRpm} > ${t.fromRpm} and ${t.stepRpm} > 0`),
  check('locked_whole', sql`(${t.lockedAt} is null) = (${t.planHash} is null) and (${t.lockedAt} is null) = (${t.lockedBy} is null)`),
]);

/** Pulls of the run sheet, warm-up pulls included, at their true position in the session. */
export const pulls = pgTable('pulls', {
  id: uuid().primaryKey(), testId: uuid().notNull().references(() => tests.id), position: integer().notNull(), label: text().notNull(), run: integer().notNull(),
  arm: text().$type<'stock' | 'part'>().notNull(), mount: integer().notNull(), counted: boolean().notNull(),
  excludedReason: text(), excludedNote: text(), excludedBy: uuid().references(() => people.id), excludedAt: at(), excludedSeenResult: boolean(),
}, (t) => [
  unique('one_pull_a_position').on(t.testId, t.position), unique('one_pull_a_label').on(t.testId, t.label),
  check('arm_known', sql`${t.arm} in ('stock', 'part')`),
  check('excluded_whole', sql`(${t.excludedReason} is null) = (${t.excludedBy} is null) and (${t.excludedReason} is null) = (${t.excludedAt} is null)`),
]);
