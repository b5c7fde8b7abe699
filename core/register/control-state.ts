/** Where a control vehicle stands on its chart at the time of a session. */
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
  const charted = checks.slice(REFERENCE_CHECKS).map(({ at }, i) => ({ at, point: points[i] }));
  const before = charted.findLast((c) => c.at <= first);
  const after = charted.find((c) => c.at >= last);
  const of = (one: typeof before, when: Alarm['when']): Alarm[] =>
    one?.point.alarm
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
