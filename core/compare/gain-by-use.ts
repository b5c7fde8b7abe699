import { pctFromLp } from '../base/units.ts';
import { weightsOn, type UsePoint } from '../register/use-profile.ts';
import type { CommonGrid, Rows } from './common-grid.ts';
import { columnMeans } from './means.ts';
import type { Interval } from './result.ts';
import type { ScalarGain } from './scalar-gain.ts';

/** Share of a profile's weight that has to lie in the range compared. */
export const LEAST_COVERED = 0.9;

/** Where the baseline's mean curve is largest. */
export function peakRpm(smoothedPower: Rows, arm: readonly (0 | 1)[], rpm: readonly number[]): number {
  const mean = columnMeans(smoothedPower.filter((_, i) => arm[i] === 0));
  return rpm[mean.indexOf(Math.max(...mean))];
}

/** The gain averaged with the weights of a use, %: one weighted mean per pull, its interval by rule S. */
export function gainByUse(
  points: readonly UsePoint[],
  { rows, rpm }: Pick<CommonGrid, 'rows' | 'rpm'>,
  peak: number,
  scalar: (values: readonly number[]) => ScalarGain,
): { covered: number; gain: Interval | null } {
  const on = weightsOn(points, rpm, peak);
  if (!on || on.covered < LEAST_COVERED) return { covered: on?.covered ?? 0, gain: null };
  const { d, lower, upper } = scalar(
    rows.map((row) => on.weights.reduce((sum, w, j) => sum + w * row[j], 0)),
  );
  return {
    covered: on.covered,
    gain: { gain: pctFromLp(d), lower: pctFromLp(lower), upper: pctFromLp(upper) },
  };
}
