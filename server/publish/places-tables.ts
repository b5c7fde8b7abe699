/**
 * Places: where a cell of the grid, a test and a claim stand in the lists, kept beside what they follow from so that
 * no list has to work it out for every row. Nothing rests on them: they are made from records, brought up to date
 * before a list is read (`refresh_places`), and could be emptied and made again at any time.
 */
import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  doublePrecision,
  index,
  integer,
  pgTable,
  primaryKey,
  smallint,
  text,
  uuid,
} from 'drizzle-orm/pg-core';
import { at } from '../base/tables.ts';
import { tests } from '../plan/tables.ts';
import { fitments, parts } from '../register/tables.ts';
import { claims } from './tables.ts';

/** How far the evidence has come for each application, and what a test of it would be worth a dyno hour and a launch apart. */
export const coverageCells = pgTable(
  'coverage_cells',
  {
    partId: uuid()
      .notNull()
      .references(() => parts.id),
    fitmentId: uuid()
      .notNull()
      .references(() => fitments.id),
    /** Index into EVIDENCE_STATES. */ rank: smallint().notNull(),
    tests: integer().notNull(),
    testId: uuid().references(() => tests.id, { onDelete: 'set null' }),
    arm: text(),
    /** A sibling has a finding that could be told here. */ served: boolean().notNull(),
    worth: doublePrecision().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.partId, t.fitmentId] }),
    index('cells_of_fitment').on(t.fitmentId),
    index('cells_by_worth').on(t.partId, t.worth.desc().nullsFirst(), t.fitmentId),
    index('cells_by_rank')
      .on(t.rank, t.fitmentId)
      .where(sql`${t.rank} > 0`),
  ],
);

/** Number of cells of each part in each state. */
export const coverageCounts = pgTable(
  'coverage_counts',
  { partId: uuid().notNull(), rank: smallint().notNull(), cells: integer().notNull() },
  (t) => [primaryKey({ columns: [t.partId, t.rank] })],
);

/** Fitments that have a cell. */
export const coverageRows = pgTable('coverage_rows', { fitmentId: uuid().primaryKey() });

/** What a test is listed under. */
export const testPlaces = pgTable(
  'test_places',
  {
    testId: uuid()
      .primaryKey()
      .references(() => tests.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    asks: boolean().notNull(),
    capturing: boolean().notNull(),
    published: boolean().notNull(),
    /** Words around it, names of parts apart: those are found by what a reader may know. */
    foundBy: text().notNull(),
    partIds: uuid()
      .array()
      .notNull()
      .default(sql`'{}'`),
  },
  (t) => [
    index('tests_in_order').on(t.number),
    index('tests_by_words').using('gin', sql`${t.foundBy} gin_trgm_ops`),
    index('tests_by_part').using('gin', t.partIds),
    index('tests_that_ask')
      .on(t.number)
      .where(sql`${t.asks}`),
    index('tests_capturing')
      .on(t.number)
      .where(sql`${t.capturing}`),
    index('tests_published')
      .on(t.number)
      .where(sql`${t.published}`),
  ],
);

/** What a claim is listed under: what waits for a decision first. */
export const claimPlaces = pgTable(
  'claim_places',
  {
    claimId: uuid()
      .primaryKey()
      .references(() => claims.id),
    /** Index into the order of the list. */ place: smallint().notNull(),
    draftedAt: at().notNull(),
  },
  (t) => [index('claims_in_order').on(t.place, t.draftedAt.desc().nullsFirst(), t.claimId)],
);

/** What has changed since the places were made; written by triggers in the transaction of the change. */
export const placesDue = pgTable('places_due', {
  id: bigserial({ mode: 'number' }).primaryKey(),
  kind: text().$type<'cell' | 'fitment' | 'test' | 'claim' | 'everything'>().notNull(),
  partId: uuid(),
  subjectId: uuid(),
});
