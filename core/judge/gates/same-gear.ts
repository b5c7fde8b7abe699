/** Whether all pulls were driven in one gear, by the ratio of engine to roller speed. */
import type { SpeedRatio } from '../../correct/speed-ratio.ts';
import { median } from '../../base/robust.ts';
import { found, type Found } from '../finding.ts';

/** Tyres grow and slip by less; no two gears are as close (common practice). */
const APART = 0.03;

/** Nothing where the files do not say: then the gear is known from the plan only. */
export function sameGear(
  pulls: readonly { readonly id: string; readonly speedRatio: SpeedRatio | null }[],
): Found[] {
  const known = pulls.flatMap(({ id, speedRatio }) => (speedRatio ? [{ id, ...speedRatio }] : []));
  if (known.length < 2 || new Set(known.map((p) => p.of)).size > 1) return [];
  const usual = median(known.map((p) => p.ratio));
  const other = known.filter((p) => Math.abs(p.ratio / usual - 1) > APART);
  return other.length > 0
    ? [
        found(
          'same setting',
          'fail',
          'OTHER_GEAR',
          other.map((p) => ({ id: p.id, share: p.ratio / usual - 1 })),
        ),
      ]
    : [found('same setting', 'pass', 'ONE_GEAR', known.length)];
}
