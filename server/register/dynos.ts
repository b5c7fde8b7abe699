import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import {
  fitmentName,
  type Calibration,
  type CalibrationInput,
  type Dyno,
  type DynoDetail,
  type DynoInput,
  type Register,
  type SensorInput,
} from '../../contract/register/register.ts';
import type { Device } from '../../contract/register/devices.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound, RefusalError } from '../base/refusals.ts';
import { people } from '../base/tables.ts';
import { startOfDayAt } from '../../core/base/site-time.ts';
import { partShown } from './embargo.ts';
import { keptDeep } from './references.ts';
import { changedFields, staleVersion } from './fitments.ts';
import { calibrations, dynoDevices, dynos, fitments, partRevisions, parts, sensors } from './tables.ts';

export type DynoService = ReturnType<typeof createDynoService>;

export async function listCalibrations(db: Queryable, person: Person, now: Date): Promise<Calibration[]> {
  const rows = await db
    .select({ calibration: calibrations, fitment: fitments })
    .from(calibrations)
    .leftJoin(fitments, eq(fitments.id, calibrations.fitmentId))
    .orderBy(asc(calibrations.name), desc(calibrations.createdAt));
  const wanted = [...new Set(rows.flatMap((r) => r.calibration.expectsPartRevisionIds))];
  const revisions = wanted.length
    ? await db
        .select({ revision: partRevisions, part: parts })
        .from(partRevisions)
        .innerJoin(parts, eq(parts.id, partRevisions.partId))
        .where(inArray(partRevisions.id, wanted))
    : [];
  const names = new Map(
    revisions.map(({ revision, part }) => [
      revision.id,
      `${partShown(part, person, now).name}, revision ${revision.revision}`,
    ]),
  );
  return rows.map(({ calibration, fitment }) => ({
    ...calibration,
    createdAt: calibration.createdAt.toISOString(),
    fitment: fitment ? fitmentName(fitment) : null,
    expects: calibration.expectsPartRevisionIds.map((id) => names.get(id) ?? 'a part'),
  }));
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createDynoService({ db, now, newId }: Needs) {
  const one = async (tx: Queryable, id: string) => {
    const [row] = await tx.select().from(dynos).where(eq(dynos.id, id));
    if (!row) throw notFound('dyno');
    return row;
  };
  const refuseTwin = async (tx: Queryable, name: string, own?: string): Promise<void> => {
    const [twin] = await tx.select({ id: dynos.id }).from(dynos).where(eq(dynos.name, name));
    if (twin && twin.id !== own)
      throw conflict(
        'NAME_TAKEN',
        `A dyno called “${name}” is in the register already.`,
        'Give another name.',
      );
  };
  const checkZone = (input: Pick<DynoInput, 'timeZone'>): void => {
    try {
      new Intl.DateTimeFormat('en', { timeZone: input.timeZone });
    } catch {
      throw new RefusalError(
        422,
        'UNKNOWN_TIME_ZONE',
        `“${input.timeZone}” is not a time zone.`,
        'Write it as Europe/Oslo or UTC.',
        { path: 'timeZone' },
      );
    }
  };
  return {
    /** What a plan is chosen from that is few enough to be read whole. */
    async register(person: Person): Promise<Register> {
      return {
        dynos: await db.select().from(dynos).orderBy(asc(dynos.name)),
        calibrations: await listCalibrations(db, person, now()),
        partners: await db
          .select({ id: people.id, name: people.name })
          .from(people)
          .where(and(eq(people.role, 'partner shop'), eq(people.active, true))),
        families: (
          await db.selectDistinct({ family: fitments.family }).from(fitments).orderBy(asc(fitments.family))
        ).map((f) => f.family),
      };
    },
    async detail(id: string): Promise<DynoDetail> {
      const list = await db
        .select()
        .from(sensors)
        .where(and(eq(sensors.dynoId, id), eq(sensors.removed, false)))
        .orderBy(asc(sensors.quantity), asc(sensors.serial));
      return {
        dyno: await one(db, id),
        sensors: list.map(({ removed: _, removedAt: __, ...sensor }) => sensor),
        devices: await db
          .select({ kind: dynoDevices.kind, host: dynoDevices.host, port: dynoDevices.port })
          .from(dynoDevices)
          .where(eq(dynoDevices.dynoId, id))
          .orderBy(asc(dynoDevices.kind)),
      };
    },
    async create(person: Person, { validFrom: _, ...input }: DynoInput): Promise<Dyno> {
      checkZone(input);
      return db.transaction(async (tx) => {
        await refuseTwin(tx, input.name);
        const [row] = await tx
          .insert(dynos)
          .values({ id: newId(), ...input })
          .returning();
        await recordAudit(tx, now(), person, 'added dyno', 'dyno', row.id, { name: row.name });
        return row;
      });
    },
    async update(person: Person, id: string, version: number, asked: DynoInput): Promise<Dyno> {
      const { validFrom, ...input } = asked;
      checkZone(asked);
      return db.transaction(async (tx) => {
        const before = await one(tx, id);
        await refuseTwin(tx, input.name, id);
        const [row] = await tx
          .update(dynos)
          .set({
            ...input,
            factsFrom: validFrom ? new Date(startOfDayAt(validFrom, input.timeZone)) : now(),
            version: version + 1,
          })
          .where(and(eq(dynos.id, id), eq(dynos.version, version)))
          .returning();
        if (!row) throw staleVersion();
        await recordAudit(tx, now(), person, 'changed dyno', 'dyno', id, {
          name: row.name,
          changes: changedFields(before, row),
        });
        return row;
      });
    },
    /** Enters a sensor, or a newer calibration of one: a sensor of the same serial number is replaced and stays in the trail. */
    async sensor(person: Person, dynoId: string, input: SensorInput): Promise<void> {
      await db.transaction(async (tx) => {
        const dyno = await one(tx, dynoId);
        await tx
          .update(sensors)
          .set({ removed: true, removedAt: now() })
          .where(
            and(
              eq(sensors.removed, false),
              eq(sensors.dynoId, dynoId),
              eq(sensors.serial, input.serial),
              eq(sensors.quantity, input.quantity),
            ),
          );
        await tx.insert(sensors).values({ id: newId(), dynoId, ...input });
        await recordAudit(tx, now(), person, 'entered sensor', 'dyno', dynoId, { name: dyno.name, ...input });
      });
    },
    /** Says where the devices of a dyno are; those not named are taken away. */
    async setDevices(person: Person, dynoId: string, devices: readonly Device[]): Promise<void> {
      await db.transaction(async (tx) => {
        const dyno = await one(tx, dynoId);
        await tx.delete(dynoDevices).where(eq(dynoDevices.dynoId, dynoId));
        if (devices.length > 0)
          await tx.insert(dynoDevices).values(devices.map((device) => ({ dynoId, ...device })));
        await recordAudit(tx, now(), person, 'named devices', 'dyno', dynoId, { name: dyno.name, devices });
      });
    },
    async removeSensor(person: Person, dynoId: string, id: string): Promise<void> {
      await db.transaction(async (tx) => {
        const [row] = await tx
          .update(sensors)
          .set({ removed: true, removedAt: now() })
          .where(and(eq(sensors.id, id), eq(sensors.dynoId, dynoId), eq(sensors.removed, false)))
          .returning();
        if (!row) throw notFound('sensor');
        await recordAudit(tx, now(), person, 'removed sensor', 'dyno', dynoId, {
          quantity: row.quantity,
          serial: row.serial,
        });
      });
    },
    async addCalibration(person: Person, asked: CalibrationInput): Promise<Calibration> {
      const input = await keptDeep(db, asked, person);
      await db.transaction(async (tx) => {
        const [twin] = await tx
          .select()
          .from(calibrations)
          .where(and(eq(calibrations.name, input.name), eq(calibrations.revision, input.revision)));
        if (twin)
          throw conflict(
            'CALIBRATION_THERE_ALREADY',
            `Calibration ${input.name}, revision ${input.revision}, is there already and stays as it is.`,
            'Give the changed file a revision of its own.',
          );
        const [same] = await tx.select().from(calibrations).where(eq(calibrations.fileHash, input.fileHash));
        if (same)
          throw conflict(
            'SAME_CALIBRATION_FILE',
            `This very file is registered as ${same.name}, revision ${same.revision}.`,
            'Use that one, or choose the changed file.',
          );
        if (
          input.fitmentId &&
          (await tx.select({ id: fitments.id }).from(fitments).where(eq(fitments.id, input.fitmentId)))
            .length === 0
        )
          throw notFound('fitment');
        if (
          input.expectsPartRevisionIds.length &&
          (
            await tx
              .select({ id: partRevisions.id })
              .from(partRevisions)
              .where(inArray(partRevisions.id, input.expectsPartRevisionIds))
          ).length !== new Set(input.expectsPartRevisionIds).size
        )
          throw notFound('part revision');
        const id = newId();
        await tx.insert(calibrations).values({ id, ...input, createdAt: now(), createdBy: person.id });
        await recordAudit(tx, now(), person, 'added calibration', 'calibration', id, {
          name: input.name,
          revision: input.revision,
          fileHash: input.fileHash,
        });
      });
      return (await listCalibrations(db, person, now())).find(
        (c) => c.name === input.name && c.revision === input.revision,
      )!;
    },
  };
}
