import {
  bigserial,
  boolean,
  customType,
  index,
  jsonb,
  pgTable,
  text,
  timestamp,
  uuid,
  varchar,
  json,
} from 'drizzle-orm/pg-core';

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
