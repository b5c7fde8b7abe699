/**
 * Variance rules that were weighed before rule P: how often a band from each holds the whole true curve, and how wide
 * it is, two runs on one mounting without smoothing; with the car as noisy as its history and 1.5 times as noisy.
 */
import { criticalValue, type EcForm } from '../../core/base/critical-value.ts';
import { fUpper } from '../../core/base/distributions.ts';
import { seededRng, type Rng } from '../../core/base/rng.ts';
import { contrastCurve, runResiduals, sumOfSquares } from '../../core/compare/contrast.ts';
import { roughness } from '../../core/compare/roughness.ts';
import { smoothedVariance } from '../../core/compare/smoothing.ts';
import { contrastWeights } from '../../core/plan/contrast-weights.ts';
import { designLayout } from './designs.ts';
import { moderatedVariance } from './moderated-variance.ts';
import { NOISE_MODELS, pullDrawer } from './noise-models.ts';
import { rpmGrid } from '../../core/correct/torque-curve.ts';

const RPM = rpmGrid(2000, 7000, 50);
/** Variance of one pull at one rpm under the plain noise, lp²: what histories estimate. */
const HISTORY_VARIANCE = 0.6 ** 2 + 0.4 ** 2 + 0.4 ** 2 + 0.1 ** 2;

/** Of a history with so many degrees of freedom: what it takes the variance for, lp². */
type History = (df: number) => number;
interface Seen {
  readonly history: History;
  readonly s2: Float64Array;
  readonly smooth: Float64Array;
  readonly nu: number;
}
interface Assumed {
  readonly v: ArrayLike<number>;
  readonly df: number;
  readonly form: EcForm;
}
const mean = (values: ArrayLike<number>): number =>
  Array.from(values).reduce((a, b) => a + b, 0) / values.length;
const larger = (a: Float64Array, b: ArrayLike<number>): Float64Array => a.map((v, j) => Math.max(v, b[j]));
/** The history joined in with so many degrees of freedom, whatever the session shows. */
const joined = ({ s2, nu, history }: Seen, d0: number): Float64Array =>
  s2.map((v) => (d0 * history(d0) + nu * v) / (d0 + nu));

const plain =
  (d0: number) =>
  (seen: Seen): Assumed => ({ v: joined(seen, d0), df: d0 + seen.nu, form: 't' });
const discounted =
  (d0: number) =>
  ({ s2, smooth, nu, history }: Seen): Assumed => {
    const { v, df } = moderatedVariance(larger(s2, smooth), nu, mean(s2), {
      variance: history(d0),
      df: d0,
    });
    return { v, df, form: 't' };
  };

export const VARIANCE_RULES: Readonly<Record<string, (seen: Seen) => Assumed>> = {
  'own, −ν/2': ({ s2, nu }) => ({ v: s2, df: nu, form: 'nu2' }),
  'own, −(ν−1)/2': ({ s2, nu }) => ({ v: s2, df: nu, form: 't' }),
  'own smoothed 500 rpm, −ν/2': ({ smooth, nu }) => ({ v: smooth, df: nu, form: 'nu2' }),
  'rule O': ({ s2, smooth, nu }) => ({ v: larger(s2, smooth), df: nu, form: 'nu2' }),
  'moderated d₀ = 10, plain': plain(10),
  'moderated d₀ = 20, plain': plain(20),
  'moderated d₀ = 40, plain': plain(40),
  'd₀ = 20, F-guard 5 % → own': (seen) =>
    fUpper(mean(seen.s2) / seen.history(20), seen.nu, 20) < 0.05
      ? { v: seen.s2, df: seen.nu, form: 'nu2' }
      : plain(20)(seen),
  'd₀ = 20, the larger of own and moderated': (seen) => ({
    ...plain(20)(seen),
    v: larger(seen.s2, joined(seen, 20)),
  }),
  'rule B, d₀ = 10': discounted(10),
  'rule B, d₀ = 20': discounted(20),
};

/** A history is estimated itself: by as many degrees of freedom as it has. */
function historyOf(rng: Rng): History {
  const known = new Map<number, number>();
  return (df) => {
    if (!known.has(df)) {
      let chi = 0;
      for (let k = 0; k < df; k++) chi += rng.normal() ** 2;
      known.set(df, (HISTORY_VARIANCE * chi) / df);
    }
    return known.get(df)!;
  };
}

export interface Held {
  /** Bands that hold the whole true curve, %; mean half-width, lp. */
  readonly covered: number;
  readonly half: number;
}

export function varianceRules(
  n: number,
  times: 1 | 1.5,
  sessions: number,
  seed: number,
): Record<string, Held> {
  const rng = seededRng(seed);
  const layout = designLayout('A-B', n, false);
  const weights = contrastWeights(layout);
  const c2 = weights.reduce((sum, c) => sum + c * c, 0);
  const draw = pullDrawer(RPM, { ...NOISE_MODELS[0], car: times });
  const names = Object.keys(VARIANCE_RULES);
  const sums = names.map(() => ({ covered: 0, half: 0 }));
  for (let t = 0; t < sessions; t++) {
    const rows = layout.arm.map((arm) => draw(arm, rng));
    const d = contrastCurve(weights, rows);
    const residuals = runResiduals(rows, layout);
    const { nu } = residuals;
    const s2 = sumOfSquares(residuals.rows).map((ss) => ss / nu);
    const seen: Seen = { history: historyOf(rng), s2, smooth: smoothedVariance(s2, RPM), nu };
    const tau = roughness(residuals.rows);
    names.forEach((name, k) => {
      const { v, df, form } = VARIANCE_RULES[name](seen);
      const { u } = criticalValue(0.025, df, tau, form, RPM.length);
      const half = Array.from(v, (value) => u * Math.sqrt(value * c2));
      if (half.every((h, j) => Math.abs(d[j]) <= h)) sums[k].covered += 100 / sessions;
      sums[k].half += mean(half) / sessions;
    });
  }
  return Object.fromEntries(names.map((name, k) => [name, sums[k]]));
}

export function varianceRulesReport(sessions: number, seed = 20264): string {
  const cells = ([1, 1.5] as const).flatMap((times) => [3, 4, 5].map((n) => ({ n, times })));
  const columns = cells.map(({ n, times }, k) => varianceRules(n, times, sessions, seed + k));
  return [
    `| rule | ${cells.map(({ n, times }) => `n = ${n}${times === 1 ? '' : ', 1.5×'}`).join(' | ')} |`,
    `|---|${cells.map(() => '---|').join('')}`,
    ...Object.keys(VARIANCE_RULES).map(
      (name) =>
        `| ${name} | ${columns.map((c) => `${c[name].covered.toFixed(1)} / ${c[name].half.toFixed(2)}`).join(' | ')} |`,
    ),
  ].join('\n');
}
