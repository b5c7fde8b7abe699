/** Peak power that an engine of this rating cannot give, whatever is fitted to it. */
import { powerW } from '../../base/units.ts';
import { found, type Found } from '../finding.ts';

/**
 * At the wheel, as a share of the rating: below a part of it the wrong column or unit was read; above several times
 * of it, too (common practice: losses take 10 to 25 %, the largest conversions give twice).
 */
const [LEAST, MOST] = [0.2, 3];

interface Curve {
  readonly id: string;
  /** Corrected torque at each rpm of the grid, N·m; NaN where there is none. */
  readonly torqueNm: Float64Array;
}
export function beyondEngine(
  curves: readonly Curve[],
  grid: readonly number[],
  ratedKw: number | undefined,
): Found[] {
  if (ratedKw === undefined) return [];
  return curves.flatMap(({ id, torqueNm }) => {
    const kw = torqueNm.reduce(
      (most, t, j) => Math.max(most, Number.isNaN(t) ? 0 : powerW(t, grid[j]) / 1000),
      0,
    );
    return kw > 0 && (kw < LEAST * ratedKw || kw > MOST * ratedKw)
      ? [found('readings', 'fail', 'BEYOND_ENGINE', id, kw, ratedKw)]
      : [];
  });
}
