/**
 * Files of weather stations: kept whole as raw files, read for the pulls of a test, and taken over as air readings
 * that name the file and its lines. What is taken over is what the stored bytes give, never what a browser says.
 */
import { and, desc, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { AirFileSaid, AirFileShown } from '../../contract/capture/air-file.ts';
import { AirError } from '../../core/base/errors.ts';
import type { AirFile } from '../../core/capture/air-file.ts';
import { momentRecorded } from '../../core/capture/moments.ts';
import { readDate } from '../../core/capture/recorded.ts';
import { airState } from '../../core/correct/air.ts';
import { airAt } from '../../core/correct/station-air.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound } from '../base/refusals.ts';
import { keepBytes } from '../capture/keep-bytes.ts';
import { people } from '../base/tables.ts';
import { lockTest } from '../base/house.ts';
import { sha256Of } from '../base/sha256.ts';
import type { InputsChanged } from '../capture/service.ts';
import { airFiles, pullFiles, rawFiles } from '../capture/tables.ts';
import { readAirTask } from '../capture/tasks.ts';
import { writeAir } from '../capture/write-air.ts';
import { findTest } from '../plan/repository.ts';
import { pulls } from '../plan/tables.ts';
import { kept } from '../register/references.ts';

type Given = AirFileShown['pulls'][number];
export interface AirFileListeners {
  readonly inputsChanged: InputsChanged;
  readonly settle: (testId: string) => Promise<void>;
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createAirFiles(
  { db, now, newId, threads }: Needs,
  { inputsChanged, settle }: AirFileListeners,
) {
  const read = (bytes: Buffer, name: string, said: AirFileSaid, timeZone: string): Promise<AirFile> =>
    threads.run(readAirTask, bytes, { ...said, file: name, timeZone });

  /** What the file gives for one pull. */
  function given(
    file: AirFile,
    pull: { id: string; label: string; fileId: string | null; recordedText: string | null },
    dyno: { timeZone: string; siteHeightM: number },
  ): Given {
    const recorded = pull.recordedText === null ? undefined : readDate(pull.recordedText);
    const at = recorded && momentRecorded(recorded, dyno.timeZone);
    const base = {
      pullId: pull.id,
      label: pull.label,
      at: at === undefined ? null : new Date(at).toISOString(),
    };
    if (at === undefined)
      return {
        ...base,
        air: null,
        why:
          pull.fileId === null
            ? 'No file is attached to it yet.'
            : 'Its file does not say at what time it was recorded.',
      };
    try {
      const { reading, lines, nearestS } = airAt(file.readings, at);
      const { temperatureC, pressureHpa, humidity } = reading;
      const air = { temperatureC, pressureHpa, humidity, lines: [...lines], nearestS };
      airState({ ...reading, siteHeightM: dyno.siteHeightM });
      return { ...base, air, why: null };
    } catch (error) {
      if (error instanceof AirError) return { ...base, air: null, why: error.what };
      throw error;
    }
  }
  async function shown(tx: Queryable, person: Person, testId: string, id: string): Promise<AirFileShown> {
    const { dyno } = await findTest(tx, testId, person);
    const [row] = await tx
      .select({ file: airFiles, bytes: rawFiles.bytes, by: people.name })
      .from(airFiles)
      .innerJoin(rawFiles, eq(rawFiles.sha256, airFiles.sha256))
      .innerJoin(people, eq(people.id, airFiles.sentBy))
      .where(and(eq(airFiles.id, id), eq(airFiles.testId, testId)));
    if (!row) throw notFound('air file');
    const { name, sha256, said, sentAt } = row.file;
    const file = await read(row.bytes, name, said, dyno.timeZone);
    const all = await tx
      .select({
        id: pulls.id,
        label: pulls.label,
        position: pulls.position,
        fileId: pullFiles.id,
        recordedText: pullFiles.recordedText,
      })
      .from(pulls)
      .leftJoin(pullFiles, and(eq(pullFiles.pullId, pulls.id), eq(pullFiles.current, true)))
      .where(and(eq(pulls.testId, testId), eq(pulls.counted, true)))
      .orderBy(pulls.position);
    return {
      id,
      name,
      sha256,
      said,
      sentAt: sentAt.toISOString(),
      sentBy: row.by,
      pressureKind: file.pressureKind,
      readings: file.readings.length,
      from: new Date(file.readings[0].at).toISOString(),
      to: new Date(file.readings.at(-1)!.at).toISOString(),
      findings: file.findings.map((f) => ({ ...f })),
      pulls: all.map((pull) => given(file, pull, dyno)),
    };
  }

  return {
    /** Keeps the file and says what it gives; sent again with the same answers it is the same file. */
    async send(
      person: Person,
      testId: string,
      name: string,
      bytes: Buffer,
      said: AirFileSaid,
    ): Promise<AirFileShown> {
      const { dyno } = await findTest(db, testId, person);
      const keptName = await kept(db, name, person);
      await read(bytes, keptName, said, dyno.timeZone);
      const sha256 = await sha256Of(bytes);
      const id = await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const [there] = await tx
          .select({ id: airFiles.id })
          .from(airFiles)
          .where(and(eq(airFiles.testId, testId), eq(airFiles.sha256, sha256), eq(airFiles.said, said)));
        if (there) return there.id;
        await keepBytes(tx, sha256, bytes, { at: now(), personId: person.id });
        const fresh = newId();
        await tx
          .insert(airFiles)
          .values({ id: fresh, testId, sha256, name: keptName, said, sentAt: now(), sentBy: person.id });
        await recordAudit(tx, now(), person, 'sent air file', 'test', testId, {
          name: keptName,
          sha256,
          ...said,
        });
        return fresh;
      });
      return shown(db, person, testId, id);
    },
    /** Throws when this person has no such test: asked before a file of it is read. */
    async isThere(person: Person, testId: string): Promise<void> {
      await findTest(db, testId, person);
    },
    /** The files sent for a test, the latest first. */
    async list(person: Person, testId: string): Promise<{ id: string; name: string; sentAt: string }[]> {
      await findTest(db, testId, person);
      const rows = await db
        .select({ id: airFiles.id, name: airFiles.name, sentAt: airFiles.sentAt })
        .from(airFiles)
        .where(eq(airFiles.testId, testId))
        .orderBy(desc(airFiles.sentAt));
      return rows.map((row) => ({ ...row, sentAt: row.sentAt.toISOString() }));
    },
    get: (person: Person, testId: string, id: string): Promise<AirFileShown> => shown(db, person, testId, id),

    /** Takes the air of some pulls from the file, all or none. */
    async take(person: Person, testId: string, id: string, pullIds: readonly string[]): Promise<void> {
      await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const file = await shown(tx, person, testId, id);
        const wanted = file.pulls.filter((p) => pullIds.includes(p.pullId));
        const without = wanted.filter((p) => !p.air);
        if (wanted.length < new Set(pullIds).size) throw notFound('pull');
        if (without.length > 0)
          throw conflict(
            'NO_AIR_FOR_PULL',
            `${file.name} gives nothing for ${without.map((p) => p.label).join(', ')}: ${without[0].why}`,
            'Take the others, and enter these by hand.',
          );
        for (const { pullId, label, air } of wanted)
          await writeAir(
            tx,
            { now, newId },
            inputsChanged,
            person,
            { id: pullId, testId, label },
            {
              temperatureC: air!.temperatureC,
              pressureHpa: air!.pressureHpa,
              pressureKind: file.pressureKind,
              humidityKind: air!.humidity.kind,
              humidityValue:
                air!.humidity.kind === 'relative' ? air!.humidity.percent : air!.humidity.temperatureC,
              source: 'station file',
              airFileId: id,
              airLines: air!.lines,
            },
          );
      });
      await settle(testId);
    },
  };
}
export type AirFiles = ReturnType<typeof createAirFiles>;
