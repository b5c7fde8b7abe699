/** A recording while it streams, as the process that holds the link knows it. */
import type { DeviceKind } from '../../core/register/devices.ts';
import type { RecordingRow } from './bench-repository.ts';
import type { recordingChunks } from './bench-tables.ts';

export interface Live {
  readonly id: string;
  readonly key: string;
  readonly beganAt: number;
  /** Numbers of the dyno's samples that are kept, and that are lost for good. */
  have: Set<number>;
  readonly lost: Set<number>;
  /** Lines that wait to be written. */
  waiting: { device: DeviceKind; n: number; line: string }[];
  /** Numbers of the logger's readings that are kept. */ readonly logged: Set<number>;
  stationLines: number;
  ended: { samples: number; at: number; aborted: boolean } | null;
  finishing: boolean;
  asked: number;
}

export const liveOf = (row: RecordingRow): Live => ({
  id: row.id,
  key: row.deviceKey!,
  beganAt: row.beganAt!.getTime(),
  have: new Set(),
  lost: new Set(),
  waiting: [],
  logged: new Set(),
  stationLines: 0,
  ended: null,
  finishing: false,
  asked: 0,
});

export function keepLogged(one: Live, n: number, line: string): void {
  if (one.logged.has(n)) return;
  one.logged.add(n);
  one.waiting.push({ device: 'logger', n, line });
}
export function keepStation(one: Live, line: string): void {
  one.waiting.push({ device: 'station', n: one.stationLines, line });
  one.stationLines += 1;
}

type Chunk = typeof recordingChunks.$inferInsert;
/** Lines whose numbers follow each other make one row; sent again, the row is there already. */
export function chunksOf(recordingId: string, waiting: Live['waiting'], receivedAt: Date): Chunk[] {
  const rows: Chunk[] = [];
  for (const device of ['dyno', 'logger', 'station'] as const) {
    let run: { n: number; line: string }[] = [];
    const end = (): void => {
      if (run.length > 0)
        rows.push({
          recordingId,
          device,
          from: run[0].n,
          count: run.length,
          lines: run.map((w) => w.line).join('\n'),
          receivedAt,
        });
      run = [];
    };
    for (const w of waiting) {
      if (w.device !== device) continue;
      if (run.length > 0 && w.n !== run.at(-1)!.n + 1) end();
      run.push(w);
    }
    end();
  }
  return rows;
}
