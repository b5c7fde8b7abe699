/**
 * Start temperatures and several days, on simulated sessions: what a registered slope buys and what arms that start
 * unequally warm cost without one; what the mean over two days holds with and without the variance between days.
 */
import { seededRng, type Rng } from '../../core/base/rng.ts';
import { guardDays } from '../../core/compare/day-guard.ts';
import { meanOf } from '../../core/compare/means.ts';
import { scalarGain, type ScalarGain } from '../../core/compare/scalar-gain.ts';
import { smoothedRows } from '../../core/compare/smoothing.ts';
import { temperatureTerm } from '../../core/compare/start-temperature.ts';
import type { Layout } from '../../core/plan/contrast-weights.ts';
import { DAY_RULE, registerDayVariance } from '../../core/register/day-variance.ts';
import type { KnownVariance } from '../../core/register/repeatability.ts';
import { registerSlope, type TemperatureSlope } from '../../core/register/temperature-slope.ts';
import { designLayout } from './designs.ts';
import { NOISE_MODELS, pullDrawer } from './noise-models.ts';
import { STUDY_GRID, STUDY_RPM } from './study-grid.ts';

const SLOPE = -0.21;
const LEVEL_SD = 0.6;
/** Past sessions a slope is registered from. */
const PAST = 20;
/** Gains that are looked for with 3, 4 and 5 pulls a run, lp. */
export const LOOKED_FOR: Readonly<Record<number, number>> = { 3: 1.55, 4: 1.27, 5: 1.12 };

const draw = pullDrawer(STUDY_RPM, NOISE_MODELS[0]);
const levelless = pullDrawer(STUDY_RPM, { ...NOISE_MODELS[0], levelShare: 0 });
interface Session {
  readonly rows: Float64Array[];
  readonly averages: number[];
  readonly T: number[];
}
/** A session whose level follows the start temperature by so much of its variance. */
function session(layout: Layout, share: number, apartK: number, rng: Rng): Session {
  const sdT = Math.sqrt(share) * (LEVEL_SD / Math.abs(SLOPE));
  const T = layout.arm.map((arm) => sdT * rng.normal() + arm * apartK);
  const raw = layout.arm.map((arm, i) => {
    const rest = Math.sqrt(1 - share) * LEVEL_SD * rng.normal();
    const level = (share > 0 || apartK !== 0 ? SLOPE * T[i] : 0) + rest;
    return levelless(arm, rng).map((v) => v + level);
  });
  return { rows: smoothedRows(raw, STUDY_GRID.stepRpm), averages: raw.map((row) => meanOf([...row])), T };
}
const holdsZero = ({ lower, upper }: { lower: number; upper: number }): number =>
  lower <= 0 && upper >= 0 ? 1 : 0;

/** The slope as past sessions of the same car register it; null where they do not. */
function registered(layout: Layout, share: number, rng: Rng): TemperatureSlope | null {
  const past = Array.from({ length: PAST }, () => {
    const { averages, T } = session(layout, share, 0, rng);
    return { y: averages, T, run: layout.run };
  });
  const slope = registerSlope(past);
  return slope.registered ? slope : null;
}

export interface HeatRates {
  /** How often the gain looked for is found, %, without and with the registered slope; intervals that hold, %. */
  readonly plain: number;
  readonly adjusted: number;
  readonly plainHolds: number;
  readonly adjustedHolds: number;
  readonly registered: number;
}
export function heatRates(
  n: number,
  share: number,
  apartK: number,
  sessions: number,
  seed: number,
): HeatRates {
  const rng = seededRng(seed);
  const layout = designLayout('A-B-A', n, false);
  const sums = { plain: 0, adjusted: 0, plainHolds: 0, adjustedHolds: 0, registered: 0 };
  const each = 100 / sessions;
  for (let t = 0; t < sessions; t++) {
    const slope = registered(layout, share, rng);
    const { rows, averages, T } = session(layout, share, apartK, rng);
    const plain = scalarGain(averages, rows, layout, { alpha: 0.025 }, 'strict');
    let adjusted: ScalarGain = plain;
    if (slope) {
      const term = temperatureTerm(T, layout, slope);
      const moved = averages.map((v, i) => v - term.shift[i]);
      const curves = rows.map((row, i) => row.map((v) => v - term.shift[i]));
      adjusted = scalarGain(moved, curves, layout, { alpha: 0.025, temperature: term }, 'strict');
      sums.registered += each;
    }
    const found = ({ lower }: ScalarGain): number => (lower + LOOKED_FOR[n] > 0 ? each : 0);
    sums.plain += found(plain);
    sums.adjusted += found(adjusted);
    sums.plainHolds += each * holdsZero(plain);
    sums.adjustedHolds += each * holdsZero(adjusted);
  }
  return sums;
}

/** Two sessions of one car on two days, as one analysis and each by itself. */
function twoDays(n: number, daySd: number, rng: Rng) {
  const one = designLayout('A-B-A', n, false);
  const days = [0, 1].map(() => {
    const day = daySd * rng.normal();
    const raw = one.arm.map((arm) => draw(arm, rng).map((v) => v + arm * day));
    return { rows: smoothedRows(raw, STUDY_GRID.stepRpm), averages: raw.map((row) => meanOf([...row])) };
  });
  const runs = Math.max(...one.run) + 1;
  const joint: Layout = {
    ...one,
    arm: [...one.arm, ...one.arm],
    run: [...one.run, ...one.run.map((r) => r + runs)],
    mount: [...one.mount.map(() => 'a'), ...one.mount.map(() => 'b')],
    order: [...one.order, ...one.order],
    session: [...one.arm.map(() => 0), ...one.arm.map(() => 1)],
  };
  return { one, joint, days, rows: days.flatMap((d) => d.rows), averages: days.flatMap((d) => d.averages) };
}

export interface DayRates {
  readonly holds: number;
  readonly found: number;
}
const WAYS = ['without', 'policy', 'registered'] as const;
/** Repeated tests of two sessions each that a variance between days is registered from. */
const REPEATS = 10;

/** The interval of the mean over two days: with no term for the day, the policy's, and one registered from ten repeats. */
export function dayRates(
  n: number,
  daySd: number,
  sessions: number,
  seed: number,
): Record<(typeof WAYS)[number], DayRates> {
  const rng = seededRng(seed);
  const none = (): { holds: number; found: number } => ({ holds: 0, found: 0 });
  const rates = { without: none(), policy: none(), registered: none() };
  const each = 100 / sessions;
  const terms = { alpha: 0.025 };
  const single = (d: ReturnType<typeof twoDays>, k: number): ScalarGain =>
    scalarGain(d.days[k].averages, d.days[k].rows, d.one, terms, 'strict');
  const apartVariance = ({ candidates }: ScalarGain): number => candidates[candidates.length - 1].variance;
  for (let t = 0; t < sessions; t++) {
    const past = Array.from({ length: REPEATS }, () => {
      const d = twoDays(n, daySd, rng);
      const own = [0, 1].map((k) => single(d, k));
      return { d: own.map((s) => s.d), u2: own.map(apartVariance) };
    });
    const own = registerDayVariance(past)!;
    const now = twoDays(n, daySd, rng);
    const known: Record<(typeof WAYS)[number], KnownVariance | null> = {
      without: null,
      policy: DAY_RULE.policy,
      registered: own,
    };
    for (const way of WAYS) {
      const day = known[way];
      const term = day ? { day: { variance: day.variance / 2, df: day.df } } : {};
      const joint = scalarGain(now.averages, now.rows, now.joint, { ...terms, ...term }, 'strict');
      const { lower, upper } = day ? guardDays(joint, [single(now, 0), single(now, 1)], day.variance) : joint;
      rates[way].holds += each * holdsZero({ lower, upper });
      rates[way].found += lower + LOOKED_FOR[n] > 0 ? each : 0;
    }
  }
  return rates;
}

export function heatAndDaysReport(sessions: number, seed = 20267): string {
  const percent = (v: number): string => v.toFixed(1);
  const shares = [0, 0.25, 0.5].map((share, k) => ({ share, r: heatRates(3, share, 0, sessions, seed + k) }));
  const apart = [3, 4, 5].map((n) => ({ n, r: heatRates(n, 0, 3, sessions, seed + 10 + n) }));
  const days = [0, 0.3, 0.6].map((sd, k) => ({ sd, r: dayRates(3, sd, sessions, seed + 20 + k) }));
  return [
    '| share of the level’s variance by the start temperature, n = 3 | power without ' +
      '| with the registered slope | registered | holds with it |',
    '|---|---|---|---|---|',
    ...shares.map(
      ({ share, r }) =>
        `| ${100 * share} % | ${percent(r.plain)} | ${percent(r.adjusted)} | ${percent(r.registered)} | ${percent(r.adjustedHolds)} |`,
    ),
    '',
    '| arms 3 K apart, −0.21 lp/K, not adjusted | holds |',
    '|---|---|',
    ...apart.map(({ n, r }) => `| n = ${n} | ${percent(r.plainHolds)} |`),
    '',
    '| two days, n = 3, SD between days, lp | no day term: holds | policy with guard: holds, power | registered from ten: holds, power |',
    '|---|---|---|---|',
    ...days.map(
      ({ sd, r }) =>
        `| ${sd} | ${percent(r.without.holds)} | ${percent(r.policy.holds)}, ${percent(r.policy.found)} ` +
        `| ${percent(r.registered.holds)}, ${percent(r.registered.found)} |`,
    ),
  ].join('\n');
}
