/** What each pull shows by itself: factor, sweep and peaks, read within the range that all analysed pulls cover. */
import { lp, powerW } from '../base/units.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import type { SensorStarts } from '../correct/starts.ts';
import type { CorrectedPull } from '../correct/pull-correction.ts';
import { peakOf } from '../correct/torque-curve.ts';
import { commonGrid } from './common-grid.ts';
import { smoothed } from './smoothing.ts';

export interface PullResult {
  readonly id: string;
  readonly counted: boolean;
  readonly factor: number;
  readonly undone: number;
  readonly samplesUsed: number;
  readonly sweep: { readonly fromRpm: number; readonly toRpm: number; readonly beganRpm: number };
  /** `atEdge`: the largest value lies at the end of the range, so the peak itself was not reached. */
  readonly peakPower: { readonly kw: number; readonly rpm: number; readonly atEdge: boolean } | null;
  readonly peakTorque: { readonly nm: number; readonly rpm: number; readonly atEdge: boolean } | null;
  /** Band average, 100·ln of power, and what it started from, °C: what a dyno's slopes are registered from. */
  readonly averageLp?: number;
  readonly starts?: SensorStarts;
  readonly excluded?: string;
}

/** What charts draw beside the result: corrected curves on the analysis grid, null where there is no value. */
export interface PullCurve {
  readonly id: string;
  readonly arm: string;
  readonly counted: boolean;
  readonly excluded: boolean;
  readonly powerKw: readonly (number | null)[];
  readonly torqueNm: readonly (number | null)[];
}

/** A pull's own curve, bridged and smoothed over the longest stretch it covers; NaN elsewhere. */
export function smoothedOwn(
  values: Float64Array,
  grid: readonly number[],
  widthRpm: number,
  within?: { from: number; to: number },
): { values: Float64Array } {
  const clipped = within ? values.map((v, j) => (j >= within.from && j < within.to ? v : NaN)) : values;
  const own = commonGrid([clipped], grid);
  const out = new Float64Array(grid.length).fill(NaN);
  if (own.rpm.length > 0)
    smoothed(own.rows[0], grid[1] - grid[0], widthRpm).forEach((v, j) => {
      out[own.from + j] = Math.exp(v / 100);
    });
  return { values: out };
}

const averageIn = (
  torqueNm: Float64Array,
  grid: readonly number[],
  { from, to }: { readonly from: number; readonly to: number },
): number => {
  const values = grid.slice(from, to).map((rpm, j) => lp(powerW(torqueNm[from + j], rpm)));
  return values.reduce((a, b) => a + b, 0) / values.length;
};

export function pullResults(
  test: TestDefinition,
  grid: readonly number[],
  corrected: ReadonlyMap<string, CorrectedPull>,
  widthRpm: number,
  startsOf: (pull: string) => SensorStarts,
): PullResult[] {
  const analysed = test.pulls.filter((pull) => pull.counted && !pull.excluded && corrected.has(pull.id));
  const common = commonGrid(
    analysed.map((pull) => corrected.get(pull.id)!.torqueNm),
    grid,
  );
  const range = { from: common.from, to: common.from + common.rpm.length };
  return test.pulls.flatMap((pull): PullResult[] => {
    const own = corrected.get(pull.id);
    if (!own) return [];
    const within = analysed.includes(pull) && common.status === 'ok' ? range : undefined;
    const peak = (values: Float64Array) => peakOf(grid, smoothedOwn(values, grid, widthRpm, within).values);
    const power = peak(own.torqueNm.map((t, j) => powerW(t, grid[j])));
    const torque = peak(own.torqueNm);
    return [
      {
        id: pull.id,
        counted: pull.counted,
        factor: own.factor.factor,
        undone: own.undone,
        samplesUsed: own.sweep.indices.length,
        sweep: { fromRpm: own.sweep.fromRpm, toRpm: own.sweep.toRpm, beganRpm: own.sweep.beganRpm },
        peakPower: power ? { kw: power.value / 1000, rpm: power.rpm, atEdge: power.atEdge } : null,
        peakTorque: torque ? { nm: torque.value, rpm: torque.rpm, atEdge: torque.atEdge } : null,
        ...(within ? { averageLp: averageIn(own.torqueNm, grid, range) } : {}),
        starts: startsOf(pull.id),
        ...(pull.excluded === undefined ? {} : { excluded: pull.excluded }),
      },
    ];
  });
}
