/** A control vehicle on a dyno, day after day: how much days, mountings and pulls differ when nothing is changed. */
import type { KnownVariance } from './repeatability.ts';

/** Pulls of a control study: band average (lp), day and mounting within the day. */
export interface ControlPull {
  readonly y: number;
  readonly day: number | string;
  readonly mount: number | string;
}
/** Sources in the order day, mounting, pull. */
type BySource = readonly [day: number, mount: number, pull: number];
export interface ControlStudy {
  readonly ss: BySource;
  readonly df: BySource;
  readonly ms: BySource;
  /** Coefficients of the expected mean squares: mounting in its own, mounting and day in the day’s. */
  readonly c: readonly [number, number, number];
  /** Variances, lp²; what comes out below zero is zero, and stands beside it as it came out. */
  readonly pull: number;
  readonly mount: number;
  readonly mountRaw: number;
  readonly day: number;
  readonly dayRaw: number;
  readonly dfMount: number;
  /** Variance of a mounting to be used: as estimated where it rests on enough, else an upper one. Null: too few mountings. */
  readonly registered: KnownVariance | null;
  readonly fallback: KnownVariance;
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
/** From this many degrees of freedom on the estimate itself is used; below two there is none. */
const [ENOUGH_DF, LEAST_DF] = [4, 2];

function grouped<T>(items: readonly T[], key: (item: T) => string): Map<string, T[]> {
  const out = new Map<string, T[]>();
  for (const item of items) out.set(key(item), [...(out.get(key(item)) ?? []), item]);
  return out;
}

/**
 * Nested analysis of variance, days, mountings within days, pulls within mountings; unequal numbers allowed (Henderson
 * 1953, type I). Checked against R 4.2.2 `aov` and, balanced, against lme4 1.1-31.
 *
 * @returns undefined where fewer than two days, no day with two mountings, or no mounting with two pulls
 */
export function controlStudy(pulls: readonly ControlPull[]): ControlStudy | undefined {
  const N = pulls.length;
  const days = grouped(pulls, (p) => String(p.day));
  const mountKey = (p: ControlPull): string => `${p.day} ${p.mount}`;
  const mounts = grouped(pulls, mountKey);
  const df: BySource = [days.size - 1, mounts.size - days.size, N - mounts.size];
  if (df.some((f) => f < 1)) return undefined;
  const meanOf = (list: readonly ControlPull[]): number => mean(list.map((p) => p.y));
  const grand = meanOf(pulls);
  const dayMean = new Map([...days].map(([key, list]) => [key, meanOf(list)]));
  const ss: BySource = [
    sum([...days].map(([key, list]) => list.length * (dayMean.get(key)! - grand) ** 2)),
    sum([...mounts.values()].map((l) => l.length * (meanOf(l) - dayMean.get(String(l[0].day))!) ** 2)),
    sum([...mounts.values()].map((l) => sum(l.map((p) => (p.y - meanOf(l)) ** 2)))),
  ];
  const ms: BySource = [ss[0] / df[0], ss[1] / df[1], ss[2] / df[2]];
  const sizes = [...mounts.values()].map((l) => l.length);
  const r = sum([...mounts.values()].map((l) => l.length ** 2 / days.get(String(l[0].day))!.length));
  const c = [
    (N - r) / df[1],
    (r - sum(sizes.map((n) => n * n)) / N) / df[0],
    (N - sum([...days.values()].map((l) => l.length ** 2)) / N) / df[0],
  ] as const;
  const mountRaw = (ms[1] - ms[2]) / c[0];
  const mount = Math.max(0, mountRaw);
  const dayRaw = (ms[0] - ms[2] - c[1] * mount) / c[2];
  const dfMount = mount > 0 ? (ms[1] - ms[2]) ** 2 / (ms[1] ** 2 / df[1] + ms[2] ** 2 / df[2]) : 0;
  const fallback = { variance: Math.max(ms[1], ms[2]) / c[0], df: df[1] };
  const registered =
    dfMount >= ENOUGH_DF ? { variance: mount, df: dfMount } : df[1] >= LEAST_DF ? fallback : null;
  return {
    ss,
    df,
    ms,
    c,
    pull: ms[2],
    mount,
    mountRaw,
    day: Math.max(0, dayRaw),
    dayRaw,
    dfMount,
    registered,
    fallback,
  };
}
