import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { AirFileSaid, AirSource } from '../../contract/capture/air-file.ts';
import type { PullFound } from '../../contract/capture/capture.ts';
import type { Quantity } from '../../core/base/quantities.ts';
import type { ColumnChoices } from '../../core/capture/pull-file-types.ts';
import { at, bytea, people } from '../base/tables.ts';
import { pulls, tests } from '../plan/tables.ts';
import { dynos } from '../register/tables.ts';

/** Raw bytes as they came, named by their SHA-256; immutable by trigger. */
export const rawFiles = pgTable(
  'raw_files',
  {
    sha256: text().primaryKey(),
    bytes: bytea().notNull(),
    size: integer().notNull(),
    storedAt: at().notNull(),
    storedBy: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [
    check('size_is_of_bytes', sql`${t.size} = octet_length(${t.bytes})`),
    check('named_by_hash', sql`${t.sha256} = encode(sha256(${t.bytes}), 'hex')`),
  ],
);

/**
 * The log of an engine that was joined to a pull: a raw file of its own with the shift that was found and the one that
 * is used. It belongs to the bytes it was joined to: another file of the pull has none until one is joined again.
 */
export const pullLogs = pgTable(
  'pull_logs',
  {
    id: uuid().primaryKey(),
    pullId: uuid()
      .notNull()
      .references(() => pulls.id),
    /** The file of the pull it was joined to. */
    fileSha256: text()
      .notNull()
      .references(() => rawFiles.sha256),
    sha256: text()
      .notNull()
      .references(() => rawFiles.sha256),
    name: text().notNull(),
    offsetS: doublePrecision().notNull(),
    /** Where the engine speeds meet, and how well; null where they meet nowhere. */
    foundOffsetS: doublePrecision(),
    correlation: doublePrecision(),
    joinedAt: at().notNull(),
    joinedBy: uuid()
      .notNull()
      .references(() => people.id),
    current: boolean().notNull().default(true),
    /** Taken off again: the row says so, and that nothing stands. */
    removed: boolean().notNull().default(false),
  },
  (t) => [
    uniqueIndex('one_current_log_a_pull')
      .on(t.pullId)
      .where(sql`${t.current}`),
    check('log_is_not_the_pull', sql`${t.sha256} <> ${t.fileSha256}`),
  ],
);

/** Parts of files on their way, by who sends them and what the whole will be; gone once it is whole, or after a day. */
export const uploadParts = pgTable(
  'upload_parts',
  {
    personId: uuid()
      .notNull()
      .references(() => people.id),
    sha256: text().notNull(),
    start: integer().notNull(),
    bytes: bytea().notNull(),
    receivedAt: at().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.personId, t.sha256, t.start] }),
    index('upload_parts_by_age').on(t.receivedAt),
    check('part_of_a_file', sql`${t.start} >= 0 and octet_length(${t.bytes}) > 0`),
  ],
);

/** Photographs of a test: the bytes as they came, and what they show in words. Append-only. */
export const photographs = pgTable(
  'photographs',
  {
    id: uuid().primaryKey(),
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    sha256: text()
      .notNull()
      .references(() => rawFiles.sha256),
    name: text().notNull(),
    caption: text().notNull(),
    arm: text(),
    width: integer().notNull(),
    height: integer().notNull(),
    /** Made once, when it came: a page of them decodes none. */ thumb: bytea().notNull(),
    /** Whether its own notes say where it was taken. */ saysWhere: boolean().notNull(),
    addedAt: at().notNull(),
    addedBy: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [unique('photograph_once').on(t.testId, t.sha256)],
);

/** Which raw file stands for which pull. A replaced file stays, no longer current. */
export const pullFiles = pgTable(
  'pull_files',
  {
    id: uuid().primaryKey(),
    pullId: uuid()
      .notNull()
      .references(() => pulls.id),
    sha256: text()
      .notNull()
      .references(() => rawFiles.sha256),
    name: text().notNull(),
    columns: jsonb().$type<ColumnChoices>(),
    found: jsonb().$type<PullFound>().notNull(),
    attachedAt: at().notNull(),
    attachedBy: uuid()
      .notNull()
      .references(() => people.id),
    current: boolean().notNull().default(true),
    /** What the file says of when it was recorded, and the latest moment that can mean at the dyno's site. */
    recordedText: text(),
    recordedBy: at(),
  },
  (t) => [
    index('files_of_pull').on(t.pullId),
    index('pulls_of_file').on(t.sha256),
    uniqueIndex('one_current_file_a_pull')
      .on(t.pullId)
      .where(sql`${t.current}`),
    uniqueIndex('one_current_pull_a_file')
      .on(t.sha256)
      .where(sql`${t.current}`),
  ],
);

/**
 * Channels of a pull file in internal units, derived from its bytes by a reading that is named: little-endian doubles,
 * one a sample. Never changed; another reading stands beside.
 */
export const pullChannels = pgTable(
  'pull_channels',
  {
    pullFileId: uuid()
      .notNull()
      .references(() => pullFiles.id),
    reading: text().notNull(),
    quantity: text().$type<Quantity>().notNull(),
    values: bytea().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.pullFileId, t.reading, t.quantity] }),
    check('whole_doubles', sql`octet_length(${t.values}) > 0 and octet_length(${t.values}) % 8 = 0`),
  ],
);

/** Files of weather stations sent for a test, with what a person said of them; the bytes are raw files like any other. */
export const airFiles = pgTable(
  'air_files',
  {
    id: uuid().primaryKey(),
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    sha256: text()
      .notNull()
      .references(() => rawFiles.sha256),
    name: text().notNull(),
    said: jsonb().$type<AirFileSaid>().notNull(),
    sentAt: at().notNull(),
    sentBy: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [uniqueIndex('air_file_as_said').on(t.testId, t.sha256, t.said)],
);

/** Logs of several pulls sent for a test; the bytes are raw files like any other. Append-only. */
export const longLogs = pgTable(
  'long_logs',
  {
    id: uuid().primaryKey(),
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    sha256: text()
      .notNull()
      .references(() => rawFiles.sha256),
    name: text().notNull(),
    sentAt: at().notNull(),
    sentBy: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [uniqueIndex('long_log_once').on(t.testId, t.sha256)],
);

/** Air readings; a corrected reading is a new row. */
export const airReadings = pgTable(
  'air_readings',
  {
    id: uuid().primaryKey(),
    pullId: uuid()
      .notNull()
      .references(() => pulls.id),
    temperatureC: doublePrecision().notNull(),
    pressureHpa: doublePrecision().notNull(),
    pressureKind: text().$type<'station' | 'sea level'>().notNull(),
    humidityKind: text().$type<'relative' | 'dew point' | 'wet bulb'>().notNull(),
    humidityValue: doublePrecision().notNull(),
    enteredAt: at().notNull(),
    enteredBy: uuid()
      .notNull()
      .references(() => people.id),
    current: boolean().notNull().default(true),
    source: text().$type<AirSource>().notNull().default('typed'),
    /** The file it was joined from, and the lines on either side of the pull. */
    airFileId: uuid().references(() => airFiles.id),
    airLines: integer().array(),
    /** The recording during which a station said it (reference kept by a migration). */
    recordingId: uuid(),
  },
  (t) => [
    check('air_source_known', sql`${t.source} in ('typed', 'pasted', 'station file', 'live station')`),
    check(
      'air_of_a_file_names_it',
      sql`(${t.source} = 'station file') = (${t.airFileId} is not null and coalesce(cardinality(${t.airLines}), 0) between 1 and 2)`,
    ),
    check(
      'air_of_a_recording_names_it',
      sql`(${t.source} = 'live station') = (${t.recordingId} is not null)`,
    ),
    index('readings_of_pull').on(t.pullId),
    uniqueIndex('one_current_reading_a_pull')
      .on(t.pullId)
      .where(sql`${t.current}`),
  ],
);

/** Columns a person chose for files of one layout from one dyno, used again without asking. */
export const columnMemory = pgTable(
  'column_memory',
  {
    id: uuid().primaryKey(),
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    header: text().notNull(),
    columns: jsonb().$type<ColumnChoices>().notNull(),
    rememberedAt: at().notNull(),
    /** Who said so, and of which file; unknown of answers from before this was kept. */
    rememberedBy: uuid().references(() => people.id),
    fileName: text(),
    /** The shop whose files it is good for: the house, or the id of a partner's person. */
    shop: text().notNull().default('house'),
  },
  (t) => [unique('one_memory_a_layout').on(t.dynoId, t.header, t.shop)],
);
