import { sql } from 'drizzle-orm';
import { check, index, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import type { LegacyKind } from '../../core/publish/legacy-figures.ts';
import { at, people } from '../base/tables.ts';
import { rawFiles } from '../capture/tables.ts';
import { fitments, parts } from '../register/tables.ts';

/** Evidence from before: what is printed of a part on a fitment. Append-only; no claim can rest on it. */
export const legacyEvidence = pgTable(
  'legacy_evidence',
  {
    id: uuid().primaryKey(),
    fitmentId: uuid()
      .notNull()
      .references(() => fitments.id),
    partId: uuid()
      .notNull()
      .references(() => parts.id),
    kind: text().$type<LegacyKind>().notNull(),
    source: text().notNull(),
    missing: text().notNull(),
    /** As it was typed, one figure a line. */ figures: text().notNull(),
    enteredAt: at().notNull(),
    enteredBy: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [
    check('legacy_kind_known', sql`${t.kind} in ('printed graph', 'number on a page', 'archive file')`),
    check('legacy_says_something', sql`length(${t.figures}) > 0 and length(${t.source}) >= 5`),
    index('legacy_of_pair').on(t.fitmentId, t.partId),
    index('legacy_by_time').on(t.enteredAt),
  ],
);
/** The picture or file it is taken from, where there is one. Append-only. */
export const legacyFiles = pgTable('legacy_files', {
  legacyId: uuid()
    .primaryKey()
    .references(() => legacyEvidence.id),
  sha256: text()
    .notNull()
    .references(() => rawFiles.sha256),
  name: text().notNull(),
  addedAt: at().notNull(),
  addedBy: uuid()
    .notNull()
    .references(() => people.id),
});
/** Entries that are crossed out, with the reason; they stay to be read. Append-only. */
export const legacyStruck = pgTable(
  'legacy_struck',
  {
    legacyId: uuid()
      .primaryKey()
      .references(() => legacyEvidence.id),
    reason: text().notNull(),
    at: at().notNull(),
    by: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [check('struck_with_a_reason', sql`length(${t.reason}) >= 5`)],
);
