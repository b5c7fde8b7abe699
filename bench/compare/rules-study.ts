/**
 * Rules P and S beside the rules they replaced, on the same simulated pulls: how often the band holds the whole true
 * curve, how often “up to” exceeds the truth, what the interval of the band average holds, and how wide they are.
 * The true gain is zero throughout: a constant gain only shifts everything, so it serves for both error rates and,
 * shifted by two, for the power to find +2.
 */
import { seededRng, type Rng } from '../../core/base/rng.ts';
import { gainBand } from '../../core/compare/gain-band.ts';
import { guardedMountVariance } from '../../core/compare/mount-guard.ts';
import { runResiduals, sumOfSquares } from '../../core/compare/contrast.ts';
import { scalarGain } from '../../core/compare/scalar-gain.ts';
import { smoothedRows } from '../../core/compare/smoothing.ts';
import type { Terms } from '../../core/compare/terms.ts';
import type { Layout } from '../../core/plan/contrast-weights.ts';
import { mountShift, TYPICAL_NOISE } from '../../core/capture/simulated/noise.ts';
import { apart, designLayout, WARM_UPS, type DesignName } from './designs.ts';
import { pullDrawer, type NoiseModel } from './noise-models.ts';
import { oldBand } from './old-band.ts';
import { oldScalar } from './old-scalar.ts';
import { STUDY_GRID, STUDY_RPM } from './study-grid.ts';

export { STUDY_GRID } from './study-grid.ts';
const rpm = STUDY_RPM;
const ALPHA = 0.025;
const DRIFT_BOUND = 0.3;
const MOUNT_DF = 10;
/** What the history of the plain noise says, with as many degrees of freedom as it may have. */
const HISTORY = { curve: { variance: 0.68, df: 10 }, average: { variance: 0.48, df: 10 } } as const;

export interface StudyCell {
  readonly design: DesignName;
  readonly n: number;
  readonly remounted: boolean;
  readonly model: NoiseModel;
  /** What else goes wrong on the day: nothing where left out. */ readonly day?: HardDay;
}
export interface HardDay {
  /** Drift of the level, lp a pull. */ readonly drift: number;
  /** Low first pulls after a swap, lp: of the first pull, and the pulls after which half of it is left. */
  readonly adaptation: number;
  readonly halfAfter: number;
  /** The mount's standard deviation over what is registered. */ readonly mount: number;
}
const RULES = ['P', 'O', 'B', 'S strict', 'S usual', 'S old', 'S old history'] as const;
export type RuleName = (typeof RULES)[number];
export interface RuleRates {
  /** Intervals that hold the truth, %; for bands the whole curve. */ covered: number;
  /** Lower limits above the truth, %: claims of too much. */ tooMuch: number;
  /** Gains of 2 lp throughout that are found, %. */ found: number;
  /** Mean half-width, lp. */ half: number;
}
export type StudyRates = Record<RuleName, RuleRates>;

const mean = (values: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i];
  return sum / values.length;
};

/** @param only rules to compute; all where left out */
export function study(cell: StudyCell, tests: number, seed: number, only?: readonly RuleName[]): StudyRates {
  const rng = seededRng(seed);
  const layout = designLayout(cell.design, cell.n, cell.remounted);
  const draw = pullDrawer(rpm, cell.model);
  const wanted = new Set<RuleName>(only ?? RULES);
  const rates = Object.fromEntries(
    RULES.map((rule) => [rule, { covered: 0, tooMuch: 0, found: 0, half: 0 }]),
  ) as StudyRates;
  const note = (rule: RuleName, lower: ArrayLike<number>, upper: ArrayLike<number>): void => {
    let [highest, lowest, half] = [-Infinity, Infinity, 0];
    for (let j = 0; j < lower.length; j++) {
      highest = Math.max(highest, lower[j]);
      lowest = Math.min(lowest, upper[j]);
      half += (upper[j] - lower[j]) / 2 / lower.length;
    }
    const r = rates[rule];
    if (highest <= 0 && lowest >= 0) r.covered += 1;
    if (highest > 0) r.tooMuch += 1;
    if (highest > -2) r.found += 1;
    r.half += half;
  };
  for (let t = 0; t < tests; t++) {
    const raw = session(layout, cell, draw, rng);
    const rows = smoothedRows(raw, STUDY_GRID.stepRpm);
    const averages = raw.map(mean);
    const terms = termsOf(cell, layout, averages, rng);
    const scalar = (rule: RuleName, g: { lower: number; upper: number }): void =>
      note(rule, [g.lower], [g.upper]);
    if (wanted.has('P')) {
      const b = gainBand(rows, rpm, layout, terms);
      note('P', b.lower, b.upper);
    }
    if (wanted.has('O')) {
      const b = oldBand(rows, rpm, layout, terms);
      note('O', b.lower, b.upper);
    }
    if (wanted.has('B')) {
      const b = oldBand(rows, rpm, layout, { ...terms, history: HISTORY.curve });
      note('B', b.lower, b.upper);
    }
    if (wanted.has('S strict')) scalar('S strict', scalarGain(averages, rows, layout, terms, 'strict'));
    if (wanted.has('S usual')) scalar('S usual', scalarGain(averages, rows, layout, terms, 'usual'));
    if (wanted.has('S old')) scalar('S old', oldScalar(averages, layout, terms));
    if (wanted.has('S old history'))
      scalar('S old history', oldScalar(averages, layout, { ...terms, history: HISTORY.average }));
  }
  for (const rule of RULES) {
    const r = rates[rule];
    for (const key of ['covered', 'tooMuch', 'found'] as const) r[key] *= 100 / tests;
    r.half /= tests;
  }
  return rates;
}

/** The noise of one session: every pull's curve, with the level of its mounting. */
function session(
  layout: Layout,
  { remounted, day }: StudyCell,
  draw: (arm: 0 | 1, rng: Rng) => Float64Array,
  rng: Rng,
): Float64Array[] {
  const levels = new Map<number | string, number>();
  const times = day?.mount ?? 1;
  return layout.arm.map((arm, i) => {
    const mount = layout.mount[i];
    if (!levels.has(mount)) levels.set(mount, remounted ? times * mountShift(TYPICAL_NOISE, rng) : 0);
    const level = levels.get(mount)! + (day ? wentWrong(day, layout, i) : 0);
    return draw(arm, rng).map((v) => v + level);
  });
}

/** Drift up to a pull, and what is left of the adaptation in it, uncounted pulls of its run included. */
function wentWrong({ drift, adaptation, halfAfter }: HardDay, { order, run }: Layout, i: number): number {
  const since = order[i] - order[run.indexOf(run[i])] + WARM_UPS;
  return drift * order[i] + (run[i] === 0 ? 0 : adaptation * 0.5 ** (since / halfAfter));
}

/** Drift bound where the design needs it; the mount variance as a control vehicle would have given it, guarded as in a test. */
function termsOf(cell: StudyCell, layout: Layout, averages: readonly number[], rng: Rng): Terms {
  const distance = apart(layout);
  const driftVariance = distance > 1e-9 ? (DRIFT_BOUND * distance) ** 2 / 3 : 0;
  if (!cell.remounted) return { alpha: ALPHA, driftVariance };
  let chi = 0;
  for (let k = 0; k < MOUNT_DF; k++) chi += rng.normal() ** 2;
  const registered = { variance: ((TYPICAL_NOISE.remountStep ** 2 / 2) * chi) / MOUNT_DF, df: MOUNT_DF };
  const runs = [...new Set(layout.run)];
  if (runs.length < 4) return { alpha: ALPHA, driftVariance, mount: registered };
  const { rows, nu } = runResiduals(
    averages.map((v) => Float64Array.of(v)),
    layout,
  );
  const of = (run: number): number[] => averages.filter((_, i) => layout.run[i] === run);
  const mount = guardedMountVariance(
    runs.map((run) => mean(of(run))),
    runs.map((run) => layout.arm[layout.run.indexOf(run)]),
    cell.n,
    sumOfSquares(rows)[0] / nu,
    registered,
  );
  return { alpha: ALPHA, driftVariance, mount };
}
