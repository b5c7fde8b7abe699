import { and, asc, count, eq, gt, inArray, or, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import {
  fitmentName,
  type ConfigurationShown,
  type LedgerEntryShown,
  type LedgerRequest,
  type PageQuery,
  type Planning,
  type Vehicle,
  type VehicleDetail,
  type VehicleInput,
} from '../../contract/register/register.ts';
import { grouped } from '../../core/base/grouped.ts';
import { configurationOn, isStock, odometerOn, type ServiceItem } from '../../core/register/ledger.ts';
import { recordAudit } from '../base/audit.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound, RefusalError } from '../base/refusals.ts';
import { people } from '../base/tables.ts';
import { noisyEndsOf } from './noisy-ends.ts';
import { listCalibrations } from './dynos.ts';
import { isWithheld, NO_DRIVE, partShown } from './embargo.ts';
import { keptDeep } from './references.ts';
import { changedFields, fitmentShown, staleVersion } from './fitments.ts';
import { matches } from './found-by.ts';
import { applications, fitments, partRevisions, parts, vehicleLedger, vehicles } from './tables.ts';
import { entryOf, stockOf, namesFor, changeText } from './ledger-names.ts';

import { writeLedger } from './ledger-write.ts';

export type VehicleService = ReturnType<typeof createVehicleService>;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createVehicleService(
  { db, now, newId }: Needs,
  /** Told when a ledger has a new entry. */ entered: (vehicleId: string) => Promise<void> = () =>
    Promise.resolve(),
) {
  const one = async (tx: Queryable, id: string) => {
    const [row] = await tx
      .select({ vehicle: vehicles, fitment: fitments })
      .from(vehicles)
      .innerJoin(fitments, eq(fitments.id, vehicles.fitmentId))
      .where(eq(vehicles.id, id));
    if (!row) throw notFound('vehicle');
    return row;
  };
  const ledgerOf = (tx: Queryable, ids: readonly string[]) =>
    tx
      .select({ entry: vehicleLedger, by: people.name })
      .from(vehicleLedger)
      .innerJoin(people, eq(people.id, vehicleLedger.enteredBy))
      .where(inArray(vehicleLedger.vehicleId, [...ids]))
      .orderBy(asc(vehicleLedger.at), asc(vehicleLedger.enteredAt));

  async function configuration(tx: Queryable, id: string, at: string): Promise<ConfigurationShown> {
    const { vehicle, fitment } = await one(tx, id);
    const rows = await ledgerOf(tx, [id]);
    const names = await namesFor(
      tx,
      rows.map((r) => r.entry.change),
    );
    const entries = rows.map((r) => entryOf(r.entry));
    const found = configurationOn(entries, at);
    const written = odometerOn(entries, at);
    const later = Date.parse(at) >= now().getTime() - 86_400_000;
    const odometerKm = later ? Math.max(vehicle.odometerKm, written ?? 0) : written;
    const stock = isStock(found, stockOf(fitment), at, odometerKm, names);
    return {
      at,
      configuration: found,
      stock,
      odometerKm,
      lines: [
        ...Object.entries(found.parts).map(([category, fitted]) => ({
          subject: category,
          text: names.part(fitted.partRevisionId, fitted.settings),
          since: fitted.since,
        })),
        {
          subject: 'calibration',
          text: found.calibrationId ? names.calibration(found.calibrationId) : 'stock',
          since: null,
        },
        { subject: 'tyres', text: found.tyres ?? 'not recorded', since: null },
        { subject: 'fuel', text: found.fuel ?? 'not recorded', since: null },
        ...found.otherChanges.map((text) => ({ subject: 'other change', text, since: null })),
        ...(Object.entries(found.service) as [ServiceItem, { at: string; odometerKm: number | null }][]).map(
          ([item, done]) => ({
            subject: item,
            text: `renewed${done.odometerKm === null ? '' : ` at ${grouped(done.odometerKm)} km`}`,
            since: done.at,
          }),
        ),
      ],
    };
  }

  return {
    configuration: (id: string, at: string, tx: Queryable = db) => configuration(tx, id, at),

    async page(query: PageQuery) {
      const filter = and(
        query.fitmentId ? eq(vehicles.fitmentId, query.fitmentId) : undefined,
        query.q
          ? or(
              sql`lower(${vehicles.tag}) like ${`%${query.q.toLowerCase().replace(/[\\%_]/g, '\\$&')}%`}`,
              matches(fitments.foundBy, query.q),
            )
          : undefined,
      );
      const after = readCursor(query.after, ['text']);
      const rows = await db
        .select({ vehicle: vehicles, fitment: fitments })
        .from(vehicles)
        .innerJoin(fitments, eq(fitments.id, vehicles.fitmentId))
        .where(and(filter, after ? gt(vehicles.tag, String(after[0])) : undefined))
        .orderBy(asc(vehicles.tag))
        .limit(query.limit + 1);
      const [{ total }] = await db
        .select({ total: count() })
        .from(vehicles)
        .innerJoin(fitments, eq(fitments.id, vehicles.fitmentId))
        .where(filter);
      const shown = rows.slice(0, query.limit);
      const ledger = shown.length
        ? await ledgerOf(
            db,
            shown.map((r) => r.vehicle.id),
          )
        : [];
      const names = await namesFor(
        db,
        ledger.map((r) => r.entry.change),
      );
      const at = now().toISOString();
      return {
        items: shown.map(({ vehicle, fitment }) => ({
          ...vehicle,
          fitment: fitmentName(fitment),
          stock: isStock(
            configurationOn(
              ledger.filter((r) => r.entry.vehicleId === vehicle.id).map((r) => entryOf(r.entry)),
              at,
            ),
            stockOf(fitment),
            at,
            vehicle.odometerKm,
            names,
          ).stock,
        })),
        next: rows.length > query.limit ? cursorOf([shown.at(-1)!.vehicle.tag]) : null,
        total,
      };
    },

    async detail(id: string): Promise<VehicleDetail> {
      const { vehicle, fitment } = await one(db, id);
      const rows = await ledgerOf(db, [id]);
      const names = await namesFor(
        db,
        rows.map((r) => r.entry.change),
      );
      const gone = new Set(rows.flatMap((r) => (r.entry.supersedes ? [r.entry.supersedes] : [])));
      return {
        vehicle,
        fitment: fitmentShown(fitment),
        ledger: rows
          .map(({ entry, by }): LedgerEntryShown => ({
            ...entryOf(entry),
            enteredBy: by,
            note: entry.note,
            superseded: gone.has(entry.id),
            text: changeText(entry.change, names),
          }))
          .reverse(),
      };
    },

    async create(person: Person, input: VehicleInput): Promise<Vehicle> {
      return db.transaction(async (tx) => {
        await refuseTwin(tx, input, undefined);
        const [row] = await tx
          .insert(vehicles)
          .values({ id: newId(), ...input })
          .returning();
        await recordAudit(tx, now(), person, 'added vehicle', 'vehicle', row.id, { tag: row.tag });
        return row;
      });
    },

    async update(person: Person, id: string, version: number, input: VehicleInput): Promise<Vehicle> {
      return db.transaction(async (tx) => {
        const { vehicle: before } = await one(tx, id);
        await refuseTwin(tx, input, id);
        if (before.fitmentId !== input.fitmentId)
          throw conflict(
            'FITMENT_FIXED',
            'A vehicle stays of the fitment it was registered for.',
            'Register it again under the other fitment, with a tag of its own.',
          );
        const [row] = await tx
          .update(vehicles)
          .set({ ...input, version: version + 1 })
          .where(and(eq(vehicles.id, id), eq(vehicles.version, version)))
          .returning();
        if (!row) throw staleVersion();
        await recordAudit(tx, now(), person, 'changed vehicle', 'vehicle', id, {
          tag: row.tag,
          changes: changedFields(before, row),
        });
        return row;
      });
    },

    /** Writes an entry into the ledger; one that puts another right supersedes it and says why. */
    async enter(person: Person, id: string, asked: LedgerRequest): Promise<void> {
      const request = await keptDeep(db, asked, person);
      await db.transaction((tx) => writeLedger(tx, { now, newId }, person, id, request));
      await entered(id);
    },

    /** Everything the planner needs of a vehicle: what is on it, and what could be put on it. */
    // eslint-disable-next-line max-lines-per-function -- what a plan is made of, kind by kind
    async planning(person: Person, id: string): Promise<Planning> {
      const { vehicle, fitment } = await one(db, id);
      const present = await configuration(db, id, now().toISOString());
      const fitted = Object.values(present.configuration.parts).map((p) => p.partRevisionId);
      const rows = await db
        .select({ revision: partRevisions, part: parts, fits: applications.partId })
        .from(partRevisions)
        .innerJoin(parts, eq(parts.id, partRevisions.partId))
        .leftJoin(
          applications,
          and(eq(applications.partId, parts.id), eq(applications.fitmentId, fitment.id)),
        )
        .where(
          or(
            sql`${applications.partId} is not null`,
            fitted.length ? inArray(partRevisions.id, fitted) : undefined,
          ),
        )
        .orderBy(asc(parts.category), asc(parts.name), asc(partRevisions.createdAt));
      // What those parts need may be listed for no fitment of its own; it is needed to name and to fit it.
      const have = new Set(rows.map((r) => r.part.id));
      const missing = [
        ...new Set(rows.flatMap((r) => [...r.revision.needs.partIds, ...r.revision.conflicts])),
      ].filter((p) => !have.has(p));
      const more = missing.length
        ? await db
            .select({ revision: partRevisions, part: parts })
            .from(partRevisions)
            .innerJoin(parts, eq(parts.id, partRevisions.partId))
            .where(inArray(parts.id, missing))
        : [];
      const tunes = (await listCalibrations(db, person, now())).filter(
        (c) => c.fitmentId === null || c.fitmentId === fitment.id,
      );
      return {
        fitment: fitmentShown(fitment),
        vehicle,
        present,
        calibrations: tunes,
        noisyEnds: await noisyEndsOf(db, id),
        revisions: [...rows, ...more.map((r) => ({ ...r, fits: null }))].map(({ revision, part, fits }) => {
          const shown = partShown(part, person, now());
          return {
            id: revision.id,
            partId: part.id,
            sku: shown.sku,
            maker: shown.maker,
            name: shown.name,
            category: part.category,
            revision: revision.revision,
            options: revision.options.map((o) => ({ ...o, settings: [...o.settings] })),
            needs: { ...revision.needs, partIds: [...revision.needs.partIds] },
            conflicts: revision.conflicts,
            installHours: revision.installHours,
            removeHours: revision.removeHours,
            irreversibleSteps: revision.irreversibleSteps,
            driveCrankMm: revision.driveCrankMm,
            driveHeadMm: revision.driveHeadMm,
            driveStepUp: revision.driveStepUp,
            mostDriveRpm: revision.mostDriveRpm,
            ...(isWithheld(part, person, now()) ? NO_DRIVE : {}),
            fits: fits !== null,
          };
        }),
      };
    },
  };
}

async function refuseTwin(tx: Queryable, input: VehicleInput, own: string | undefined): Promise<void> {
  if (
    (await tx.select({ id: fitments.id }).from(fitments).where(eq(fitments.id, input.fitmentId))).length === 0
  )
    throw new RefusalError(
      422,
      'UNKNOWN_FITMENT',
      'This fitment is not in the register.',
      'Choose one from the list.',
      { path: 'fitmentId' },
    );
  const [twin] = await tx
    .select({ id: vehicles.id })
    .from(vehicles)
    .where(
      and(sql`lower(${vehicles.tag}) = lower(${input.tag})`, own ? sql`${vehicles.id} <> ${own}` : undefined),
    );
  if (twin)
    throw conflict(
      'TAG_TAKEN',
      `A vehicle with the tag “${input.tag}” is in the register already.`,
      'Give another tag.',
      { id: twin.id },
    );
}
