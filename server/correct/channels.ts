/**
 * Channels of pulls, kept beside the raw bytes they are derived from. They are written once a file and reading, when
 * first asked for; another version of the reading, or another fact of the register, derives them anew beside the old.
 */
import { and, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { PullChannels, TestChannels } from '../../contract/capture/channels.ts';
import { QUANTITIES, type Quantity } from '../../core/base/quantities.ts';
import { joinLog } from '../../core/capture/join-log.ts';
import type { PullFile } from '../../core/capture/pull-file-types.ts';
import { readingKey } from '../../core/capture/reading-version.ts';
import { findSweep } from '../../core/capture/sweep.ts';
import { channelCurves, channelUnit, type Channels } from '../../core/correct/channel-curves.ts';
import { curveReader, rpmGrid } from '../../core/correct/torque-curve.ts';
import type { Needs } from '../base/needs.ts';
import { notFound } from '../base/refusals.ts';
import { findTest, type TestRow } from '../plan/repository.ts';
import { pulls } from '../plan/tables.ts';
import { readingOptions } from '../capture/reading.ts';
import { logOfFile } from '../capture/repository.ts';
import { pullChannels, pullFiles, pullLogs, rawFiles } from '../capture/tables.ts';
import { readPullTask } from '../capture/tasks.ts';

/** Digits of a value that is drawn. */
const DRAWN = 5;
type LogRow = typeof pullLogs.$inferSelect;
type FileRow = Pick<typeof pullFiles.$inferSelect, 'id' | 'sha256' | 'columns' | 'name'>;

const asBytes = (values: Float64Array): Buffer =>
  Buffer.from(values.buffer, values.byteOffset, values.byteLength);
const asValues = (bytes: Buffer): Float64Array => new Float64Array(Uint8Array.from(bytes).buffer);
const numbers = (values: Float64Array): (number | null)[] =>
  Array.from(values, (v) => (Number.isFinite(v) ? v : null));
const drawn = (v: number | null): number | null => (v === null ? null : Number(v.toPrecision(DRAWN)));
/** A clock counts from wherever it was set: its digits are kept for what passes within the sweep. */
const sinceFirst = (curve: readonly (number | null)[]): (number | null)[] => {
  const first = curve.find((v) => v !== null) ?? 0;
  return curve.map((v) => (v === null ? null : v - first));
};

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createChannels({ db, threads }: Needs) {
  async function withLog(row: TestRow, pull: PullFile, log: LogRow): Promise<PullFile> {
    const [raw] = await db
      .select({ bytes: rawFiles.bytes })
      .from(rawFiles)
      .where(eq(rawFiles.sha256, log.sha256));
    const read = await threads.run(readPullTask, raw.bytes, {
      ...readingOptions(row, row.dyno),
      file: log.name,
      torque: 'optional',
    });
    return joinLog(pull, read, log.offsetS);
  }
  /** Channels of a file, torque and engine speed among them as they were measured or worked out. */
  async function channelsOf(
    row: TestRow,
    file: FileRow,
    log: LogRow | null,
  ): Promise<{ reading: string; channels: Channels }> {
    const options = readingOptions(row, row.dyno);
    const reading = `${readingKey(options)}${log ? ` log=${log.sha256} ${log.offsetS}` : ''}`;
    const kept = await db
      .select({ quantity: pullChannels.quantity, values: pullChannels.values })
      .from(pullChannels)
      .where(and(eq(pullChannels.pullFileId, file.id), eq(pullChannels.reading, reading)));
    if (kept.length > 0)
      return { reading, channels: Object.fromEntries(kept.map((c) => [c.quantity, asValues(c.values)])) };
    const [raw] = await db
      .select({ bytes: rawFiles.bytes })
      .from(rawFiles)
      .where(eq(rawFiles.sha256, file.sha256));
    const read = await threads.run(readPullTask, raw.bytes, {
      ...options,
      file: file.name,
      columns: file.columns ?? undefined,
    });
    const joined = log ? await withLog(row, read, log) : read;
    const channels: Channels = { ...joined.channels, engineSpeed: read.rpm, torque: read.torqueNm };
    await db
      .insert(pullChannels)
      .values(
        Object.entries(channels).map(([quantity, values]) => ({
          pullFileId: file.id,
          reading,
          quantity: quantity as Quantity,
          values: asBytes(values),
        })),
      )
      .onConflictDoNothing();
    return { reading, channels };
  }
  const captured = (testId: string) =>
    db
      .select({ pull: pulls, file: pullFiles, log: pullLogs })
      .from(pulls)
      .innerJoin(pullFiles, and(eq(pullFiles.pullId, pulls.id), eq(pullFiles.current, true)))
      .leftJoin(pullLogs, logOfFile)
      .where(eq(pulls.testId, testId))
      .orderBy(pulls.position);

  return {
    /** Channels of every captured pull on the grid of the test. */
    async ofTest(person: Person, testId: string): Promise<TestChannels> {
      const row = await findTest(db, testId, person);
      const { fromRpm, toRpm, stepRpm } = row.test;
      const grid = rpmGrid(fromRpm, toRpm, stepRpm);
      const shown = [];
      for (const { pull, file, log } of await captured(testId)) {
        const { reading, channels } = await channelsOf(row, file, log);
        const rpm = channels.engineSpeed!;
        const sweep = findSweep({ timeS: channels.time, rpm, throttlePct: channels.throttle });
        const curves = channelCurves(channels, curveReader(rpm, sweep, grid, stepRpm));
        shown.push({
          pullId: pull.id,
          label: pull.label,
          arm: pull.arm,
          excluded: pull.excludedReason !== null,
          reading,
          channels: Object.fromEntries(
            QUANTITIES.filter((q) => curves[q]).map((q) => [
              q,
              {
                unit: channelUnit(q),
                values: (q === 'time' ? sinceFirst(curves[q]!) : curves[q]!).map(drawn),
              },
            ]),
          ),
        });
      }
      return { rpm: grid, pulls: shown };
    },
    /** Channels of one pull in full. */
    async ofPull(person: Person, testId: string, pullId: string): Promise<PullChannels> {
      const row = await findTest(db, testId, person);
      const found = (await captured(testId)).find(({ pull }) => pull.id === pullId);
      if (!found) throw notFound('file');
      const { reading, channels } = await channelsOf(row, found.file, found.log);
      return {
        label: found.pull.label,
        sha256: found.file.sha256,
        reading,
        samples: channels.engineSpeed!.length,
        channels: Object.fromEntries(
          QUANTITIES.filter((q) => channels[q]).map((q) => [
            q,
            { unit: channelUnit(q), values: numbers(channels[q]!) },
          ]),
        ),
      };
    },
  };
}
export type ChannelsService = ReturnType<typeof createChannels>;
