import { sql } from 'drizzle-orm';
import {
  check,
  doublePrecision,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { at, people } from '../base/tables.ts';
import { controlVehicles } from '../register/tables.ts';
import { rawFiles } from './tables.ts';

/** One measurement of a control vehicle: a mounting, its counted pulls, and what they read. Append-only. */
export const controlChecks = pgTable(
  'control_checks',
  {
    id: uuid().primaryKey(),
    controlId: uuid()
      .notNull()
      .references(() => controlVehicles.id),
    /** When its first pull was made, and whether its files say so or a person. */
    at: at().notNull(),
    timed: text().$type<'file' | 'typed'>().notNull(),
    warmUps: integer().notNull(),
    note: text().notNull().default(''),
    /** Power of each pull averaged over the range, lp; by which version it was computed. */
    values: doublePrecision().array().notNull(),
    softwareVersion: text().notNull(),
    enteredAt: at().notNull(),
    enteredBy: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [
    index('checks_of_control').on(t.controlId, t.at),
    check('check_has_pulls', sql`cardinality(${t.values}) between 3 and 12`),
    check('check_was_made', sql`${t.at} <= ${t.enteredAt}`),
    check('check_timed', sql`${t.timed} in ('file', 'typed')`),
    check('check_warmed', sql`${t.warmUps} >= 0`),
  ],
);

/** Files of a check with their air, in the order they were made. Append-only; a file stands for one check only. */
export const controlCheckPulls = pgTable(
  'control_check_pulls',
  {
    checkId: uuid()
      .notNull()
      .references(() => controlChecks.id),
    position: integer().notNull(),
    sha256: text()
      .notNull()
      .references(() => rawFiles.sha256),
    name: text().notNull(),
    temperatureC: doublePrecision().notNull(),
    pressureHpa: doublePrecision().notNull(),
    humidityPct: doublePrecision().notNull(),
  },
  (t) => [primaryKey({ columns: [t.checkId, t.position] }), unique('one_check_a_file').on(t.sha256)],
);

/** Checks that were at fault themselves, crossed out for a recorded cause; they stay to be read. Append-only. */
export const controlStruck = pgTable(
  'control_struck',
  {
    checkId: uuid()
      .primaryKey()
      .references(() => controlChecks.id),
    reason: text().notNull(),
    at: at().notNull(),
    by: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [check('check_struck_with_a_reason', sql`length(${t.reason}) >= 10`)],
);
