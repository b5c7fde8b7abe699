/**
 * From the lines of a recording to a pull: the file is written, attached to its place on the run sheet, its air taken
 * from the station's own words, and the whole boiled down for the bench. Done again after a cut it comes to the same.
 */
import { and, eq, inArray } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { DeviceMessage } from '../../contract/capture/device-protocol.ts';
import { EvidentiaError } from '../../core/base/errors.ts';
import { composeRecording, type DeviceRecord } from '../../core/capture/session/recording-file.ts';
import type { RecordingSummary } from '../../core/capture/session/recording-summary.ts';
import type { DeviceKind } from '../../core/register/devices.ts';
import { airOfStation, type StationAir } from '../../core/capture/session/station-line.ts';
import { airState } from '../../core/correct/air.ts';
import { lockTest } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { RefusalError } from '../base/refusals.ts';
import { personFrom } from '../base/sign-in.ts';
import { sha256Of } from '../base/sha256.ts';
import { keepBytes } from '../capture/keep-bytes.ts';
import { people } from '../base/tables.ts';
import { linesOf, UNFINISHED, type RecordingRow } from '../capture/bench-repository.ts';
import { benchSessions, recordings } from '../capture/bench-tables.ts';
import { readingOptions } from '../capture/reading.ts';
import { airReadingOf, type CaptureService, type InputsChanged } from '../capture/service.ts';
import { airReadings, rawFiles } from '../capture/tables.ts';
import { writeAir } from '../capture/write-air.ts';
import { findTest, type TestRow } from '../plan/repository.ts';
import { pulls } from '../plan/tables.ts';
import { engineOfFitment } from './engine-of.ts';
import { summariseTask } from './tasks.ts';

type Sample = Extract<DeviceMessage, { type: 'sample' }>;
type Now = Extract<DeviceMessage, { type: 'now' }>;
interface Listeners {
  readonly capture: CaptureService;
  readonly inputsChanged: InputsChanged;
  readonly settle: (testId: string) => Promise<void>;
}

const nameOf = (row: RecordingRow): string => `recording-${row.deviceKey}.csv`;
/** Lines as samples, each number once, in turn. */
function samplesOf(lines: readonly string[]): Sample[] {
  const byNumber = new Map<number, Sample>();
  for (const line of lines) {
    const sample = JSON.parse(line) as Sample;
    if (!byNumber.has(sample.n)) byNumber.set(sample.n, sample);
  }
  return [...byNumber.values()].sort((a, b) => a.n - b.n);
}
function recordOf(
  row: RecordingRow,
  kind: DeviceKind,
  name: string,
  samples: readonly Sample[],
): DeviceRecord {
  return { name, channels: row.channels[kind] ?? [], samples: samples.map((s) => s.values) };
}

/** What the station said nearest before the pull began, as it is written down; undefined without a station. */
export function stationAir(row: RecordingRow, lines: readonly string[]): StationAir | undefined {
  const channels = row.channels.station ?? [];
  for (const line of lines) {
    const air = airOfStation(channels, (JSON.parse(line) as Now).values);
    if (air) return air;
  }
  return undefined;
}

// eslint-disable-next-line max-lines-per-function -- one recording, step by step
export function createFinishRecording(needs: Needs, { capture, inputsChanged, settle }: Listeners) {
  const { db, now, newId, threads, log } = needs;
  const kept = async (bytes: Buffer, personId: string): Promise<string> => {
    const sha256 = await sha256Of(bytes);
    await keepBytes(db, sha256, bytes, { at: now(), personId });
    return sha256;
  };
  async function personOf(id: string): Promise<Person> {
    const [row] = await db.select().from(people).where(eq(people.id, id));
    return personFrom(row);
  }
  /** The air of a pull that has none, in the station's own words. */
  async function takeAir(person: Person, testRow: TestRow, row: RecordingRow, reading: StationAir) {
    if (row.pullId === null) return;
    const pullId = row.pullId;
    airState({ ...reading, siteHeightM: testRow.dyno.siteHeightM });
    await db.transaction(async (tx) => {
      await lockTest(tx, testRow.test.id);
      const [there] = await tx
        .select({ id: airReadings.id })
        .from(airReadings)
        .where(and(eq(airReadings.pullId, pullId), eq(airReadings.current, true)));
      if (there) return;
      const [pull] = await tx.select({ label: pulls.label }).from(pulls).where(eq(pulls.id, pullId));
      await writeAir(
        tx,
        { now, newId },
        inputsChanged,
        person,
        { id: pullId, testId: testRow.test.id, label: pull.label },
        {
          temperatureC: reading.temperatureC,
          pressureHpa: reading.pressureHpa,
          pressureKind: reading.pressureKind,
          humidityKind: reading.humidity.kind,
          humidityValue:
            reading.humidity.kind === 'relative' ? reading.humidity.percent : reading.humidity.temperatureC,
          source: 'live station',
          recordingId: row.id,
        },
      );
    });
  }
  /** The air that stands for the pull of a recording: its reading where it has one, else what the station said. */
  async function airOf(row: RecordingRow, testRow: TestRow, said: StationAir | undefined) {
    if (row.pullId !== null) {
      const [kept] = await db
        .select()
        .from(airReadings)
        .where(and(eq(airReadings.pullId, row.pullId), eq(airReadings.current, true)));
      if (kept) return airReadingOf(kept, testRow.dyno.siteHeightM);
    }
    return said ? { ...said, siteHeightM: testRow.dyno.siteHeightM } : null;
  }

  /** What the bench needs to know of a recording, from the bytes that are kept of it. */
  async function summarise(row: RecordingRow, testRow: TestRow, bytes: Buffer, name: string, lost: number) {
    const lines = await linesOf(db, row.id);
    const said = stationAir(row, lines.get('station') ?? []);
    const { test, dyno, fitment } = testRow;
    return threads.run(
      summariseTask,
      bytes,
      { ...readingOptions(testRow, dyno), file: name },
      {
        engine: engineOfFitment(fitment),
        standard: test.standard,
        school: test.boostedSchool,
        applied: dyno.appliesStandard,
        band: { fromRpm: test.fromRpm, toRpm: test.toRpm, stepRpm: test.stepRpm },
        air: await airOf(row, testRow, said),
        lost,
      },
    );
  }

  async function attached(
    person: Person,
    testId: string,
    row: RecordingRow,
    name: string,
    bytes: Buffer,
  ): Promise<void> {
    if (row.pullId === null) return;
    try {
      await capture.attach(person, testId, row.pullId, name, bytes, undefined);
    } catch (error) {
      // This very file stands for this very pull: a process was stopped behind it.
      if (!(error instanceof RefusalError && error.code === 'SAME_FILE_TWICE')) throw error;
      if (!error.message.includes('this pull already')) throw error;
    }
  }

  async function work(row: RecordingRow, testId: string): Promise<void> {
    const testRow = await findTest(db, testId);
    const person = await personOf(row.askedBy);
    const lines = await linesOf(db, row.id);
    const dyno = samplesOf(lines.get('dyno') ?? []);
    const logger = samplesOf(lines.get('logger') ?? []);
    const lost = Math.max(0, (row.samples ?? dyno.length) - dyno.length);
    const { text, alignment } = composeRecording({
      about: [
        `Recorded: ${row.beganAt!.toISOString()}`,
        `Dyno: ${testRow.dyno.name}`,
        `Recording: ${row.deviceKey}, place ${row.order} in the session`,
        ...(lost > 0 ? [`Samples lost on the way: ${lost}`] : []),
      ],
      dyno: recordOf(row, 'dyno', testRow.dyno.name, dyno),
      ...(logger.length > 0 ? { log: recordOf(row, 'logger', 'engine logger', logger) } : {}),
    });
    const bytes = Buffer.from(text);
    const linesSha256 = await kept(Buffer.from(linesText(lines)), person.id);
    const name = nameOf(row);
    await attached(person, testId, row, name, bytes);
    const fileSha256 = await kept(bytes, person.id);
    const said = stationAir(row, lines.get('station') ?? []);
    if (said) await takeAir(person, testRow, row, said);
    const summary = await summarise(row, testRow, bytes, name, lost);
    await db
      .update(recordings)
      .set({
        state: 'complete',
        fileSha256,
        linesSha256,
        logOffsetS: alignment?.offsetS ?? null,
        summary,
        problem: null,
      })
      .where(and(eq(recordings.id, row.id), inArray(recordings.state, UNFINISHED)));
    await settle(testId);
  }

  return {
    /** Makes the pull of a recording whose lines are all there; what cannot be made is said on the recording. */
    async finish(recordingId: string): Promise<void> {
      const [found] = await db
        .select({ row: recordings, testId: benchSessions.testId })
        .from(recordings)
        .innerJoin(benchSessions, eq(benchSessions.id, recordings.sessionId))
        .where(eq(recordings.id, recordingId));
      if (!found || !UNFINISHED.includes(found.row.state)) return;
      try {
        await work(found.row, found.testId);
      } catch (error) {
        if (!(error instanceof EvidentiaError) && !(error instanceof RefusalError)) throw error;
        log.warn({ error: error.message, recordingId }, 'a recording cannot be made a pull');
        await db
          .update(recordings)
          .set({ state: 'incomplete', problem: error.message })
          .where(and(eq(recordings.id, recordingId), inArray(recordings.state, UNFINISHED)));
      }
    },
    /** Boils a recording down anew, after the air of its pull was typed or corrected. */
    async again(row: RecordingRow, testRow: TestRow): Promise<RecordingSummary> {
      const [{ bytes }] = await db
        .select({ bytes: rawFiles.bytes })
        .from(rawFiles)
        .where(eq(rawFiles.sha256, row.fileSha256!));
      const summary = await summarise(row, testRow, bytes, nameOf(row), row.summary!.lost);
      await db.update(recordings).set({ summary }).where(eq(recordings.id, row.id));
      return summary;
    },
  };
}
export type FinishService = ReturnType<typeof createFinishRecording>;

/** Every line of a recording as it came, under the name of its device. */
const linesText = (lines: ReadonlyMap<DeviceKind, readonly string[]>): string =>
  [...lines].map(([device, own]) => `${JSON.stringify({ device })}\n${own.join('\n')}\n`).join('');
