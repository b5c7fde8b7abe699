/** What is heard of a session while a screen is open, put together from the news as they come. */
import type { BenchNews } from '../../../contract/capture/bench.ts';
import type { DeviceKind } from '../../../core/register/devices.ts';

export interface LivePull {
  readonly recordingId: string;
  /** Time s, engine speed rpm and torque N·m by sample number. */
  readonly rows: ReadonlyMap<number, readonly [number | null, number | null, number | null]>;
}
export interface Live {
  /** Newest steady values of each device. */
  readonly values: Readonly<Partial<Record<DeviceKind, readonly (number | null)[]>>>;
  readonly pull: LivePull | null;
}
export const NOTHING_HEARD: Live = { values: {}, pull: null };

/** @returns what is known with one piece of news more */
export function hearing(live: Live, news: BenchNews): Live {
  if (news.type === 'now') return { ...live, values: { ...live.values, [news.device]: news.values } };
  if (news.type !== 'samples') return live;
  const rows = new Map(live.pull?.recordingId === news.recordingId ? live.pull.rows : []);
  for (const [n, t, rpm, torque] of news.rows)
    if (n !== null) rows.set(n, [t ?? null, rpm ?? null, torque ?? null]);
  return { ...live, pull: { recordingId: news.recordingId, rows } };
}

export interface Moment {
  readonly rpm: number;
  readonly torqueNm: number | null;
  /** Until the upper end of the range at the pace of the last second, s; null where it does not rise. */
  readonly secondsLeft: number | null;
}
/** Where a running pull is. */
export function momentOf({ rows }: LivePull, toRpm: number): Moment | null {
  const known = [...rows.entries()]
    .sort(([a], [b]) => a - b)
    .map(([, row]) => row)
    .filter(([t, rpm]) => t !== null && rpm !== null) as [number, number, number | null][];
  const last = known.at(-1);
  if (!last) return null;
  const before = known.findLast(([t]) => t <= last[0] - 1);
  const pace = before ? (last[1] - before[1]) / (last[0] - before[0]) : 0;
  return {
    rpm: last[1],
    torqueNm: last[2],
    secondsLeft: pace > 20 && toRpm > last[1] ? (toRpm - last[1]) / pace : null,
  };
}
