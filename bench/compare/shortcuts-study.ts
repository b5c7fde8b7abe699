/**
 * What the shortcuts find when the part does nothing: three pulls before, three after, on simulated sessions.
 * `npm run bench -- shortcuts` prints the table of docs/method.md, whose frequencies stand in
 * core/compare/shortcut-rates.ts.
 */
import { seededRng, type Rng } from '../../core/base/rng.ts';
import { lp, powerW } from '../../core/base/units.ts';
import { ENGINES } from '../../core/capture/simulated/engines.ts';
import { pullNoise, TYPICAL_NOISE } from '../../core/capture/simulated/noise.ts';
import { columnMeans, meanOf } from '../../core/compare/means.ts';
import { smoothed } from '../../core/compare/smoothing.ts';
import { rpmGrid } from '../../core/correct/torque-curve.ts';
import { judgedStudy, JUDGED_BY, type FalseClaims } from './shortcuts-judged.ts';

export const SEED = 20263;
/** Pulls of an arm. */
const PULLS = 3;
const STEP_RPM = 50;
const rpm = rpmGrid(2000, 7000, STEP_RPM);

/** What else is wrong with the session, as a shift of each of the six pulls in their order, lp. */
export interface Circumstance {
  readonly name: string;
  /** Whether the arms stand in mountings of their own. */ readonly remounted: boolean;
  readonly shifts: (rng: Rng) => readonly number[];
}
const COLD = [-1.5, -1, -0.5];
const HEAT_PER_PULL = -0.2;
const soak = Array.from({ length: 2 * PULLS }, (_, i) => HEAT_PER_PULL * i);
/** Difference of two mountings on the second arm. */
const remounted = (rng: Rng): number[] => {
  const step = TYPICAL_NOISE.remountStep * rng.normal();
  return Array.from({ length: 2 * PULLS }, (_, i) => (i < PULLS ? 0 : step));
};
const sum = (a: readonly number[], b: readonly number[]): number[] => a.map((v, i) => v + b[i]);
export const CIRCUMSTANCES: readonly Circumstance[] = [
  { name: 'ideal', remounted: false, shifts: () => soak.map(() => 0) },
  { name: 're-mount', remounted: true, shifts: remounted },
  { name: 'heat soak', remounted: false, shifts: () => soak },
  { name: 're-mount + heat soak', remounted: true, shifts: (rng) => sum(remounted(rng), soak) },
  {
    name: 're-mount, both arms cold',
    remounted: true,
    shifts: (rng) => sum(remounted(rng), [...COLD, ...COLD]),
  },
  { name: 'cold baseline', remounted: false, shifts: () => [...COLD, 0, 0, 0] },
];

/** Smoothed peaks (lp) and curves before smoothing of the pulls of an arm, in their order. */
interface Arm {
  readonly peaks: readonly number[];
  readonly curves: readonly Float64Array[];
}
const overlay = (after: ArrayLike<number>, before: ArrayLike<number>): number =>
  Array.from(after, (v, j) => v - before[j]).reduce((a, b) => Math.max(a, b), -Infinity);
const best = ({ peaks }: Arm): number => peaks.indexOf(Math.max(...peaks));
const last = PULLS - 1;

/** Apparent gain by each shortcut, lp. */
export const SHORTCUTS: Readonly<Record<string, (before: Arm, after: Arm) => number>> = {
  'mean of 3 peaks': (b, a) => meanOf(a.peaks) - meanOf(b.peaks),
  'best of 3 against best of 3': (b, a) => Math.max(...a.peaks) - Math.max(...b.peaks),
  'last pull against first pull': (b, a) => a.peaks[last] - b.peaks[0],
  'best after against first before': (b, a) => Math.max(...a.peaks) - b.peaks[0],
  'best after against worst before': (b, a) => Math.max(...a.peaks) - Math.min(...b.peaks),
  'overlay, last pulls': (b, a) => overlay(a.curves[last], b.curves[last]),
  'overlay, best pulls': (b, a) => overlay(a.curves[best(a)], b.curves[best(b)]),
  'overlay, last after, first before': (b, a) => overlay(a.curves[last], b.curves[0]),
  'overlay, means of 3': (b, a) => overlay(columnMeans(a.curves), columnMeans(b.curves)),
};

export interface ShortcutRate {
  /** Mean apparent gain, %, and how often it is at least 1 and 2 %, in per cent of sessions. */
  readonly mean: number;
  readonly one: number;
  readonly two: number;
}

export function shortcutsStudy(
  { shifts }: Circumstance,
  sessions: number,
  seed = SEED,
): Record<string, ShortcutRate> {
  const rng = seededRng(seed);
  const noise = pullNoise(rpm, TYPICAL_NOISE);
  const base = Float64Array.from(rpm, (r) => lp(powerW(ENGINES.na4.torqueNm(r), r)));
  const names = Object.keys(SHORTCUTS);
  const totals = names.map(() => ({ mean: 0, one: 0, two: 0 }));
  for (let t = 0; t < sessions; t++) {
    const moved = shifts(rng);
    const pulls = moved.map((shift) => noise(rng).map((v, j) => base[j] + v + shift));
    const armOf = (curves: Float64Array[]): Arm => ({
      curves,
      peaks: curves.map((row) => smoothed(row, STEP_RPM).reduce((a, b) => Math.max(a, b))),
    });
    const [before, after] = [armOf(pulls.slice(0, PULLS)), armOf(pulls.slice(PULLS))];
    names.forEach((name, k) => {
      const pct = 100 * Math.expm1(SHORTCUTS[name](before, after) / 100);
      totals[k].mean += pct / sessions;
      totals[k].one += pct >= 1 ? 100 / sessions : 0;
      totals[k].two += pct >= 2 ? 100 / sessions : 0;
    });
  }
  return Object.fromEntries(names.map((name, k) => [name, totals[k]]));
}

/** The table of docs/method.md. */
export function shortcutsReport(sessions: number): string {
  const columns = CIRCUMSTANCES.map((c) => shortcutsStudy(c, sessions));
  const cell = ({ mean, one, two }: ShortcutRate): string =>
    `${mean.toFixed(1).replace('-0.0', '0.0')} / ${one.toFixed(0)} / ${two.toFixed(0)}`;
  const judged = CIRCUMSTANCES.map((c) => judgedStudy(c, sessions, SEED));
  const claims = ({ some, one }: FalseClaims): string => `${some.toFixed(1)} / ${one.toFixed(1)}`;
  return [
    `| what is compared | ${CIRCUMSTANCES.map((c) => c.name).join(' | ')} |`,
    `|---|${CIRCUMSTANCES.map(() => '---|').join('')}`,
    ...Object.keys(SHORTCUTS).map((name) => `| ${name} | ${columns.map((c) => cell(c[name])).join(' | ')} |`),
    ...JUDGED_BY.map((by) => `| ${by}: any / 1 % | ${judged.map((j) => claims(j[by])).join(' | ')} |`),
  ].join('\n');
}
