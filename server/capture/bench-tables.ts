/** What was done at a dyno, as it happened: sessions, mountings, recordings and the operator’s record. */
import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  date,
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
import type { EntryBody, EntryKind, LinkShown, RecordingState } from '../../contract/capture/bench.ts';
import type { DeviceChannel } from '../../contract/capture/device-protocol.ts';
import type { RecordingSummary } from '../../core/capture/session/recording-summary.ts';
import type { DeviceKind } from '../../core/register/devices.ts';
import { at, people } from '../base/tables.ts';
import { pulls, tests } from '../plan/tables.ts';
import { dynos } from '../register/tables.ts';
import { rawFiles } from './tables.ts';

const by = () =>
  uuid()
    .notNull()
    .references(() => people.id);

/** A session of a test on a dyno on a day. One is open at a time, for a test and on a dyno. */
export const benchSessions = pgTable(
  'bench_sessions',
  {
    id: uuid().primaryKey(),
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    number: integer().notNull(),
    /** At the dyno’s site. */ day: date().notNull(),
    openedAt: at().notNull(),
    openedBy: by(),
    closedAt: at(),
    closedBy: uuid().references(() => people.id),
    /** What was still missing when it was closed, in the closer’s words. */ closingNote: text(),
  },
  (t) => [
    unique('session_of_test').on(t.testId, t.number),
    uniqueIndex('one_open_session_a_test')
      .on(t.testId)
      .where(sql`${t.closedAt} is null`),
    uniqueIndex('one_open_session_a_dyno')
      .on(t.dynoId)
      .where(sql`${t.closedAt} is null`),
    check('closed_whole', sql`(${t.closedAt} is null) = (${t.closedBy} is null)`),
  ],
);

/** Each strapping-down of the car; append-only. */
export const mountings = pgTable(
  'mountings',
  {
    id: uuid().primaryKey(),
    sessionId: uuid()
      .notNull()
      .references(() => benchSessions.id),
    number: integer().notNull(),
    at: at().notNull(),
    by: by(),
    note: text().notNull().default(''),
  },
  (t) => [unique('mounting_of_session').on(t.sessionId, t.number)],
);

/** Each pull that was asked for or came, with its true place in the order; what it becomes is said once each. */
export const recordings = pgTable(
  'recordings',
  {
    id: uuid().primaryKey(),
    sessionId: uuid()
      .notNull()
      .references(() => benchSessions.id),
    mountingId: uuid().references(() => mountings.id),
    /** Place on the run sheet; none for an extra pull. */ pullId: uuid().references(() => pulls.id),
    /** Arm on the car, as the operator says. */ arm: text().notNull(),
    state: text().$type<RecordingState>().notNull(),
    askedAt: at().notNull(),
    askedBy: by(),
    /** Name in the device’s own buffer. */ deviceKey: text(),
    /** True place in the session, from 1, aborted and extra pulls counted. */ order: integer(),
    beganAt: at(),
    endedAt: at(),
    channels: jsonb().$type<Partial<Record<DeviceKind, DeviceChannel[]>>>().notNull().default({}),
    /** How far the devices’ clocks were from ours when it began, ms. */
    clocksOff: jsonb().$type<Partial<Record<DeviceKind, number>>>().notNull().default({}),
    /** Samples the device says it has. */ samples: integer(),
    abortAsked: boolean().notNull().default(false),
    /** The file made of it, which stands for the pull; and the lines it was made from. */
    fileSha256: text().references(() => rawFiles.sha256),
    linesSha256: text().references(() => rawFiles.sha256),
    /** By how much the logger’s time was shifted to meet the dyno’s, s. */ logOffsetS: doublePrecision(),
    summary: jsonb().$type<RecordingSummary>(),
    /** Why no file could be made of it. */ problem: text(),
  },
  (t) => [
    index('recordings_of_session').on(t.sessionId, t.order),
    unique('recorded_once').on(t.sessionId, t.deviceKey),
    unique('one_recording_a_place_in_order').on(t.sessionId, t.order),
    uniqueIndex('one_whole_recording_a_pull')
      .on(t.pullId)
      .where(sql`${t.state} = 'complete'`),
    uniqueIndex('one_at_a_time')
      .on(t.sessionId)
      .where(sql`${t.state} in ('armed', 'running')`),
    check(
      'recording_state_known',
      sql`${t.state} in ('armed', 'running', 'complete', 'incomplete', 'aborted', 'withdrawn')`,
    ),
    check(
      'begun_has_its_place',
      sql`(${t.state} in ('armed', 'withdrawn')) = (${t.order} is null) and (${t.order} is null) = (${t.beganAt} is null)`,
    ),
    check('complete_has_its_file', sql`${t.state} <> 'complete' or ${t.fileSha256} is not null`),
  ],
);

/** Lines of a device as they came, in the order of their numbers; append-only. Sent again they are here already. */
export const recordingChunks = pgTable(
  'recording_chunks',
  {
    recordingId: uuid()
      .notNull()
      .references(() => recordings.id),
    device: text().$type<DeviceKind>().notNull(),
    from: integer().notNull(),
    count: integer().notNull(),
    /** One JSON line a sample, as it came. */ lines: text().notNull(),
    receivedAt: at().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.recordingId, t.device, t.from] }),
    check('chunk_has_lines', sql`${t.count} > 0 and ${t.lines} <> ''`),
  ],
);

/** What the operator wrote as it happened; append-only. The id is made on the device it was typed on. */
export const benchEntries = pgTable(
  'bench_entries',
  {
    id: uuid().primaryKey(),
    sessionId: uuid()
      .notNull()
      .references(() => benchSessions.id),
    kind: text().$type<EntryKind>().notNull(),
    /** The pull or the recording it is about; none for the session. */
    pullId: uuid().references(() => pulls.id),
    recordingId: uuid().references(() => recordings.id),
    body: jsonb().$type<EntryBody>().notNull(),
    /** When it was typed, by the clock of that device. */ saidAt: at().notNull(),
    enteredAt: at().notNull(),
    by: by(),
  },
  (t) => [index('entries_of_session').on(t.sessionId, t.enteredAt)],
);

/** Which server process speaks with the devices of a dyno, for as long as it says so again. */
export const benchLinks = pgTable('bench_links', {
  dynoId: uuid()
    .primaryKey()
    .references(() => dynos.id),
  holder: uuid().notNull(),
  until: at().notNull(),
  devices: jsonb().$type<LinkShown[]>().notNull().default([]),
});
