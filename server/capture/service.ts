import { createHash } from 'node:crypto';
import { and, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { AirRequest, PullFound } from '../../contract/capture/capture.ts';
import { PullFileError } from '../../core/base/errors.ts';
import { readPullFile, type ColumnChoices, type PullFile } from '../../core/capture/pull-file.ts';
import type { AirReading } from '../../core/capture/air-reading.ts';
import { findSweep } from '../../core/capture/sweep.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound } from '../base/refusals.ts';
import { findTest } from '../plan/repository.ts';
import { testIsEmbargoed } from '../register/embargo.ts';
import { pulls, tests } from '../plan/tables.ts';
import { airReadings, columnMemory, pullFiles, rawFiles } from './tables.ts';

/** Told after a change that an analysis may rest on. The judge stage listens; capture does not know who does. */
export type InputsChanged = (tx: Queryable, testId: string, person: Person, what: string) => Promise<void>;
export type CaptureService = ReturnType<typeof createCaptureService>;

const ASKS_FOR_COLUMNS = new Set([
  'UNIT_UNKNOWN',
  'AMBIGUOUS_COLUMNS',
  'NO_ENGINE_SPEED',
  'NO_TORQUE_NOR_POWER',
]);

export const airReadingOf = (air: AirRequest, siteHeightM: number): AirReading => ({
  temperatureC: air.temperatureC,
  pressureHpa: air.pressureHpa,
  pressureKind: air.pressureKind,
  siteHeightM,
  humidity:
    air.humidityKind === 'relative'
      ? { kind: 'relative', percent: air.humidityValue }
      : { kind: air.humidityKind, temperatureC: air.humidityValue },
});

/** Refuses a reading that cannot be right. The correct stage knows how; capture only asks. */
export type CheckAir = (reading: AirReading) => void;

export function createCaptureService(
  { db, now, newId }: Needs,
  inputsChanged: InputsChanged,
  checkAir: CheckAir,
) {
  const pullOf = async (tx: Queryable, testId: string, pullId: string) => {
    const [pull] = await tx
      .select()
      .from(pulls)
      .where(and(eq(pulls.id, pullId), eq(pulls.testId, testId)));
    if (!pull) throw notFound('pull');
    return pull;
  };
  const touched = (tx: Queryable, testId: string) =>
    tx.update(tests).set({ updatedAt: now() }).where(eq(tests.id, testId));

  return {
    /**
     * Attaches a raw file to a pull: read first, stored whole or not at all. A file that stands for
     * another pull is refused; the pull's former file stays in the store, no longer current.
     */
    async attach(
      person: Person,
      testId: string,
      pullId: string,
      name: string,
      bytes: Buffer,
      columns: ColumnChoices | undefined,
    ): Promise<PullFound> {
      const { dyno } = await findTest(db, testId, person);
      const pull = await pullOf(db, testId, pullId);
      const { file, used } = await readWithMemory(bytes, name, dyno.id, columns);
      const sweep = findSweep({
        timeS: file.channels.time,
        rpm: file.rpm,
        throttlePct: file.channels.throttle,
      });
      const found = foundIn(file, sweep);
      const sha256 = createHash('sha256').update(bytes).digest('hex');
      return db.transaction(async (tx) => {
        const [twin] = await tx
          .select({ label: pulls.label, pullId: pulls.id, number: tests.number })
          .from(pullFiles)
          .innerJoin(pulls, eq(pulls.id, pullFiles.pullId))
          .innerJoin(tests, eq(tests.id, pulls.testId))
          .where(and(eq(pullFiles.sha256, sha256), eq(pullFiles.current, true)));
        if (twin) {
          const where =
            twin.pullId === pullId ? 'this pull already' : `pull ${twin.label} of test ${twin.number}`;
          throw conflict(
            'SAME_FILE_TWICE',
            `${name}: these bytes stand for ${where}.`,
            twin.pullId === pullId
              ? 'Nothing needs to be done.'
              : 'One recording is one pull: attach the right file.',
            { sha256, pull: twin.label },
          );
        }
        await tx
          .insert(rawFiles)
          .values({ sha256, bytes, size: bytes.length, storedAt: now(), storedBy: person.id })
          .onConflictDoNothing();
        const [replaced] = await tx
          .update(pullFiles)
          .set({ current: false })
          .where(and(eq(pullFiles.pullId, pullId), eq(pullFiles.current, true)))
          .returning({ sha256: pullFiles.sha256 });
        await tx.insert(pullFiles).values({
          id: newId(),
          pullId,
          sha256,
          name,
          columns: used ?? null,
          found,
          attachedAt: now(),
          attachedBy: person.id,
        });
        if (columns) {
          await tx
            .insert(columnMemory)
            .values({ id: newId(), dynoId: dyno.id, header: headerKey(file), columns, rememberedAt: now() })
            .onConflictDoUpdate({
              target: [columnMemory.dynoId, columnMemory.header],
              set: { columns, rememberedAt: now() },
            });
        }
        await recordAudit(
          tx,
          now(),
          person,
          replaced ? 'replaced pull file' : 'attached pull file',
          'test',
          testId,
          { pull: pull.label, name, sha256, ...(replaced ? { replaced: replaced.sha256 } : {}) },
        );
        await touched(tx, testId);
        if (replaced) await inputsChanged(tx, testId, person, `the file of pull ${pull.label} was replaced`);
        return found;
      });
    },

    /** The current raw file of a pull, as it came. */
    async rawFile(person: Person, testId: string, pullId: string) {
      await findTest(db, testId, person);
      // Bytes are given as they came or not at all: they may name the part.
      if (!person.clearance && (await testIsEmbargoed(db, testId, now())))
        throw forbidden('The part is under embargo, and the raw file may name it.');
      const [row] = await db
        .select({ name: pullFiles.name, sha256: rawFiles.sha256, bytes: rawFiles.bytes })
        .from(pullFiles)
        .innerJoin(rawFiles, eq(rawFiles.sha256, pullFiles.sha256))
        .innerJoin(pulls, eq(pulls.id, pullFiles.pullId))
        .where(and(eq(pullFiles.pullId, pullId), eq(pullFiles.current, true), eq(pulls.testId, testId)));
      if (!row) throw notFound('file');
      return row;
    },

    /** Keeps the air reading of a pull; a value that cannot be right is refused by the core. */
    async setAir(person: Person, testId: string, pullId: string, air: AirRequest): Promise<void> {
      const { dyno } = await findTest(db, testId, person);
      checkAir(airReadingOf(air, dyno.siteHeightM));
      await db.transaction(async (tx) => {
        const pull = await pullOf(tx, testId, pullId);
        const [former] = await tx
          .update(airReadings)
          .set({ current: false })
          .where(and(eq(airReadings.pullId, pullId), eq(airReadings.current, true)))
          .returning();
        await tx
          .insert(airReadings)
          .values({ id: newId(), pullId, ...air, enteredAt: now(), enteredBy: person.id });
        await recordAudit(
          tx,
          now(),
          person,
          former ? 'corrected air reading' : 'entered air reading',
          'test',
          testId,
          { pull: pull.label, ...air },
        );
        await touched(tx, testId);
        if (former)
          await inputsChanged(tx, testId, person, `the air reading of pull ${pull.label} was corrected`);
      });
    },

    /** Leaves a pull out for a recorded cause. Whether the result had been seen is kept with it. */
    async exclude(
      person: Person,
      testId: string,
      pullId: string,
      reason: string,
      note: string,
      seenResult: boolean,
    ): Promise<void> {
      await findTest(db, testId, person);
      await db.transaction(async (tx) => {
        const pull = await pullOf(tx, testId, pullId);
        if (!pull.counted)
          throw conflict('NOT_COUNTED', 'A warm-up pull is never counted.', 'There is nothing to exclude.');
        if (pull.excludedReason)
          throw conflict(
            'ALREADY_EXCLUDED',
            'The pull is excluded already.',
            'Restore it first to give another reason.',
          );
        await tx
          .update(pulls)
          .set({
            excludedReason: reason,
            excludedNote: note,
            excludedBy: person.id,
            excludedAt: now(),
            excludedSeenResult: seenResult,
          })
          .where(eq(pulls.id, pullId));
        await recordAudit(tx, now(), person, 'excluded pull', 'test', testId, {
          pull: pull.label,
          reason,
          note,
          seenResult,
        });
        await touched(tx, testId);
        await inputsChanged(tx, testId, person, `pull ${pull.label} was excluded (${reason})`);
      });
    },

    async restore(person: Person, testId: string, pullId: string): Promise<void> {
      await findTest(db, testId, person);
      await db.transaction(async (tx) => {
        const pull = await pullOf(tx, testId, pullId);
        if (!pull.excludedReason)
          throw conflict('NOT_EXCLUDED', 'The pull is not excluded.', 'Nothing needs to be done.');
        await tx
          .update(pulls)
          .set({
            excludedReason: null,
            excludedNote: null,
            excludedBy: null,
            excludedAt: null,
            excludedSeenResult: null,
          })
          .where(eq(pulls.id, pullId));
        await recordAudit(tx, now(), person, 'restored pull', 'test', testId, {
          pull: pull.label,
          formerReason: pull.excludedReason,
        });
        await touched(tx, testId);
        await inputsChanged(tx, testId, person, `pull ${pull.label} was restored`);
      });
    },
  };

  /** Reads a file; where it asks which column is meant, an answer kept for this dyno and layout is used. */
  async function readWithMemory(
    bytes: Buffer,
    name: string,
    dynoId: string,
    columns: ColumnChoices | undefined,
  ): Promise<{ file: PullFile; used: ColumnChoices | undefined }> {
    try {
      return { file: readPullFile(bytes, { file: name, columns }), used: columns };
    } catch (error) {
      if (columns || !(error instanceof PullFileError) || !ASKS_FOR_COLUMNS.has(error.code)) throw error;
      for (const memory of await db.select().from(columnMemory).where(eq(columnMemory.dynoId, dynoId))) {
        try {
          const file = readPullFile(bytes, { file: name, columns: memory.columns });
          if (headerKey(file) === memory.header) return { file, used: memory.columns };
        } catch {
          /* another layout: its answer does not fit this file */
        }
      }
      throw error;
    }
  }
}

const headerKey = (file: PullFile): string => file.columns.map((column) => column.header).join('\u241f');

function foundIn(file: PullFile, sweep: ReturnType<typeof findSweep>): PullFound {
  return {
    encoding: file.encoding,
    delimiter: file.delimiter,
    decimal: file.decimal,
    lineEnd: file.lineEnd,
    headerLine: file.headerLine,
    samples: file.samples,
    torqueFrom: file.torqueFrom,
    columns: file.columns.map(({ header, quantity, unit, unitFrom }) => ({
      header,
      quantity,
      unit,
      unitFrom,
    })),
    sweep: {
      fromRpm: sweep.fromRpm,
      toRpm: sweep.toRpm,
      beganRpm: sweep.beganRpm,
      samples: sweep.indices.length,
      rampRpmPerS: Number.isFinite(sweep.rampRpmPerS) ? sweep.rampRpmPerS : null,
    },
    findings: file.findings.map(({ code, message, line }) => ({ code, message, line })),
  };
}
