/** The bench with what its records say of each other. */
import type { Person } from '../../contract/base/http.ts';
import type { WatchedBench } from '../../contract/correct/bench-watch.ts';
import { departures } from '../../core/capture/session/next-place.ts';
import { stillMissing, type MissingPull } from '../../core/capture/session/still-missing.ts';
import { rpmGrid } from '../../core/correct/torque-curve.ts';
import { spreadOf, watchSession } from '../../core/correct/watch-session.ts';
import type { NoticeCode, WatchedRecording } from '../../core/correct/watch/notice.ts';
import type { Needs } from '../base/needs.ts';
import type { BenchService } from '../capture/bench.ts';
import { sessionsOf, recordingsOf, type RecordingRow } from '../capture/bench-repository.ts';
import { listPulls, sheetPull, type PullRow } from '../capture/repository.ts';
import { findTest, type TestRow } from '../plan/repository.ts';
import type { FinishService } from './finish-recording.ts';
import { engineOfFitment } from './engine-of.ts';

/** Notices after which something of a pull is gone for good once the car is off the rollers. */
const GONE: ReadonlySet<NoticeCode> = new Set(['CHANNEL_DEAD', 'CHANNEL_STUCK', 'LOG_MISSING']);

const missingPull = (row: PullRow): MissingPull => ({
  ...sheetPull(row),
  hasFile: row.file !== null,
  hasAir: row.air !== null,
  excluded: row.pull.excludedReason !== null,
});

// eslint-disable-next-line max-lines-per-function -- one answer, field by field
export function createBenchWatch({ db }: Needs, bench: BenchService, finish: FinishService) {
  /** Recordings as they are by the air of their pulls at this moment. */
  async function upToDate(row: TestRow, raw: readonly RecordingRow[], rows: readonly PullRow[]) {
    const air = new Map(rows.flatMap((p) => (p.air ? [[p.pull.id, p.air] as const] : [])));
    const fresh: RecordingRow[] = [];
    for (const r of raw) {
      const now = r.pullId === null ? undefined : air.get(r.pullId);
      const was = r.summary?.air;
      const isOld =
        r.summary && now && (now.temperatureC !== was?.temperatureC || now.pressureHpa !== was.pressureHpa);
      fresh.push(isOld ? { ...r, summary: await finish.again(r, row) } : r);
    }
    return fresh;
  }
  return {
    // eslint-disable-next-line max-lines-per-function -- one answer, field by field
    async shown(person: Person, testId: string): Promise<WatchedBench> {
      const row = await findTest(db, testId, person);
      const { test, dyno, fitment } = row;
      const shown = await bench.shown(person, testId);
      const rows = await listPulls(db, [testId]);
      const sheet = rows.map(missingPull);
      const session = (await sessionsOf(db, testId)).at(-1);
      const raw = session ? await upToDate(row, await recordingsOf(db, session.id), rows) : [];
      const place = new Map(sheet.map((p) => [p.id, p]));
      const logWanted = shown.devices.some((d) => d.kind === 'logger');
      const watched = raw.flatMap((r): WatchedRecording[] => {
        const pull = r.pullId === null ? undefined : place.get(r.pullId);
        if (r.state !== 'complete' || !r.summary) return [];
        return [
          {
            id: r.id,
            label: pull ? labelOf(pull) : `Extra pull ${r.order}`,
            arm: r.arm,
            run: pull?.run ?? 0,
            counted: pull?.counted === true && !pull.excluded,
            order: r.order!,
            summary: r.summary,
            clocksOffMs: r.clocksOff,
            logWanted,
            logJoined: r.logOffsetS !== null,
          },
        ];
      });
      const known = dyno.repeatability.bandAverage?.variance;
      const historySd = known === undefined ? null : Math.sqrt(known);
      const notices = watchSession(watched, {
        engine: engineOfFitment(fitment),
        band: { fromRpm: test.fromRpm, toRpm: test.toRpm },
        controls: test.controls,
        historySd,
      });
      const done = shown.recordings.map(({ id, pullId, arm, state, order, mounting }) => ({
        id,
        pullId,
        arm,
        state,
        order,
        mounting,
      }));
      const without = new Set(
        notices
          .filter((n) => GONE.has(n.code))
          .flatMap((n) => watched.filter((w) => w.counted && w.id === n.recordingId)),
      );
      return {
        ...shown,
        recordings: shown.recordings.map((r) => ({
          ...r,
          summary: raw.find(({ id }) => id === r.id)?.summary ?? r.summary,
        })),
        rpm: rpmGrid(test.fromRpm, test.toRpm, test.stepRpm),
        notices,
        spread: spreadOf(watched),
        historySd,
        missing: session
          ? stillMissing(
              sheet,
              done,
              [...without].map((w) => w.label),
            )
          : [],
        departures: departures(sheet, done),
      };
    },
  };
}
export type BenchWatch = ReturnType<typeof createBenchWatch>;

/** “Pull p4”, “Warm-up w1”: as it stands on the run sheet. */
const labelOf = ({ label, counted }: MissingPull): string => `${counted ? 'Pull' : 'Warm-up'} ${label}`;
