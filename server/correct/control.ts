/** Control vehicles of a dyno: naming one, measuring it, crossing out what was at fault, and its chart. */
import { and, desc, eq, inArray } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type {
  ControlCheckRequest,
  ControlShown,
  ControlVehicleRequest,
} from '../../contract/register/control.ts';
import { momentRecorded } from '../../core/capture/moments.ts';
import type { Recorded } from '../../core/capture/recorded.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { policyInForce } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound, RefusalError } from '../base/refusals.ts';
import { sha256Of } from '../base/sha256.ts';
import { keepBytes } from '../capture/keep-bytes.ts';
import { controlCheckPulls, controlChecks, controlStruck } from '../capture/control-tables.ts';
import { readingOptions } from '../capture/reading.ts';
import { pullFiles, rawFiles } from '../capture/tables.ts';
import { kept } from '../register/references.ts';
import { controlVehicles, dynos, fitments, vehicles } from '../register/tables.ts';
import { checksShown, vehicleShown } from './control-shown.ts';
import { engineOfFitment } from './engine-of.ts';
import { controlTask } from './tasks.ts';

type Asked = z.output<typeof ControlCheckRequest>;
/** Step of the grid a check is read on, rpm. */
const STEP_RPM = 50;

const rowsOf = (db: Queryable) =>
  db
    .select({ control: controlVehicles, vehicle: vehicles, fitment: fitments, dyno: dynos })
    .from(controlVehicles)
    .innerJoin(vehicles, eq(vehicles.id, controlVehicles.vehicleId))
    .innerJoin(fitments, eq(fitments.id, vehicles.fitmentId))
    .innerJoin(dynos, eq(dynos.id, controlVehicles.dynoId));
type Row = Awaited<ReturnType<typeof rowsOf>>[number];

/** When the first pull was made: what the files say, else what was typed. */
function momentOf(
  asked: Asked,
  recorded: readonly (Recorded | undefined)[],
  timeZone: string,
): { at: Date; timed: 'file' | 'typed' } {
  const [hours, minutes] = asked.time.split(':').map(Number);
  const typed = momentRecorded(
    { text: '', day: asked.day, seconds: 3600 * hours + 60 * minutes, offsetMinutes: null },
    timeZone,
  );
  const own = recorded.map((r) => r && momentRecorded(r, timeZone));
  if (own.every((m) => m !== undefined)) return { at: new Date(Math.min(...own)), timed: 'file' };
  const other = recorded.find((r) => r && r.day !== asked.day);
  if (other)
    throw new RefusalError(
      422,
      'CHECK_OF_OTHER_DAY',
      `A file says it was recorded on ${other.day}; the check is entered for ${asked.day}.`,
      'Enter the day of the file, or choose the files of the day.',
      { path: 'day' },
    );
  return { at: new Date(typed!), timed: 'typed' };
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createControl(
  { db, now, newId, threads, softwareVersion }: Needs,
  /** Evaluates again what a check has touched. */
  settle: () => Promise<unknown>,
) {
  const one = async (tx: Queryable, id: string): Promise<Row> => {
    const [row] = await rowsOf(tx).where(eq(controlVehicles.id, id));
    if (!row) throw notFound('control vehicle');
    return row;
  };

  /** The bytes of the files named, in order; each is there and stands for nothing else. */
  async function bytesOf(tx: Queryable, pulls: Asked['pulls']): Promise<Buffer[]> {
    const hashes = pulls.map((p) => p.sha256);
    if (new Set(hashes).size < hashes.length) throw usedTwice('The same file is named twice.');
    const [elsewhere] = await tx
      .select({ name: controlCheckPulls.name })
      .from(controlCheckPulls)
      .where(inArray(controlCheckPulls.sha256, hashes));
    if (elsewhere) throw usedTwice(`${elsewhere.name} stands in another check already.`);
    const [ofPull] = await tx
      .select({ name: pullFiles.name })
      .from(pullFiles)
      .where(inArray(pullFiles.sha256, hashes));
    if (ofPull) throw usedTwice(`${ofPull.name} is the file of a pull of a test.`);
    const rows = await tx
      .select({ sha256: rawFiles.sha256, bytes: rawFiles.bytes })
      .from(rawFiles)
      .where(inArray(rawFiles.sha256, hashes));
    return hashes.map((hash) => {
      const row = rows.find((r) => r.sha256 === hash);
      if (!row) throw notFound('file');
      return row.bytes;
    });
  }

  /** Values are taken from the stored bytes, never from what a browser says. */
  async function levels(tx: Queryable, row: Row, asked: Asked) {
    const bytes = await bytesOf(tx, asked.pulls);
    const { control, vehicle, fitment, dyno } = row;
    return threads.run(
      controlTask,
      asked.pulls.map(({ name, temperatureC, pressureHpa, humidityPct }, i) => ({
        name,
        bytes: bytes[i],
        air: { temperatureC, pressureHpa, humidity: { kind: 'relative', percent: humidityPct } as const },
      })),
      {
        standard: control.standard,
        band: { fromRpm: control.fromRpm, toRpm: control.toRpm, stepRpm: STEP_RPM },
        engine: engineOfFitment(fitment),
        school: (await policyInForce(tx)).boostedSchool,
        applies: dyno.appliesStandard,
        reading: readingOptions({ test: { fuel: fitment.fuel, gear: control.gear }, vehicle }, dyno),
      },
    );
  }

  return {
    async ofDyno(dynoId: string): Promise<ControlShown> {
      const rows = await rowsOf(db)
        .where(eq(controlVehicles.dynoId, dynoId))
        .orderBy(desc(controlVehicles.enteredAt));
      const replaced = new Set(rows.map(({ control }) => control.replaces));
      const shown = await checksShown(
        db,
        rows.map(({ control }) => control.id),
      );
      return {
        vehicles: rows.map((row) => vehicleShown(row, replaced.has(row.control.id), shown)),
      };
    },

    async name(person: Person, dynoId: string, asked: ControlVehicleRequest): Promise<{ id: string }> {
      const { anew, ...of } = asked;
      return db.transaction(async (tx) => {
        const [dyno] = await tx.select().from(dynos).where(eq(dynos.id, dynoId));
        if (!dyno) throw notFound('dyno');
        const [vehicle] = await tx.select().from(vehicles).where(eq(vehicles.id, of.vehicleId));
        if (!vehicle) throw notFound('vehicle');
        const own = await tx
          .select()
          .from(controlVehicles)
          .where(and(eq(controlVehicles.dynoId, dynoId), eq(controlVehicles.vehicleId, of.vehicleId)))
          .orderBy(desc(controlVehicles.enteredAt));
        const [latest] = own;
        if (latest && !anew)
          throw conflict(
            'CONTROL_VEHICLE_THERE',
            `${vehicle.tag} is a control vehicle of ${dyno.name} already.`,
            'Begin it anew with a reason where its former checks say nothing of the next.',
          );
        if (anew && anew.replaces !== latest?.id)
          throw conflict(
            'CONTROL_BEGUN_ANEW_ALREADY',
            'Somebody has begun this control vehicle anew already.',
            'Reload.',
          );
        const id = newId();
        await tx.insert(controlVehicles).values({
          id,
          dynoId,
          ...of,
          replaces: anew?.replaces ?? null,
          reason: anew ? await kept(tx, anew.reason, person) : '',
          enteredAt: now(),
          enteredBy: person.id,
        });
        await recordAudit(tx, now(), person, 'named control vehicle', 'dyno', dynoId, {
          name: dyno.name,
          vehicle: vehicle.tag,
          ...(anew ? { reason: anew.reason } : {}),
        });
        return { id };
      });
    },

    /** Keeps the bytes of a file of a check; the check itself names it afterwards. */
    async file(person: Person, controlId: string, bytes: Buffer): Promise<{ sha256: string }> {
      await one(db, controlId);
      const sha256 = await sha256Of(bytes);
      await keepBytes(db, sha256, bytes, { at: now(), personId: person.id });
      return { sha256 };
    },

    async check(person: Person, controlId: string, asked: Asked): Promise<{ id: string }> {
      const row = await one(db, controlId);
      const { values, recorded } = await levels(db, row, asked);
      const { at, timed } = momentOf(asked, recorded, row.dyno.timeZone);
      if (at.getTime() > now().getTime())
        throw new RefusalError(
          422,
          'CHECK_IN_THE_FUTURE',
          'The check lies in the future.',
          'Enter when its first pull was made.',
          { path: 'time' },
        );
      const id = newId();
      await db.transaction(async (tx) => {
        await tx.insert(controlChecks).values({
          id,
          controlId,
          at,
          timed,
          warmUps: asked.warmUps,
          note: await kept(tx, asked.note, person),
          values,
          softwareVersion,
          enteredAt: now(),
          enteredBy: person.id,
        });
        await tx
          .insert(controlCheckPulls)
          .values(asked.pulls.map((pull, i) => ({ checkId: id, position: i + 1, ...pull })));
        await recordAudit(tx, now(), person, 'measured control vehicle', 'dyno', row.dyno.id, {
          name: row.dyno.name,
          vehicle: row.vehicle.tag,
          at: at.toISOString(),
        });
      });
      await settle();
      return { id };
    },

    async strike(person: Person, checkId: string, reason: string): Promise<void> {
      await db.transaction(async (tx) => {
        const [found] = await tx
          .select({ check: controlChecks, struck: controlStruck })
          .from(controlChecks)
          .leftJoin(controlStruck, eq(controlStruck.checkId, controlChecks.id))
          .where(eq(controlChecks.id, checkId));
        if (!found) throw notFound('check');
        if (found.struck) throw struckAlready();
        const row = await one(tx, found.check.controlId);
        const [mine] = await tx
          .insert(controlStruck)
          .values({ checkId, reason: await kept(tx, reason, person), at: now(), by: person.id })
          .onConflictDoNothing()
          .returning();
        if (!mine) throw struckAlready();
        await recordAudit(tx, now(), person, 'crossed out check', 'dyno', row.dyno.id, {
          name: row.dyno.name,
          vehicle: row.vehicle.tag,
          at: found.check.at.toISOString(),
          reason,
        });
      });
      await settle();
    },

    async raw(checkId: string, position: number): Promise<{ name: string; sha256: string; bytes: Buffer }> {
      const [found] = await db
        .select({ name: controlCheckPulls.name, sha256: rawFiles.sha256, bytes: rawFiles.bytes })
        .from(controlCheckPulls)
        .innerJoin(rawFiles, eq(rawFiles.sha256, controlCheckPulls.sha256))
        .where(and(eq(controlCheckPulls.checkId, checkId), eq(controlCheckPulls.position, position)));
      if (!found) throw notFound('file');
      return found;
    },
  };
}
export type ControlService = ReturnType<typeof createControl>;

const struckAlready = (): Error => conflict('STRUCK_ALREADY', 'The check is crossed out already.', 'Reload.');
const usedTwice = (what: string): Error =>
  conflict('FILE_USED_TWICE', what, 'Choose the files of this check.');
