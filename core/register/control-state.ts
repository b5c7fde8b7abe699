/** Where a control vehicle stands on its chart at the time of a session. */
import type { ControlStudy } from './dyno-health.ts';
import type { KnownVariance } from './repeatability.ts';
import { chartReference, controlChart, type ChartPoint, type ChartReference } from './control-chart.ts';

/** Checks that make the reference; before there are more, nothing is out of limits. */
export const REFERENCE_CHECKS = 20;

export interface ChartedChecks {
  readonly reference: ChartReference;
  /** Of the checks after the reference, in order. */ readonly points: readonly ChartPoint[];
}
/** @param values one a check, lp, in order of time; null with fewer than a reference and one more */
export function chartOf(values: readonly number[]): ChartedChecks | null {
  const reference = chartReference(values.slice(0, REFERENCE_CHECKS));
  if (!reference || values.length <= REFERENCE_CHECKS) return null;
  return { reference, points: controlChart(reference, values.slice(REFERENCE_CHECKS)) };
}

/**
 * Variance of days to be used: as estimated, and never below a quarter of what the days' means show, as for repeated
 * tests: an estimate of nothing is no proof of nothing.
 */
export const registeredDay = ({ day, ms, c, df }: ControlStudy): KnownVariance => ({
  variance: Math.max(day, ms[0] / c[2] / 4),
  df: df[0],
});

/** What a check reads: the mean of its pulls, lp. */
export const checkLevel = (values: readonly number[]): number =>
  values.reduce((sum, v) => sum + v, 0) / values.length;

/** A control vehicle with all its checks, in order of time. */
export interface ChartedControl {
  readonly id: string;
  readonly control: string;
  /** The one it took the place of, since when (ms), and why. */
  readonly replaces: string | null;
  readonly since: number;
  readonly reason: string;
  readonly checks: readonly TimedCheck[];
}
export interface TimedCheck {
  /** Moment, ms. */ readonly at: number;
  /** What it reads, lp. */ readonly value: number;
  /** Why it was crossed out; null where it stands. */ readonly crossedOut: string | null;
}
export interface Alarm {
  readonly control: string;
  readonly when: 'before' | 'after';
  /** Moving mean less the centre, and the limit it is beyond; lp. */
  readonly off: number;
  readonly limit: number;
}
/** What was taken out of the chart beside a session, and why: it can no longer say that the dyno had moved. */
export interface SetAside {
  readonly control: string;
  readonly what: 'crossed out' | 'begun anew';
  /** Moment, ms: of the check, or when the chart was begun anew. */ readonly at: number;
  readonly reason: string;
}
export interface Session {
  /** Moments of its first and last pull, ms. */
  readonly first: number;
  readonly last: number;
}

const standing = ({ checks }: ChartedControl): TimedCheck[] => checks.filter((c) => c.crossedOut === null);
/** Those that were not begun anew before the session: a former chart is no longer that of the dyno. */
const ofItsTime = (controls: readonly ChartedControl[], { first }: Session): ChartedControl[] =>
  controls.filter((control) => !controls.some((c) => c.replaces === control.id && c.since <= first));

/** The first control vehicle whose last check before a session or first one after it is out of limits; else null. */
export function alarmAround(controls: readonly ChartedControl[], session: Session): Alarm | null {
  return ofItsTime(controls, session).flatMap((control) => alarmsOf(control, session))[0] ?? null;
}

function alarmsOf(control: ChartedControl, { first, last }: Session): Alarm[] {
  const checks = standing(control);
  const chart = chartOf(checks.map((c) => c.value));
  if (!chart) return [];
  const { reference, points } = chart;
  // Those of the reference are on no chart, and stand between all the same.
  const charted = checks.map(({ at }, i) => ({
    at,
    point: i < REFERENCE_CHECKS ? undefined : points[i - REFERENCE_CHECKS],
  }));
  const of = (one: (typeof charted)[number] | undefined, when: Alarm['when']): Alarm[] =>
    one?.point?.alarm
      ? [
          {
            control: control.control,
            when,
            off: one.point.ewma - reference.center,
            limit: one.point.upper - reference.center,
          },
        ]
      : [];
  return [
    ...of(
      charted.findLast((c) => c.at <= first),
      'before',
    ),
    ...of(
      charted.find((c) => c.at >= last),
      'after',
    ),
  ];
}

/**
 * Checks crossed out between the one that stands before a session and the one that stands after it; and a chart that
 * was begun anew out of its limits, as long as the new one has no reference.
 */
export function setAsideBeside(controls: readonly ChartedControl[], session: Session): SetAside[] {
  return ofItsTime(controls, session).flatMap((control) => [
    ...crossedOutBeside(control, session),
    ...begunAnew(control, controls, session),
  ]);
}

function crossedOutBeside(control: ChartedControl, { first, last }: Session): SetAside[] {
  const stands = standing(control);
  const from = stands.findLast((c) => c.at <= first)?.at ?? -Infinity;
  const to = stands.find((c) => c.at >= last)?.at ?? Infinity;
  return control.checks.flatMap(({ at, crossedOut }) =>
    crossedOut !== null && at >= from && at <= to
      ? [{ control: control.control, what: 'crossed out' as const, at, reason: crossedOut }]
      : [],
  );
}

function begunAnew(
  control: ChartedControl,
  controls: readonly ChartedControl[],
  { first }: Session,
): SetAside[] {
  const former = controls.find((c) => c.id === control.replaces);
  if (!former || standing(control).filter((c) => c.at <= first).length >= REFERENCE_CHECKS) return [];
  const wasOut = chartOf(standing(former).map((c) => c.value))?.points.at(-1)?.alarm ?? false;
  const { since: at, reason } = control;
  return wasOut && at <= first ? [{ control: control.control, what: 'begun anew', at, reason }] : [];
}
