/**
 * What the guards of rules P and S cost on average, by design and pulls a run: the mean half-width over that of the
 * plain formula the planner begins with. `npm run bench -- planning` prints the table that stands in
 * core/plan/planning-factors.ts.
 */
import { criticalValue } from '../../core/base/critical-value.ts';
import { seededRng } from '../../core/base/rng.ts';
import { gainBand } from '../../core/compare/gain-band.ts';
import { scalarGain } from '../../core/compare/scalar-gain.ts';
import { smoothedRows } from '../../core/compare/smoothing.ts';
import { PLANNING } from '../../core/plan/sample-size.ts';
import { designLayout, type DesignName } from './designs.ts';
import { NOISE_MODELS, pullDrawer } from './noise-models.ts';
import { STUDY_GRID } from './rules-study.ts';

export const PLANNED_DESIGNS: readonly DesignName[] = ['A-B', 'A-B-A', 'A-B-B-A', 'A-B-A-B'];
export const PLANNED_PULLS = { least: 2, most: 12 } as const;
export const SEED = 20261;
const ALPHA = 0.025;

const rpm = Array.from({ length: STUDY_GRID.points }, (_, j) => STUDY_GRID.fromRpm + STUDY_GRID.stepRpm * j);
const mean = (values: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i];
  return sum / values.length;
};

export interface PlanningFactors {
  readonly strict: number;
  readonly usual: number;
  readonly curve: number;
  /** Mean variance of a smoothed curve at one rpm and of its average, lp²: what the planner assumes of an unknown dyno. */
  readonly curveVariance: number;
  readonly averageVariance: number;
}

export function planningFactors(design: DesignName, n: number, tests: number): PlanningFactors {
  const rng = seededRng(SEED + n);
  const layout = designLayout(design, n, false);
  const draw = pullDrawer(rpm, NOISE_MODELS[0]);
  const terms = { alpha: ALPHA };
  const sums = { pooled: 0, strict: 0, usual: 0, band: 0, curve: 0, average: 0 };
  let plain = 0;
  for (let t = 0; t < tests; t++) {
    const raw = layout.arm.map((arm) => draw(arm, rng));
    const rows = smoothedRows(raw, STUDY_GRID.stepRpm);
    const averages = raw.map(mean);
    const strict = scalarGain(averages, rows, layout, terms, 'strict');
    sums.pooled += strict.candidates[0].half;
    sums.strict += strict.used.half;
    sums.usual += scalarGain(averages, rows, layout, terms, 'usual').used.half;
    const band = gainBand(rows, rpm, layout, terms);
    sums.band += band.u * mean(band.uc);
    sums.curve += band.ratio.pooled;
    sums.average += strict.s2;
    const { nu, c2 } = band.split;
    plain ||=
      criticalValue(ALPHA, PLANNING.pooling * nu, PLANNING.roughness, 'nu2', PLANNING.points).u *
      Math.sqrt(c2);
  }
  return {
    strict: sums.strict / sums.pooled,
    usual: sums.usual / sums.pooled,
    curve: sums.band / tests / (plain * Math.sqrt(sums.curve / tests)),
    curveVariance: sums.curve / tests,
    averageVariance: sums.average / tests,
  };
}
