import { and, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import {
  NOTHING_RECORDED,
  type AirRequest,
  type ExclusionReason,
  type PullFound,
} from '../../contract/capture/capture.ts';
import { PullFileError } from '../../core/base/errors.ts';
import { type PullFile } from '../../core/capture/pull-file-types.ts';
import { type ColumnChoices } from '../../core/capture/pull-file-types.ts';
import type { AirReading } from '../../core/capture/air-reading.ts';
import type { ReadingOptions } from '../../core/capture/reading-options.ts';
import { recordAudit } from '../base/audit.ts';
import { lockTest } from '../base/house.ts';
import { sha256Of } from '../base/sha256.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound } from '../base/refusals.ts';
import { findTest } from '../plan/repository.ts';
import { testIsEmbargoed } from '../register/embargo.ts';
import { kept } from '../register/references.ts';
import { keepBytes } from './keep-bytes.ts';
import { pullExclusions, pulls, tests } from '../plan/tables.ts';
import { readingOptions } from './reading.ts';
import { remember, remembered, rememberedFinding, type Memory } from './column-memory.ts';
import { controlCheckPulls } from './control-tables.ts';
import { pullFiles, rawFiles } from './tables.ts';
import { writeAir } from './write-air.ts';
import { headerKey, recordedIn, foundIn } from './file-found.ts';

/** Told after a change that an analysis may rest on. The judge stage listens; capture does not know who does. */
import { readPullTask } from './tasks.ts';

export type InputsChanged = (tx: Queryable, testId: string, person: Person, what: string) => Promise<void>;
export type CaptureService = ReturnType<typeof createCaptureService>;

const ASKS_FOR_COLUMNS = new Set([
  'UNIT_UNKNOWN',
  'AMBIGUOUS_COLUMNS',
  'NO_ENGINE_SPEED',
  'NO_TORQUE_NOR_POWER',
]);

export const airReadingOf = (air: Omit<AirRequest, 'source'>, siteHeightM: number): AirReading => ({
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

/** What capture asks of later stages: whether a result was seen, what a change brings down, what to evaluate afterwards. */
export interface CaptureListeners {
  readonly inputsChanged: InputsChanged;
  /** After the change is kept: evaluates again what stands on the test. */
  readonly settle: (testId: string) => Promise<void>;
  readonly hasResult: (tx: Queryable, testId: string) => Promise<boolean>;
  readonly checkAir: CheckAir;
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createCaptureService(
  { db, now, newId, threads }: Needs,
  { inputsChanged, settle, hasResult, checkAir }: CaptureListeners,
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
    /** Throws when this person has no such test. */
    async isTheirs(person: Person, testId: string): Promise<void> {
      await findTest(db, testId, person);
    },
    /** Throws when this person has no such pull: asked before a file of it is read. */
    async isThere(person: Person, testId: string, pullId: string): Promise<void> {
      await findTest(db, testId, person);
      await pullOf(db, testId, pullId);
    },
    /**
     * Attaches a raw file to a pull: read first, stored whole or not at all. A file that stands for
     * another pull is refused; the pull's former file stays in the store, no longer current.
     */
    // eslint-disable-next-line max-lines-per-function -- one transaction, in the order its locks are taken
    async attach(
      person: Person,
      testId: string,
      pullId: string,
      name: string,
      bytes: Buffer,
      columns: ColumnChoices | undefined,
    ): Promise<PullFound> {
      const row = await findTest(db, testId, person);
      const { dyno } = row;
      await pullOf(db, testId, pullId);
      const keptName = await kept(db, name, person);
      const options = readingOptions(row, dyno);
      const { file, used, memory } = await readWithMemory(person, bytes, name, dyno.id, columns, options);
      const read = foundIn(file);
      const found = memory ? { ...read, findings: [rememberedFinding(memory), ...read.findings] } : read;
      const sha256 = await sha256Of(bytes);
      // eslint-disable-next-line max-lines-per-function -- one transaction, in the order its locks are taken
      const answer = await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const pull = await pullOf(tx, testId, pullId);
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
            `${keptName}: these bytes stand for ${where}.`,
            twin.pullId === pullId
              ? 'Nothing needs to be done.'
              : 'One recording is one pull: attach the right file.',
            { sha256, pull: twin.label },
          );
        }
        const [check] = await tx
          .select({ checkId: controlCheckPulls.checkId })
          .from(controlCheckPulls)
          .where(eq(controlCheckPulls.sha256, sha256));
        if (check)
          throw conflict(
            'FILE_OF_CONTROL',
            `${keptName}: these bytes stand for a check of a control vehicle.`,
            'One recording is one pull: attach the right file.',
            { sha256 },
          );
        await keepBytes(tx, sha256, bytes, { at: now(), personId: person.id });
        const [replaced] = await tx
          .update(pullFiles)
          .set({ current: false })
          .where(and(eq(pullFiles.pullId, pullId), eq(pullFiles.current, true)))
          .returning({ sha256: pullFiles.sha256 });
        await tx.insert(pullFiles).values({
          id: newId(),
          pullId,
          sha256,
          name: keptName,
          columns: used ?? null,
          found,
          attachedAt: now(),
          attachedBy: person.id,
          ...recordedIn(file, dyno.timeZone),
        });
        if (columns) {
          await remember(tx, person, {
            id: newId(),
            dynoId: dyno.id,
            header: headerKey(file),
            columns,
            fileName: keptName,
            at: now(),
          });
        }
        await recordAudit(
          tx,
          now(),
          person,
          replaced ? 'replaced pull file' : 'attached pull file',
          'test',
          testId,
          { pull: pull.label, name: keptName, sha256, ...(replaced ? { replaced: replaced.sha256 } : {}) },
        );
        await touched(tx, testId);
        if (replaced) await inputsChanged(tx, testId, person, `the file of pull ${pull.label} was replaced`);
        return found;
      });
      await settle(testId);
      return answer;
    },

    /** Reads the stored file of a pull in another way, where a column or unit was answered wrongly. The bytes stay as they are. */
    async reread(person: Person, testId: string, pullId: string, columns: ColumnChoices): Promise<PullFound> {
      const row = await findTest(db, testId, person);
      const answer = await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const pull = await pullOf(tx, testId, pullId);
        const [former] = await tx
          .select({ file: pullFiles, bytes: rawFiles.bytes })
          .from(pullFiles)
          .innerJoin(rawFiles, eq(rawFiles.sha256, pullFiles.sha256))
          .where(and(eq(pullFiles.pullId, pullId), eq(pullFiles.current, true)));
        if (!former) throw notFound('file');
        const file = await threads.run(readPullTask, former.bytes, {
          ...readingOptions(row, row.dyno),
          file: former.file.name,
          columns,
        });
        const found = foundIn(file);
        await tx.update(pullFiles).set({ current: false }).where(eq(pullFiles.id, former.file.id));
        await tx.insert(pullFiles).values({
          ...former.file,
          id: newId(),
          columns,
          found,
          attachedAt: now(),
          attachedBy: person.id,
          current: true,
        });
        await remember(tx, person, {
          id: newId(),
          dynoId: row.dyno.id,
          header: headerKey(file),
          columns,
          fileName: former.file.name,
          at: now(),
        });
        await recordAudit(tx, now(), person, 'read pull file in another way', 'test', testId, {
          pull: pull.label,
          sha256: former.file.sha256,
          columns,
        });
        await touched(tx, testId);
        await inputsChanged(tx, testId, person, `the file of pull ${pull.label} was read in another way`);
        return found;
      });
      await settle(testId);
      return answer;
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
        await lockTest(tx, testId);
        const pull = await pullOf(tx, testId, pullId);
        await writeAir(
          tx,
          { now, newId },
          inputsChanged,
          person,
          { id: pullId, testId, label: pull.label },
          air,
        );
      });
      await settle(testId);
    },

    /** Leaves a pull out for a recorded cause. Whether the result had been seen is kept with it. */
    async exclude(
      person: Person,
      testId: string,
      pullId: string,
      reason: ExclusionReason,
      note: string,
    ): Promise<void> {
      await findTest(db, testId, person);
      const keptNote = await kept(db, note, person);
      await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const pull = await pullOf(tx, testId, pullId);
        if (!pull.counted)
          throw conflict('NOT_COUNTED', 'A warm-up pull is never counted.', 'There is nothing to exclude.');
        if (pull.excludedReason)
          throw conflict(
            'ALREADY_EXCLUDED',
            'The pull is excluded already.',
            'Restore it first to give another reason.',
          );
        const [file] = await tx
          .select({ name: pullFiles.name })
          .from(pullFiles)
          .where(and(eq(pullFiles.pullId, pullId), eq(pullFiles.current, true)));
        if (file && NOTHING_RECORDED.has(reason))
          throw conflict(
            'RECORDED_ALL_THE_SAME',
            `“${reason}” cannot be: ${file.name} is attached to this pull.`,
            'Give the cause that the recording shows, or say which pull the file belongs to.',
          );
        await tx.insert(pullExclusions).values({
          pullId,
          act: 'excluded',
          reason,
          note: keptNote,
          personId: person.id,
          at: now(),
          seenResult: await hasResult(tx, testId),
        });
        await recordAudit(tx, now(), person, 'excluded pull', 'test', testId, {
          pull: pull.label,
          reason,
          note: keptNote,
        });
        await touched(tx, testId);
        await inputsChanged(tx, testId, person, `pull ${pull.label} was excluded (${reason})`);
      });
      await settle(testId);
    },

    async restore(person: Person, testId: string, pullId: string): Promise<void> {
      await findTest(db, testId, person);
      await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const pull = await pullOf(tx, testId, pullId);
        if (!pull.excludedReason)
          throw conflict('NOT_EXCLUDED', 'The pull is not excluded.', 'Nothing needs to be done.');
        await tx.insert(pullExclusions).values({
          pullId,
          act: 'restored',
          reason: pull.excludedReason,
          personId: person.id,
          at: now(),
          seenResult: await hasResult(tx, testId),
        });
        await recordAudit(tx, now(), person, 'restored pull', 'test', testId, {
          pull: pull.label,
          formerReason: pull.excludedReason,
        });
        await touched(tx, testId);
        await inputsChanged(tx, testId, person, `pull ${pull.label} was restored`);
      });
      await settle(testId);
    },
  };

  /** Reads a file; where it asks which column is meant, an answer kept for this dyno and layout is used. */
  async function readWithMemory(
    person: Person,
    bytes: Buffer,
    name: string,
    dynoId: string,
    columns: ColumnChoices | undefined,
    options: ReadingOptions,
  ): Promise<{ file: PullFile; used: ColumnChoices | undefined; memory?: Memory }> {
    try {
      return {
        file: await threads.run(readPullTask, bytes, { ...options, file: name, columns }),
        used: columns,
      };
    } catch (error) {
      if (columns || !(error instanceof PullFileError) || !ASKS_FOR_COLUMNS.has(error.code)) throw error;
      for (const memory of await remembered(db, person, dynoId)) {
        try {
          const file = await threads.run(readPullTask, bytes, {
            ...options,
            file: name,
            columns: memory.columns,
          });
          if (headerKey(file) === memory.header) return { file, used: memory.columns, memory };
        } catch {
          /* another layout: its answer does not fit this file */
        }
      }
      throw error;
    }
  }
}
