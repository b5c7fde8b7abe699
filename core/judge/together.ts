/**
 * All finished tests of one part on one kind of car put together: the days of a vehicle first, each session keeping its
 * own runs, then the vehicles. What may be said grows with them; no number is borrowed from anywhere else.
 */
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import { tUpperQuantile } from '../base/distributions.ts';
import { pctFromLp } from '../base/units.ts';
import type { Interval } from '../compare/result.ts';
import type { Guard } from '../base/guard.ts';
import { guardDays } from '../compare/day-guard.ts';
import { scalarGain, type ScalarGain } from '../compare/scalar-gain.ts';
import type { Layout } from '../plan/contrast-weights.ts';
import type { KnownVariance } from '../register/repeatability.ts';
import { synthesise, type Synthesis } from './synthesis.ts';

/** Pulls of the two arms of a session, in order; curves smoothed, lp, on one grid without gaps. */
export interface TogetherPulls {
  readonly arm: readonly (0 | 1)[];
  readonly run: readonly number[];
  readonly mount: readonly (number | string)[];
  readonly order: readonly number[];
  readonly averages: readonly number[];
  readonly curves: readonly (readonly number[])[];
}
export interface TogetherSession {
  readonly vehicle: string;
  readonly dyno: string;
  /** Calendar day. */ readonly day: string;
  /** Band average with its limits, and its variance from all sources; lp, lp². */
  readonly gain: number;
  readonly lower: number;
  readonly upper: number;
  readonly variance: number;
  readonly df: number;
  /** Of that variance what the drift between the arms may have been. */ readonly drift: number;
  readonly mount?: KnownVariance | undefined;
  readonly guard: Guard;
  /** Left out where pulls were moved by a start temperature: then sessions are averaged as they are. */
  readonly pulls?: TogetherPulls | undefined;
}
export interface VehicleTogether {
  readonly vehicle: string;
  /** Places of its sessions in what was handed in. */
  readonly sessions: readonly number[];
  /** lp; the limits are those that may be told. */
  readonly gain: number;
  readonly lower: number;
  readonly upper: number;
  readonly variance: number;
  /** Whether its days differ by more than they are known to; null with one. */
  readonly disagree: boolean | null;
}
export type TogetherGrade = 'single' | 'repeated' | 'days disagree' | 'two vehicles' | 'not shown' | 'fleet';
export interface Together {
  readonly vehicles: readonly VehicleTogether[];
  readonly grade: TogetherGrade;
  /** With two vehicles or more. */ readonly synthesis: Synthesis | null;
}

/** @param day variance of a gain between days, lp² */
export function together(
  sessions: readonly TogetherSession[],
  alpha: number,
  day: KnownVariance,
): Together | null {
  if (sessions.length === 0) return null;
  const names = [...new Set(sessions.map((s) => s.vehicle))];
  const vehicles = names.map((vehicle) => {
    const own = sessions.flatMap((s, i) => (s.vehicle === vehicle ? [i] : []));
    const { gain, lower, upper, variance, disagree } = ofVehicle(
      own.map((i) => sessions[i]),
      alpha,
      day,
    );
    return { vehicle, sessions: own, gain, lower, upper, variance, disagree };
  });
  const synthesis = synthesise(vehicles, alpha) ?? null;
  return { vehicles, synthesis, grade: gradeOf(vehicles, sessions, synthesis) };
}

function gradeOf(
  vehicles: readonly VehicleTogether[],
  sessions: readonly TogetherSession[],
  synthesis: Synthesis | null,
): TogetherGrade {
  if (vehicles.length >= 3) return synthesis!.lower > 0 ? 'fleet' : 'not shown';
  if (vehicles.length === 2) return 'two vehicles';
  if (vehicles[0].disagree) return 'days disagree';
  const apart = new Set(sessions.map((s) => `${s.day} ${s.dyno}`));
  return apart.size > 1 ? 'repeated' : 'single';
}

function ofVehicle(
  sessions: readonly TogetherSession[],
  alpha: number,
  day: KnownVariance,
): Omit<VehicleTogether, 'vehicle' | 'sessions'> {
  const [first] = sessions;
  if (sessions.length === 1) return { ...first, disagree: null };
  const joint = jointScalar(sessions, alpha, day);
  if (!joint) return averaged(sessions, alpha, day);
  const singles = sessions.map((s) => single(s, alpha));
  const guarded = guardDays(joint, singles, day.variance);
  return {
    gain: joint.d,
    lower: guarded.lower,
    upper: guarded.upper,
    variance: joint.used.uc ** 2,
    disagree: guarded.disagree,
  };
}

const layoutOf = ({ arm, run, mount, order }: TogetherPulls, k = 0): Layout => ({
  arm,
  run: run.map((r) => r + 1000 * k),
  // Mountings of different days are different mountings.
  mount: mount.map((m) => `${k} ${m}`),
  order,
  covariate: false,
});
const rowsOf = ({ curves }: TogetherPulls): Float64Array[] => curves.map((row) => Float64Array.from(row));

const single = ({ pulls, guard, mount, drift }: TogetherSession, alpha: number): ScalarGain =>
  scalarGain(
    pulls!.averages,
    rowsOf(pulls!),
    layoutOf(pulls!),
    { alpha, mount, driftVariance: drift },
    guard,
  );

/** All sessions in one analysis by rule S; undefined where they do not share a grid, or pulls were moved. */
function jointScalar(
  sessions: readonly TogetherSession[],
  alpha: number,
  day: KnownVariance,
): ScalarGain | undefined {
  const K = sessions.length;
  const pulls = sessions.map((s) => s.pulls);
  const points = pulls[0]?.curves[0]?.length;
  if (!pulls.every((p) => p && p.curves.every((row) => row.length === points))) return undefined;
  const layouts = pulls.map((p, k) => layoutOf(p!, k));
  const joined = <T>(of: (layout: Layout) => readonly T[]): T[] => layouts.flatMap((l) => [...of(l)]);
  const layout: Layout = {
    arm: joined((l) => l.arm),
    run: joined((l) => l.run),
    mount: joined((l) => l.mount),
    order: joined((l) => l.order),
    covariate: false,
    session: layouts.flatMap((l, k) => l.arm.map(() => k)),
  };
  // The least known of the sessions' registered mountings stands for all.
  const mount = sessions.reduce<KnownVariance | undefined>(
    (most, s) => (s.mount && (!most || s.mount.variance > most.variance) ? s.mount : most),
    undefined,
  );
  const terms = {
    alpha,
    mount,
    driftVariance: sessions.reduce((sum, s) => sum + s.drift, 0) / K ** 2,
    day: { variance: day.variance / K, df: day.df },
  };
  const guard = sessions.some((s) => s.guard === 'strict') ? 'strict' : 'usual';
  return scalarGain(
    pulls.flatMap((p) => [...p!.averages]),
    pulls.flatMap((p) => rowsOf(p!)),
    layout,
    terms,
    guard,
  );
}

/** Mean of sessions as they stand, each with its own variance, and the day's; disagreement by the same measure. */
function averaged(sessions: readonly TogetherSession[], alpha: number, day: KnownVariance) {
  const K = sessions.length;
  const gain = sessions.reduce((sum, s) => sum + s.gain, 0) / K;
  const { u2, nu } = welchSatterthwaite(
    [...sessions.map((s) => s.variance / K ** 2), day.variance / K],
    [...sessions.map((s) => s.df), day.df],
  );
  const half = tUpperQuantile(alpha, nu) * Math.sqrt(u2);
  const own = sessions.map((s) => ({
    d: s.gain,
    lower: s.lower,
    upper: s.upper,
    candidates: [{ variance: s.variance } as ScalarGain['candidates'][number]],
  }));
  const { lower, upper, disagree } = guardDays({ lower: gain - half, upper: gain + half }, own, day.variance);
  return { gain, lower, upper, variance: u2, disagree };
}

/** A gain with its limits in per cent, from lp. */
export const inPercent = ({ gain, lower, upper }: Interval): Interval => ({
  gain: pctFromLp(gain),
  lower: pctFromLp(lower),
  upper: pctFromLp(upper),
});
