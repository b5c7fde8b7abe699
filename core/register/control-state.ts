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

export interface TimedCheck {
  /** Moment, ms. */ readonly at: number;
  /** Mean of its pulls, lp. */ readonly value: number;
}
export interface Alarm {
  readonly when: 'before' | 'after';
  /** Moving mean less the centre, and the limit it is beyond; lp. */
  readonly off: number;
  readonly limit: number;
}

/**
 * Whether the last check before a session or the first one after it is out of limits.
 * @param checks in order of time; @param first, last moments of the session, ms
 */
export function alarmAround(checks: readonly TimedCheck[], first: number, last: number): Alarm | null {
  const chart = chartOf(checks.map((c) => c.value));
  if (!chart) return null;
  const { reference, points } = chart;
  // Those of the reference are on no chart, and stand between all the same.
  const charted = checks.map(({ at }, i) => ({
    at,
    point: i < REFERENCE_CHECKS ? undefined : points[i - REFERENCE_CHECKS],
  }));
  const before = charted.findLast((c) => c.at <= first);
  const after = charted.find((c) => c.at >= last);
  const of = (one: typeof before, when: Alarm['when']): Alarm[] =>
    one?.point?.alarm
      ? [
          {
            when,
            off: one.point.ewma - reference.center,
            limit: one.point.upper - reference.center,
          },
        ]
      : [];
  return [...of(before, 'before'), ...of(after, 'after')][0] ?? null;
}
