import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  check,
  date,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import type { Guard } from '../../core/base/guard.ts';
import type { BoostedSchool, Standard } from '../../core/base/standards.ts';
import type { Control } from '../../core/plan/controls.ts';
import type { PlannedSlope } from '../../core/plan/planned-slope.ts';
import type { StartSensor } from '../../core/register/temperature-slope.ts';
import type { PlanHours } from '../../core/plan/hours.ts';
import type { Metric } from '../../core/plan/metrics.ts';
import type { PlanDocument } from '../../core/plan/plan-document.ts';
import type { ProtocolKey } from '../../core/plan/protocols.ts';
import type { Difference, LedgerChange } from '../../core/register/ledger.ts';
import { at, people } from '../base/tables.ts';
import { controlVehicles, dynos, fitments, partRevisions, vehicles } from '../register/tables.ts';

/** A test. Its plan changes after the lock only by an amendment with a reason (trigger). */
export const tests = pgTable(
  'tests',
  {
    id: uuid().primaryKey(),
    number: integer().notNull().unique().generatedAlwaysAsIdentity(),
    question: text().notNull(),
    fitmentId: uuid()
      .notNull()
      .references(() => fitments.id),
    vehicleId: uuid()
      .notNull()
      .references(() => vehicles.id),
    /** The first part an arm is about; null where only a calibration or a condition is tested. */
    partRevisionId: uuid().references(() => partRevisions.id),
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    partnerId: uuid().references(() => people.id),
    /** The control vehicle that stands in for a return to the baseline. */
    controlId: uuid().references(() => controlVehicles.id),
    standard: text().$type<Standard>().notNull(),
    fromRpm: doublePrecision().notNull(),
    toRpm: doublePrecision().notNull(),
    stepRpm: doublePrecision().notNull(),
    smoothingRpm: doublePrecision().notNull(),
    confidence: doublePrecision().notNull(),
    /** Guard of the intervals of single numbers, from the policy the plan was made under. */
    guard: text().$type<Guard>().notNull().default('strict'),
    boostedSchool: text().$type<BoostedSchool>().notNull().default('correct'),
    /** The start temperature arms are compared by; the slope registered when the plan was locked. */
    startSensor: text().$type<StartSensor>(),
    startSlope: jsonb().$type<PlannedSlope>(),
    driftBound: doublePrecision().notNull(),
    /** The first of the metrics named, and all of them. */
    metric: text().$type<Metric>().notNull(),
    metrics: text()
      .array()
      .$type<Metric[]>()
      .notNull()
      .default(sql`'{}'`),
    protocol: text().$type<ProtocolKey>().notNull(),
    runOrder: text()
      .array()
      .notNull()
      .default(sql`'{}'`),
    pullsPerRun: integer().notNull(),
    warmUps: integer().notNull(),
    remount: boolean().notNull(),
    coolDownMinutes: doublePrecision().notNull().default(4),
    gear: text().notNull(),
    fuel: text().notNull(),
    calibration: text().notNull(),
    /** Tyres of the baseline, by the ledger, else by the vehicle's record. */ tyres: text()
      .notNull()
      .default(''),
    controls: jsonb().$type<Control[]>().notNull().default([]),
    photographs: text()
      .array()
      .notNull()
      .default(sql`'{}'`),
    logs: text()
      .array()
      .notNull()
      .default(sql`'{}'`),
    hours: jsonb().$type<PlanHours>(),
    blocks: jsonb().$type<{ minutes: number; pulls: number }[]>().notNull().default([]),
    gapMinutes: jsonb().$type<number[]>().notNull().default([]),
    notBefore: date(),
    due: date(),
    priority: integer().notNull().default(5),
    seriesId: uuid(),
    createdBy: uuid()
      .notNull()
      .references(() => people.id),
    createdAt: at().notNull(),
    lockedAt: at(),
    lockedBy: uuid().references(() => people.id),
    planHash: text(),
    amendmentCount: integer().notNull().default(0),
    /** The analysis of the inputs as they are; null until they are evaluated (a trigger clears it). */
    currentAnalysisId: uuid(),
    updatedAt: at().notNull(),
  },
  (t) => [
    check('guard_is_known', sql`${t.guard} in ('strict', 'usual')`),
    check(
      'boosted_school_is_known',
      sql`${t.boostedSchool} in ('correct', 'temperature only', 'do not correct')`,
    ),
    check('start_sensor_is_known', sql`${t.startSensor} in ('coolant', 'oil', 'cell air')`),
    check('slope_of_a_sensor', sql`${t.startSlope} is null or ${t.startSensor} is not null`),
    check('band_is_a_range', sql`${t.toRpm} > ${t.fromRpm} and ${t.stepRpm} > 0`),
    check(
      'locked_whole',
      sql`(${t.lockedAt} is null) = (${t.planHash} is null) and (${t.lockedAt} is null) = (${t.lockedBy} is null)`,
    ),
    check('one_way_names_its_control', sql`(${t.protocol} = 'one-way') = (${t.controlId} is not null)`),
    check('amended_after_lock', sql`${t.amendmentCount} = 0 or ${t.lockedAt} is not null`),
    index('tests_of_fitment').on(t.fitmentId),
    index('tests_of_vehicle').on(t.vehicleId),
    index('tests_of_series').on(t.seriesId),
    index('tests_of_dyno').on(t.dynoId),
    index('tests_of_partner')
      .on(t.partnerId)
      .where(sql`${t.partnerId} is not null`),
  ],
);

/** Arms of a test: configurations as changes to the vehicle, with what differed when the plan was made. */
export const testArms = pgTable(
  'test_arms',
  {
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    key: text().notNull(),
    position: integer().notNull(),
    label: text().notNull(),
    role: text().$type<'baseline' | 'part'>().notNull(),
    fromKey: text(),
    changes: jsonb().$type<LedgerChange[]>().notNull().default([]),
    partRevisionId: uuid().references(() => partRevisions.id),
    scope: text().notNull().default(''),
    scopeText: text().notNull().default(''),
    differences: jsonb().$type<Difference[]>().notNull().default([]),
  },
  (t) => [primaryKey({ columns: [t.testId, t.key] }), index('arms_of_revision').on(t.partRevisionId)],
);

/** Pulls of the run sheet, warm-up pulls included, at their true position in the session. */
export const pulls = pgTable(
  'pulls',
  {
    id: uuid().primaryKey(),
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    position: integer().notNull(),
    label: text().notNull(),
    run: integer().notNull(),
    arm: text().notNull(),
    mount: integer().notNull(),
    counted: boolean().notNull(),
    /** Number of the amendment that added the pull. */ amendment: integer(),
    /** The pull that this one repeats at the end of its run. */ repeats: uuid(),
    /** Number of the amendment that last moved it down the sheet to make room. */ movedBy: integer(),
    excludedReason: text(),
    excludedNote: text(),
    excludedBy: uuid().references(() => people.id),
    excludedAt: at(),
    excludedSeenResult: boolean(),
  },
  (t) => [
    unique('one_pull_a_position').on(t.testId, t.position),
    unique('one_pull_a_label').on(t.testId, t.label),
    foreignKey({
      name: 'pull_of_an_arm',
      columns: [t.testId, t.arm],
      foreignColumns: [testArms.testId, testArms.key],
    }),
    check(
      'excluded_whole',
      sql`(${t.excludedReason} is null) = (${t.excludedBy} is null) and (${t.excludedReason} is null) = (${t.excludedAt} is null)`,
    ),
  ],
);

/** What was left out and put back, with cause and person; append-only. A trigger carries the latest to the pull. */
export const pullExclusions = pgTable(
  'pull_exclusions',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    pullId: uuid()
      .notNull()
      .references(() => pulls.id),
    act: text().$type<'excluded' | 'restored'>().notNull(),
    reason: text().notNull(),
    note: text().notNull().default(''),
    personId: uuid()
      .notNull()
      .references(() => people.id),
    at: at().notNull(),
    seenResult: boolean().notNull(),
  },
  (t) => [
    index('exclusions_of_pull').on(t.pullId, t.id),
    check('exclusion_act_known', sql`${t.act} in ('excluded', 'restored')`),
  ],
);

/** The plan of a test as it was locked (version 1) and after each amendment, whole; append-only (trigger). */
export const planVersions = pgTable(
  'plan_versions',
  {
    testId: uuid()
      .notNull()
      .references(() => tests.id),
    version: integer().notNull(),
    at: at().notNull(),
    personId: uuid()
      .notNull()
      .references(() => people.id),
    /** Why it was amended; null for the first. */ reason: text(),
    changes: jsonb().$type<{ field: string; from: string; to: string }[]>().notNull().default([]),
    hash: text().notNull(),
    /** Null only for amendments made before versions were kept whole: of those the hash is all there is. */
    document: jsonb().$type<PlanDocument | Record<string, unknown>>(),
  },
  (t) => [
    primaryKey({ columns: [t.testId, t.version] }),
    check(
      'amended_for_a_reason',
      sql`case when ${t.version} = 1 then ${t.reason} is null else length(${t.reason}) >= 10 end`,
    ),
  ],
);

/** Tests of which a file has come in: written by trigger with the first, and never taken back. */
export const begunTests = pgTable('begun_tests', {
  testId: uuid()
    .primaryKey()
    .references(() => tests.id, { onDelete: 'cascade' }),
});

/** A session in its place. The database itself refuses a vehicle in two places (constraint in a migration). */
export const bookings = pgTable(
  'bookings',
  {
    testId: uuid()
      .primaryKey()
      .references(() => tests.id),
    vehicleId: uuid()
      .notNull()
      .references(() => vehicles.id),
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    startsAt: at().notNull(),
    endsAt: at().notNull(),
    placedBy: text().$type<'person' | 'suggestion'>().notNull(),
    personId: uuid()
      .notNull()
      .references(() => people.id),
    placedAt: at().notNull(),
  },
  (t) => [check('booking_is_a_span', sql`${t.endsAt} > ${t.startsAt}`)],
);
/** When the dyno is taken by a booking; no two blocks of one dyno overlap (constraint in a migration). */
export const bookingBlocks = pgTable(
  'booking_blocks',
  {
    testId: uuid()
      .notNull()
      .references(() => bookings.testId, { onDelete: 'cascade' }),
    block: integer().notNull(),
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    startsAt: at().notNull(),
    endsAt: at().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.testId, t.block] }),
    check('block_is_a_span', sql`${t.endsAt} > ${t.startsAt}`),
  ],
);
export const closures = pgTable(
  'closures',
  {
    id: uuid().primaryKey(),
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    startsAt: at().notNull(),
    endsAt: at().notNull(),
    reason: text().notNull(),
  },
  (t) => [
    check('closure_is_a_span', sql`${t.endsAt} > ${t.startsAt}`),
    index('closures_of_dyno').on(t.dynoId, t.startsAt),
  ],
);
