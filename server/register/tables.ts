import { doublePrecision, integer, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { Engine, Standard } from '../../core/base/standards.ts';
import type { Repeatability } from '../../core/register/repeatability.ts';

export const fitments = pgTable('fitments', {
  id: uuid().primaryKey(), slug: text().notNull().unique(), maker: text().notNull(), model: text().notNull(), platformCode: text().notNull(),
  yearFrom: integer().notNull(), yearTo: integer(), engineCode: text().notNull(), displacementCc: integer().notNull(), cylinders: integer().notNull(),
  aspiration: text().$type<Engine['aspiration']>().notNull(), ignition: text().$type<Engine['ignition']>().notNull(), fuel: text().notNull(), transmission: text().notNull(),
  drivenWheels: text().notNull(), outputVariant: text().notNull(), market: text().notNull(), ratedPowerKw: doublePrecision().notNull(), ratedTorqueNm: doublePrecision().notNull(),
  ratedStandard: text().notNull(), family: text().notNull(),
});

export const vehicles = pgTable('vehicles', {
  id: uuid().primaryKey(), fitmentId: uuid().notNull().references(() => fitments.id), tag: text().notNull().unique(), odometerKm: integer().notNull(), note: text().notNull().default(''),
});

export const parts = pgTable('parts', { id: uuid().primaryKey(), sku: text().notNull().unique(), maker: text().notNull(), name: text().notNull(), category: text().notNull() });
export const partRevisions = pgTable('part_revisions', {
  id: uuid().primaryKey(), partId: uuid().notNull().references(() => parts.id), revision: text().notNull(),
}, (t) => [unique('one_row_a_revision').on(t.partId, t.revision)]);

export const dynos = pgTable('dynos', {
  id: uuid().primaryKey(), name: text().notNull().unique(), site: text().notNull(), kind: text().notNull(), siteHeightM: doublePrecision().notNull(),
  appliesStandard: text().$type<Standard>().notNull(), repeatability: jsonb().$type<Repeatability>().notNull(),
});
