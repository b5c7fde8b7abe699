/**
 * Whether the engine had settled: a rise or fall pull after pull. What both arms share the order of the runs takes out;
 * what one arm has alone makes a gain, or hides one.
 */
import { tUpperQuantile } from '../../base/distributions.ts';
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import type { KnownVariance, Repeatability } from '../../register/repeatability.ts';
import { found, type Found } from '../finding.ts';

const gate = 'settled' as const;
/** Chance with which a session that had settled is said not to have: one in two hundred. Own choice. */
const CHANCE = 0.005;
/** Less than this between a run’s mean and its end moves no claim, lp: as much as start temperatures may. */
const MATTERS = 0.25;

interface Slope {
  /** lp a pull, and the sum of squares of the places it was read at. */ readonly b: number;
  readonly t2: number;
  readonly run: number;
  readonly isPart: boolean;
  readonly pulls: number;
}
type Facts = Pick<AnalysedContrast, 'averages' | 'runs' | 'pulls' | 'design'> & {
  readonly result: { readonly arm: string };
};

export function settledGate(value: Facts, { bandAverage: known }: Repeatability): Found[] {
  const slopes = slopesOf(value);
  const noise = noiseOf(value, slopes, known);
  if (slopes.length < 2 || !noise) return [];
  const moves = (b: number, t2: number, length: number, tests = 1): boolean =>
    Math.abs(b) * Math.sqrt(t2) > noise.sd * tUpperQuantile(CHANCE / (2 * tests), noise.df) &&
    (Math.abs(b) * (length - 1)) / 2 > MATTERS;
  const length = Math.max(...slopes.map((s) => s.pulls));
  const [part, base, all] = [
    pooled(slopes.filter((s) => s.isPart)),
    pooled(slopes.filter((s) => !s.isPart)),
    pooled(slopes),
  ];
  const apart = { b: part.b - base.b, t2: 1 / (1 / part.t2 + 1 / base.t2) };
  if (Number.isFinite(apart.b) && moves(apart.b, apart.t2, length))
    return [found(gate, 'fail', 'ARM_STILL_MOVING', part.b, base.b)];
  const odd = slopes.filter((s) => moves(s.b - all.b, s.t2, s.pulls, slopes.length));
  if (odd.length > 0) return odd.map(({ run, b }) => found(gate, 'caution', 'RUN_STILL_MOVING', run + 1, b));
  if (moves(all.b, all.t2, length))
    return [found(gate, 'caution', 'ALL_RUNS_MOVE', all.b, value.design.driftConfounded)];
  return [found(gate, 'pass', 'SETTLED', slopes.length)];
}

/** Least-squares slope of each run of three pulls or more. */
function slopesOf({ averages, runs, pulls, result }: Facts): Slope[] {
  return [...new Set(runs)].flatMap((run) => {
    const own = averages.flatMap((y, i) =>
      runs[i] === run ? [{ y, isPart: pulls[i].arm === result.arm }] : [],
    );
    if (own.length < 3) return [];
    const middle = (own.length - 1) / 2;
    const t2 = own.reduce((sum, _, k) => sum + (k - middle) ** 2, 0);
    const b = own.reduce((sum, { y }, k) => sum + (k - middle) * y, 0) / t2;
    return [{ b, t2, run, isPart: own[0].isPart, pulls: own.length }];
  });
}
const pooled = (slopes: readonly Slope[]): { b: number; t2: number } => {
  const t2 = slopes.reduce((sum, s) => sum + s.t2, 0);
  return { b: slopes.reduce((sum, s) => sum + s.t2 * s.b, 0) / t2, t2 };
};

/** Scatter of single pulls about their run’s own line, with what the dyno’s history knows of it. */
function noiseOf(
  { averages, runs }: Facts,
  slopes: readonly Slope[],
  known: KnownVariance | undefined,
): { sd: number; df: number } | undefined {
  let [ss, df] = [0, 0];
  for (const { run, b } of slopes) {
    const own = averages.filter((_, i) => runs[i] === run);
    const [mean, middle] = [own.reduce((a, y) => a + y, 0) / own.length, (own.length - 1) / 2];
    ss += own.reduce((sum, y, k) => sum + (y - mean - b * (k - middle)) ** 2, 0);
    df += own.length - 2;
  }
  const total = { ss: ss + (known ? known.df * known.variance : 0), df: df + (known?.df ?? 0) };
  return total.df < 2 ? undefined : { sd: Math.sqrt(total.ss / total.df), df: total.df };
}
