import {
  bigserial,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
  varchar,
  json,
} from 'drizzle-orm/pg-core';
import type { Policy } from '../../core/base/policy.ts';

export const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
export const at = (name?: string) =>
  name
    ? timestamp(name, { withTimezone: true, mode: 'date' })
    : timestamp({ withTimezone: true, mode: 'date' });

export const people = pgTable('people', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  email: text().notNull().unique(),
  role: text().notNull(),
  passwordHash: text().notNull(),
  clearance: boolean().notNull().default(false),
  does: text().notNull().default(''),
  active: boolean().notNull().default(true),
  createdAt: at().notNull(),
});

/** What people have chosen for themselves: units, views of lists. */
export const personChoices = pgTable(
  'person_choices',
  {
    personId: uuid()
      .notNull()
      .references(() => people.id),
    name: text().notNull(),
    value: jsonb().notNull(),
    changedAt: at().notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.name] })],
);

/** Sessions of the web application; the layout is connect-pg-simple's. */
export const webSessions = pgTable(
  'web_sessions',
  {
    sid: varchar().primaryKey(),
    sess: json().notNull(),
    expire: timestamp({ precision: 6 }).notNull(),
  },
  (t) => [index('web_sessions_expire').on(t.expire)],
);

/** Tries to sign in of the last thirty days, for every server to count alike. */
export const signInTries = pgTable(
  'sign_in_tries',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    email: text().notNull(),
    address: text().notNull(),
    at: at().notNull(),
    isRight: boolean().notNull(),
  },
  (t) => [index('tries_from_a_place').on(t.address, t.at), index('tries_by_age').on(t.at)],
);

/**
 * Deeds that were sent with a key, of the last days: one that is sent again under its key is not done again. Kept in the
 * transaction of the deed; the answer comes after it.
 */
export const keptRequests = pgTable(
  'kept_requests',
  {
    personId: uuid()
      .notNull()
      .references(() => people.id),
    key: text().notNull(),
    at: at().notNull(),
    /** Method, path and hash of what was sent. */
    deed: text().notNull(),
    status: integer(),
    /** The answer as it was before names were put in for the person. */
    answer: text(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.key] }), index('kept_requests_by_age').on(t.at)],
);

/** How far a server is with what a person waits for; unlogged, and gone when it is done. */
export const underWays = pgTable(
  'under_ways',
  {
    personId: uuid()
      .notNull()
      .references(() => people.id),
    path: text().notNull(),
    done: integer().notNull(),
    total: integer().notNull(),
    at: at().notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.path] })],
);

/** One entry for every change; append-only by trigger. */
export const auditEntries = pgTable(
  'audit_entries',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    at: at().notNull(),
    personId: uuid().references(() => people.id),
    personName: text().notNull(),
    action: text().notNull(),
    subjectKind: text().notNull(),
    subjectId: text().notNull(),
    detail: jsonb().$type<Record<string, unknown>>().notNull().default({}),
  },
  (t) => [index('audit_subject').on(t.subjectKind, t.subjectId)],
);

/** What an analysis can rest on. */
export const INPUT_KINDS = [
  'file',
  'air',
  'exclusion',
  'session',
  'answer',
  'plan',
  'ledger',
  'vehicle',
  'part revision',
  'calibration',
  'fitment',
  'dyno',
  'sensor',
  'control',
  'other tests',
  'policy',
  'software',
] as const;
export type InputKind = (typeof INPUT_KINDS)[number];
/** Subject of the inputs that the whole house shares. */
export const HOUSE_SUBJECT = '00000000-0000-0000-0000-000000000000';

/** Present version of every input that has ever changed; counted by triggers, in the transaction of the change. */
export const inputVersions = pgTable(
  'input_versions',
  {
    kind: text().$type<InputKind>().notNull(),
    subjectId: uuid().notNull(),
    version: integer().notNull(),
  },
  (t) => [primaryKey({ columns: [t.kind, t.subjectId] })],
);

/** Every change of an input, append-only; written by triggers. */
export const inputChanges = pgTable(
  'input_changes',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    kind: text().$type<InputKind>().notNull(),
    subjectId: uuid().notNull(),
    version: integer().notNull(),
    at: at().notNull(),
    /** From when on what it says holds; null for always. */
    effectiveFrom: at(),
    what: text().notNull(),
  },
  (t) => [index('input_changes_of').on(t.kind, t.subjectId, t.version)],
);

/** House policy as it was from when on; the newest holds. Append-only. */
export const policies = pgTable('policies', {
  version: text().primaryKey(),
  number: integer().notNull().unique(),
  body: jsonb().$type<Policy>().notNull(),
  reason: text().notNull(),
  enteredAt: at().notNull(),
  enteredBy: uuid().references(() => people.id),
});

/** Versions of the computing that this database has served with. Append-only. */
export const softwareVersions = pgTable('software_versions', {
  version: text().primaryKey(),
  firstServedAt: at().notNull(),
});
