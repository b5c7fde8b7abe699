/**
 * What else the curves and logs of two arms show, beside the metrics that may be claimed: where a torque or a boost is
 * reached, how long the sweep takes, dips, how even the gain is, fuel per work. Every interval is by rule S, with the
 * terms of the mountings, the drift and the start temperature, and none of it may be claimed.
 *
 * A level that is off by x lp moves torque, time and fuel per work by x lp, and the speed at which a torque is reached
 * by x over the slope of the curve there. So every number is brought to the scale of torque before its interval is
 * taken, and back after it.
 */
import { pctFromLp } from '../base/units.ts';
import type { ComparedPull } from './compared-pull.ts';
import type { CommonGrid, Rows } from './common-grid.ts';
import { columnMeans, meanOf } from './means.ts';
import type { FurtherMetrics, Interval, Reached, SweepTime } from './result.ts';
import type { ScalarGain } from './scalar-gain.ts';
import { torqueDips } from './torque-dips.ts';

export interface FurtherInput {
  readonly pulls: readonly ComparedPull[];
  /** 0 baseline, 1 the other arm; one entry per pull. */
  readonly arm: readonly (0 | 1)[];
  /** Torque on the common grid, lp of N·m, before smoothing and smoothed; relative gain at each rpm, lp. */
  readonly torque: CommonGrid;
  readonly smoothed: Rows;
  readonly gain: ArrayLike<number>;
  readonly alpha: number;
  /** Interval of one number per pull on the scale of torque; and of one that no level of the dyno enters. */
  readonly scalar: (values: readonly number[]) => ScalarGain;
  readonly scalarOfLog: (values: readonly number[]) => ScalarGain;
}

/** Shares of the baseline's largest mean value whose speed is told. */
export const REACHED_SHARES = [0.8, 0.9, 0.95] as const;
/** Rise of a curve below which the speed at which it reaches a level is arbitrary: lp of torque per lp of rpm. */
const LEAST_SLOPE = 0.1;
/** Below this there is no boost whose beginning could be told, Pa. */
const LEAST_BOOST_PA = 20_000;

export function furtherMetrics(input: FurtherInput): FurtherMetrics {
  const { torque, smoothed, arm, gain, alpha } = input;
  const rowsOf = (which: 0 | 1): Rows => smoothed.filter((_, i) => arm[i] === which);
  return {
    reaching: reachingTorque(input),
    boost: reachingBoost(input),
    sweepTime: sweepTime(input),
    spread: spreadOf(torque.rpm, gain),
    dips: {
      arm: torqueDips(rowsOf(1), torque.rpm, alpha),
      against: torqueDips(rowsOf(0), torque.rpm, alpha),
    },
    fuelPerWork: fuelPerWork(input),
  };
}

/** An interval of `of·d` from one of `d`, whichever way `of` turns it. */
function through({ d, lower, upper }: ScalarGain, of: (d: number) => number): Interval {
  const ends = [of(lower), of(upper)];
  return { gain: of(d), lower: Math.min(...ends), upper: Math.max(...ends) };
}
const plusLp = (value: number, d: number): number => value * (Math.exp(d / 100) - 1);

/** 100·ln of the rpm at which a rising curve first passes a level; why not, where it does not. */
export function passes(
  row: ArrayLike<number>,
  rpm: readonly number[],
  level: number,
): number | 'before' | 'never' {
  if (row[0] >= level) return 'before';
  for (let j = 1; j < row.length; j++) {
    if (row[j] < level) continue;
    const share = (level - row[j - 1]) / (row[j] - row[j - 1]);
    return 100 * Math.log(rpm[j - 1] + share * (rpm[j] - rpm[j - 1]));
  }
  return 'never';
}

function reachingTorque({ torque, smoothed, arm, scalar }: FurtherInput): Reached[] {
  const baseline = columnMeans(smoothed.filter((_, i) => arm[i] === 0));
  const peak = Math.max(...baseline);
  return REACHED_SHARES.flatMap((share) => {
    const level = peak + 100 * Math.log(share);
    const slope = slopeAt(baseline, torque.rpm, level);
    if (slope === null || slope < LEAST_SLOPE) return [];
    const told = reached(smoothed, torque.rpm, level, arm, (at) => {
      const gain = scalar(at.map((v) => -slope * v));
      return (against) => through(gain, (d) => plusLp(against, -d / slope));
    });
    return told ? [{ share, level: Math.exp(level / 100), ...told }] : [];
  });
}

/** Boost over ambient, of which the dyno’s own level says nothing: the pulls’ scatter alone. */
function reachingBoost({ torque, pulls, arm, scalarOfLog }: FurtherInput): Reached | null {
  const rows = pulls.map((pull) => pull.logged?.boostPa?.slice(torque.from, torque.from + torque.rpm.length));
  if (!rows.every((row) => row !== undefined)) return null;
  const known = rows.every((row) => row.every((v) => Number.isFinite(v)));
  if (!known) return null;
  const most = Math.max(...columnMeans(rows.filter((_, i) => arm[i] === 0)));
  if (most < LEAST_BOOST_PA) return null;
  const [share] = REACHED_SHARES;
  const told = reached(rows, torque.rpm, share * most, arm, (at) => {
    const gain = scalarOfLog(at);
    return (against) => through(gain, (d) => plusLp(against, d));
  });
  return told && { share, level: share * most, ...told };
}

/** Where every pull passes the level, with the shift between the arms; nothing where one of them does not pass it. */
function reached(
  rows: Rows,
  rpm: readonly number[],
  level: number,
  arm: readonly (0 | 1)[],
  intervalOf: (at: readonly number[]) => (against: number) => Interval,
): Pick<Reached, 'armRpm' | 'againstRpm' | 'shift'> | null {
  const at = rows.map((row) => passes(row, rpm, level)).filter((v) => typeof v === 'number');
  if (at.length < rows.length) return null;
  const rpmOf = (which: 0 | 1): number => Math.exp(meanOf(at.filter((_, i) => arm[i] === which)) / 100);
  const againstRpm = rpmOf(0);
  return { armRpm: rpmOf(1), againstRpm, shift: intervalOf(at)(againstRpm) };
}

/** Rise of the curve where it passes a level, lp per lp of rpm, over some 100 rpm. */
function slopeAt(curve: readonly number[], rpm: readonly number[], level: number): number | null {
  const j = curve.findIndex((v) => v >= level);
  if (j <= 0) return null;
  const half = Math.max(1, Math.round(50 / (rpm[1] - rpm[0])));
  const [a, b] = [Math.max(0, j - half), Math.min(rpm.length - 1, j + half)];
  return (curve[b] - curve[a]) / (100 * Math.log(rpm[b] / rpm[a]));
}

/**
 * Time of the sweep over the range compared. At one inertia it goes as the integral of 1/torque over speed, so the
 * curves give its ratio; where every pull has its clock, the logged time, brought to standard air, stands beside it.
 */
function sweepTime({ torque, pulls, arm, scalar }: FurtherInput): SweepTime {
  const { rpm, rows, from } = torque;
  const change = (times: readonly number[]): Interval =>
    through(scalar(times.map((t) => -100 * Math.log(t))), (d) => pctFromLp(-d));
  const last = from + rpm.length - 1;
  const seconds = pulls.map(({ logged }) => (logged?.timeS ? logged.timeS[last] - logged.timeS[from] : NaN));
  const secondsOf = (which: 0 | 1): number => meanOf(seconds.filter((_, i) => arm[i] === which));
  return {
    fromRpm: rpm[0],
    toRpm: rpm[rpm.length - 1],
    byCurves: change(rows.map((row) => trapezoid(row.map((v) => Math.exp(-v / 100))))),
    logged: seconds.every((t) => t > 0)
      ? {
          change: change(seconds.map((t, i) => t / pulls[i].logged!.factor)),
          arm: secondsOf(1),
          against: secondsOf(0),
        }
      : null,
  };
}

const trapezoid = (values: Float64Array): number =>
  values.reduce((sum, v) => sum + v, 0) - (values[0] + values[values.length - 1]) / 2;

function spreadOf(rpm: readonly number[], gain: ArrayLike<number>): FurtherMetrics['spread'] {
  const pct = Array.from(gain, pctFromLp);
  const mean = meanOf(pct);
  const least = pct.indexOf(Math.min(...pct));
  const most = pct.indexOf(Math.max(...pct));
  return {
    sd: Math.sqrt(meanOf(pct.map((v) => (v - mean) ** 2))),
    least: { gain: pct[least], rpm: rpm[least] },
    most: { gain: pct[most], rpm: rpm[most] },
  };
}

/**
 * Fuel per unit of work at the wheel over the sweep: at one inertia each step of speed takes the time 1/torque and
 * gives the work of its speed, whatever the torque. As observed, because fuel goes with the air that was there.
 */
function fuelPerWork({ torque, pulls, arm, scalar }: FurtherInput): FurtherMetrics['fuelPerWork'] {
  const { rpm, rows, from } = torque;
  const work = rpm.reduce((sum, r) => sum + (r * Math.PI) / 30, 0);
  const perWork = pulls.map(({ logged }, i) => {
    if (!logged?.fuelM3S) return NaN;
    const { fuelM3S, factor } = logged;
    return rows[i].reduce((sum, t, j) => sum + (fuelM3S[from + j] * factor) / Math.exp(t / 100), 0) / work;
  });
  if (!perWork.every((v) => v > 0)) return null;
  const change = through(scalar(perWork.map((v) => -100 * Math.log(v))), (d) => pctFromLp(-d));
  const level = (which: 0 | 1): number =>
    Math.exp(meanOf(perWork.filter((_, i) => arm[i] === which).map(Math.log))) * LITRES_PER_KWH;
  return { change, arm: level(1), against: level(0) };
}
/** m³/J in L/kWh. */
const LITRES_PER_KWH = 1000 * 3.6e6;
