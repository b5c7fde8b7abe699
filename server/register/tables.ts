import { sql } from 'drizzle-orm';
import {
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
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { DynoInput } from '../../contract/register/register.ts';
import type { Engine, Standard } from '../../core/base/standards.ts';
import type { DeviceKind } from '../../core/register/devices.ts';
import type { LedgerChange } from '../../core/register/ledger.ts';
import type {
  LegalClass,
  PartCategory,
  PartNeeds,
  PartOption,
  Promise as PartPromise,
} from '../../core/register/parts.ts';
import type { UsePoint } from '../../core/register/use-profile.ts';
import type { Repeatability } from '../../core/register/repeatability.ts';
import { at, people } from '../base/tables.ts';

/** Facts of a dyno that a result rests on. */
export interface DynoFacts {
  readonly name: string;
  readonly kind: string;
  readonly siteHeightM: number;
  readonly appliesStandard: Standard;
  readonly repeatability: Repeatability;
  readonly driftBound: number | null;
  readonly rollerRadiusM: number | null;
  readonly timeZone: string;
}

/** Rows that people edit carry a version: who saves an older one is told. */
const version = () => integer().notNull().default(1);

export const fitments = pgTable(
  'fitments',
  {
    id: uuid().primaryKey(),
    slug: text().notNull().unique(),
    maker: text().notNull(),
    model: text().notNull(),
    platformCode: text().notNull(),
    yearFrom: integer().notNull(),
    yearTo: integer(),
    engineCode: text().notNull(),
    displacementCc: integer().notNull(),
    cylinders: integer().notNull(),
    aspiration: text().$type<Engine['aspiration']>().notNull(),
    ignition: text().$type<Engine['ignition']>().notNull(),
    fuel: text().notNull(),
    transmission: text().notNull(),
    drivenWheels: text().$type<'front' | 'rear' | 'all'>().notNull(),
    outputVariant: text().notNull(),
    market: text().notNull(),
    ratedPowerKw: doublePrecision().notNull(),
    ratedTorqueNm: doublePrecision().notNull(),
    ratedStandard: text().notNull(),
    family: text().notNull(),
    stockTyres: text(),
    unitsPerYear: integer().notNull().default(0),
    /** What it is found by; written with the row, searched by trigrams (index in a migration). */
    foundBy: text().notNull().default(''),
    version: version(),
  },
  (t) => [
    index('fitments_in_order').on(t.maker, t.model, t.outputVariant, t.market, t.id),
    index('fitments_family').on(t.family),
    index('fitments_engine').on(t.engineCode),
  ],
);

export const vehicles = pgTable(
  'vehicles',
  {
    id: uuid().primaryKey(),
    fitmentId: uuid()
      .notNull()
      .references(() => fitments.id),
    tag: text().notNull().unique(),
    odometerKm: integer().notNull(),
    note: text().notNull().default(''),
    owner: text().$type<'house' | 'loan' | 'customer' | 'partner'>().notNull().default('house'),
    wheels: text().notNull().default(''),
    finalDrive: doublePrecision(),
    gears: jsonb().$type<{ name: string; ratio: number }[]>().notNull().default([]),
    availableFrom: date(),
    availableTo: date(),
    version: version(),
  },
  (t) => [
    check(
      'there_before_gone',
      sql`${t.availableFrom} is null or ${t.availableTo} is null or ${t.availableTo} >= ${t.availableFrom}`,
    ),
    index('vehicles_fitment').on(t.fitmentId),
    index('vehicles_by_tag').using('gin', sql`plain_words(${t.tag}) gin_trgm_ops`),
  ],
);

export const parts = pgTable(
  'parts',
  {
    id: uuid().primaryKey(),
    sku: text().notNull().unique(),
    maker: text().notNull(),
    name: text().notNull(),
    category: text().$type<PartCategory>().notNull(),
    promise: text().$type<PartPromise>().notNull().default('power'),
    priceCents: integer(),
    currency: text().notNull().default('EUR'),
    launchDate: date(),
    legal: jsonb().$type<{ market: string; class: LegalClass }[]>().notNull().default([]),
    embargoUntil: date(),
    codeName: text(),
    note: text().notNull().default(''),
    foundBy: text().notNull().default(''),
    version: version(),
  },
  (t) => [
    check('embargoed_has_code_name', sql`${t.embargoUntil} is null or length(${t.codeName}) >= 3`),
    index('parts_in_order').on(t.name, t.sku),
    index('parts_embargo').on(t.embargoUntil),
  ],
);

/** A revision is written once (trigger): what changes is a new revision. */
export const partRevisions = pgTable(
  'part_revisions',
  {
    id: uuid().primaryKey(),
    partId: uuid()
      .notNull()
      .references(() => parts.id),
    revision: text().notNull(),
    releasedOn: date(),
    changeNote: text().notNull().default(''),
    options: jsonb().$type<PartOption[]>().notNull().default([]),
    needs: jsonb().$type<PartNeeds>().notNull().default({ partIds: [], calibration: false, fuel: null }),
    conflicts: jsonb().$type<string[]>().notNull().default([]),
    weightKg: doublePrecision(),
    driveCrankMm: doublePrecision(),
    driveHeadMm: doublePrecision(),
    driveStepUp: doublePrecision(),
    mostDriveRpm: doublePrecision(),
    installHours: doublePrecision().notNull().default(1),
    removeHours: doublePrecision().notNull().default(0.5),
    specialTools: text().notNull().default(''),
    irreversibleSteps: text().notNull().default(''),
    replaceOnInstall: jsonb().$type<string[]>().notNull().default([]),
    createdAt: at()
      .notNull()
      .default(sql`now()`),
    createdBy: uuid().references(() => people.id),
  },
  (t) => [
    unique('one_row_a_revision').on(t.partId, t.revision),
    check(
      'drive_is_above_zero',
      sql`least(${t.driveCrankMm}, ${t.driveHeadMm}, ${t.driveStepUp}, ${t.mostDriveRpm}) > 0`,
    ),
  ],
);

export const calibrations = pgTable(
  'calibrations',
  {
    id: uuid().primaryKey(),
    name: text().notNull(),
    revision: text().notNull(),
    fileHash: text().notNull(),
    fileName: text().notNull().default(''),
    fitmentId: uuid().references(() => fitments.id),
    fuel: text(),
    ethanolPct: doublePrecision(),
    expectsPartRevisionIds: jsonb().$type<string[]>().notNull().default([]),
    note: text().notNull().default(''),
    createdAt: at().notNull(),
    createdBy: uuid().references(() => people.id),
  },
  (t) => [
    unique('one_row_a_calibration').on(t.name, t.revision),
    check('hash_is_sha256', sql`${t.fileHash} ~ '^[0-9a-f]{64}$'`),
  ],
);

/** What was done on a vehicle, when; append-only (trigger). A wrong entry is superseded by another. */
export const vehicleLedger = pgTable(
  'vehicle_ledger',
  {
    id: uuid().primaryKey(),
    vehicleId: uuid()
      .notNull()
      .references(() => vehicles.id),
    at: at().notNull(),
    odometerKm: integer(),
    change: jsonb().$type<LedgerChange>(),
    note: text().notNull().default(''),
    supersedes: uuid(),
    enteredAt: at().notNull(),
    enteredBy: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [
    index('ledger_of_vehicle').on(t.vehicleId, t.at),
    uniqueIndex('superseded_once')
      .on(t.supersedes)
      .where(sql`${t.supersedes} is not null`),
    check('says_something', sql`${t.change} is not null or ${t.supersedes} is not null`),
  ],
);

/** Which part fits which fitment. */
export const applications = pgTable(
  'applications',
  {
    partId: uuid()
      .notNull()
      .references(() => parts.id),
    fitmentId: uuid()
      .notNull()
      .references(() => fitments.id),
  },
  (t) => [primaryKey({ columns: [t.partId, t.fitmentId] }), index('applications_of_fitment').on(t.fitmentId)],
);

export const dynos = pgTable('dynos', {
  id: uuid().primaryKey(),
  name: text().notNull().unique(),
  site: text().notNull(),
  kind: text().notNull(),
  siteHeightM: doublePrecision().notNull(),
  appliesStandard: text().$type<Standard>().notNull(),
  repeatability: jsonb().$type<Repeatability>().notNull(),
  drive: text().$type<'two-wheel' | 'four-wheel'>().notNull().default('two-wheel'),
  cell: text().$type<'enclosed' | 'open'>().notNull().default('enclosed'),
  fan: text().notNull().default(''),
  samplingHz: doublePrecision(),
  lastCalibratedOn: date(),
  timeZone: text().notNull().default('UTC'),
  hourlyRate: doublePrecision().notNull().default(0),
  labourRate: doublePrecision().notNull().default(0),
  currency: text().notNull().default('EUR'),
  driftBound: doublePrecision(),
  opening: jsonb().$type<DynoInput['opening']>().notNull().default([]),
  rollerRadiusM: doublePrecision(),
  /** From when on what is entered holds: now, or earlier where an entry corrects the record. */
  factsFrom: at()
    .notNull()
    .default(sql`'1970-01-01T00:00:00Z'`),
  version: version(),
});

/**
 * Control vehicles of a dyno: cars on which nothing is changed, and how every check of one is read. Append-only; one
 * that is begun anew replaces the former.
 */
export const controlVehicles = pgTable(
  'control_vehicles',
  {
    id: uuid().primaryKey(),
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    vehicleId: uuid()
      .notNull()
      .references(() => vehicles.id),
    standard: text().$type<Standard>().notNull(),
    fromRpm: doublePrecision().notNull(),
    toRpm: doublePrecision().notNull(),
    gear: text().notNull(),
    /** The one that is begun anew, and why. */ replaces: uuid(),
    reason: text().notNull().default(''),
    enteredAt: at().notNull(),
    enteredBy: uuid()
      .notNull()
      .references(() => people.id),
  },
  (t) => [
    foreignKey({ columns: [t.replaces], foreignColumns: [t.id] }),
    uniqueIndex('control_replaced_once')
      .on(t.replaces)
      .where(sql`${t.replaces} is not null`),
    uniqueIndex('control_vehicle_once')
      .on(t.dynoId, t.vehicleId)
      .where(sql`${t.replaces} is null`),
    check('control_band_is_a_range', sql`${t.toRpm} - ${t.fromRpm} >= 1000`),
    check('control_replaced_for_a_reason', sql`(${t.replaces} is null) = (${t.reason} = '')`),
  ],
);

/** Where a dyno’s own devices are spoken to (docs/devices.md): one of each kind at most. */
export const dynoDevices = pgTable(
  'dyno_devices',
  {
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    kind: text().$type<DeviceKind>().notNull(),
    host: text().notNull(),
    port: integer().notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.dynoId, t.kind] }),
    check('device_kind_known', sql`${t.kind} in ('dyno', 'station', 'logger')`),
    check('port_is_one', sql`${t.port} between 1 and 65535`),
  ],
);

/** What a result reads of a dyno, as it was entered; append-only, written by a trigger. */
export const dynoVersions = pgTable(
  'dyno_versions',
  {
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    number: integer().notNull(),
    validFrom: at().notNull(),
    facts: jsonb().$type<DynoFacts>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.dynoId, t.number] })],
);

export const sensors = pgTable(
  'sensors',
  {
    id: uuid().primaryKey(),
    dynoId: uuid()
      .notNull()
      .references(() => dynos.id),
    quantity: text().notNull(),
    serial: text().notNull(),
    uncertainty: doublePrecision().notNull(),
    unit: text().notNull(),
    calibratedOn: date().notNull(),
    dueOn: date(),
    note: text().notNull().default(''),
    removed: boolean().notNull().default(false),
    /** Since when it reads no more, or is known by a newer calibration. */ removedAt: at(),
  },
  (t) => [
    index('sensors_of_dyno').on(t.dynoId),
    check('uncertainty_above_zero', sql`${t.uncertainty} > 0`),
    check('removed_at_some_time', sql`${t.removed} = (${t.removedAt} is not null)`),
  ],
);

/** Weights over engine speed by which a gain is averaged for a use. Versions are only added; the newest holds. */
export const useProfileVersions = pgTable(
  'use_profile_versions',
  {
    profileId: uuid().notNull(),
    number: integer().notNull(),
    name: text().notNull(),
    note: text().notNull().default(''),
    points: jsonb().$type<UsePoint[]>().notNull(),
    retired: boolean().notNull().default(false),
    createdAt: at().notNull(),
    createdBy: uuid().references(() => people.id),
  },
  (t) => [
    primaryKey({ columns: [t.profileId, t.number] }),
    check('use_versions_count', sql`${t.number} >= 1`),
    check('use_has_points', sql`jsonb_array_length(${t.points}) between 2 and 20`),
  ],
);
