/** The two interval rules on reference cases, with every intermediate under the name the cases give it. */
import { contrastCurve, runResiduals, sumOfSquares } from '../../core/compare/contrast.ts';
import { noInterval } from '../../core/compare/edge-codes.ts';
import { gainBand, type GainBand } from '../../core/compare/gain-band.ts';
import { RULE_P } from '../../core/base/interval-rules.ts';
import { scalarGain, type ScalarGain } from '../../core/compare/scalar-gain.ts';
import { smoothedRows } from '../../core/compare/smoothing.ts';
import { temperatureTerm, type TemperatureTerm } from '../../core/compare/start-temperature.ts';
import type { KnownVariance } from '../../core/register/repeatability.ts';
import type { TemperatureSlope } from '../../core/register/temperature-slope.ts';
import type { Guard } from '../../core/base/guard.ts';
import type { Terms } from '../../core/compare/terms.ts';
import type { Layout } from '../../core/plan/contrast-weights.ts';

/** What the cases hand in; arrays have one entry per pull. */
export interface Common {
  readonly arm: (0 | 1)[];
  readonly run: number[];
  readonly mount?: number[] | null;
  readonly order?: number[] | null;
  readonly covariate: boolean;
  readonly alpha: number;
  readonly sm2: number;
  readonly dm: number | null;
  readonly pd: number | null;
  readonly step: number;
  /** Sessions, and what is registered of days and of the start temperature. */
  readonly session?: number[] | null;
  readonly sd2?: number | null;
  readonly dd?: number | null;
  readonly slope?: TemperatureSlope | null;
  readonly T?: number[] | null;
}
export interface ScalarCase extends Common {
  readonly y: number[];
  readonly curves: number[][] | null;
  readonly guard: Guard;
}

export const layoutOf = (i: Common): Layout => ({
  arm: i.arm,
  run: i.run,
  mount: i.mount ?? i.arm.map(() => 0),
  order: i.order ?? i.arm.map((_, k) => k + 1),
  covariate: i.covariate,
  ...(i.session ? { session: i.session } : {}),
});
const dayOf = (i: Common): KnownVariance | undefined =>
  typeof i.sd2 === 'number'
    ? { variance: i.sd2 / (i.session ? new Set(i.session).size : 1), df: i.dd ?? Infinity }
    : undefined;
const heatOf = (i: Common): TemperatureTerm | undefined =>
  i.slope && i.T ? temperatureTerm(i.T, layoutOf(i), { ...i.slope, df: i.slope.df ?? Infinity }) : undefined;
export const termsOf = (i: Common): Terms => ({
  alpha: i.alpha,
  mount: { variance: i.sm2 ?? 0, df: i.dm ?? Infinity },
  driftVariance: i.pd ?? 0,
  temperature: heatOf(i),
  day: dayOf(i),
});
const shifted = (rows: readonly Float64Array[], by: readonly number[] | undefined): Float64Array[] =>
  rows.map((row, i) => (by ? row.map((v) => v - by[i]) : Float64Array.from(row)));
export const rowsOf = (curves: number[][], step: number): Float64Array[] =>
  smoothedRows(
    curves.map((row) => Float64Array.from(row)),
    step,
  );
const argMax = (values: Float64Array): number => values.indexOf(Math.max(...values));

/** Which of the three critical values decided. */
const decidedBy = (b: GainBand): string[] =>
  b.u === b.uOneRpm ? ['U_FLOOR_T'] : b.uBonferroni < b.uEuler ? ['U_BONFERRONI'] : [];

export function ruleP(i: Common & { lp: number[][]; rpm0?: number }): unknown {
  const layout = layoutOf(i);
  const heat = heatOf(i);
  const rows = shifted(rowsOf(i.lp, i.step), heat?.shift);
  const code = noInterval(layout.arm, () => runResiduals(rows, layout));
  if (code) return { status: code, nu: runResiduals(rows, layout).nu };
  const rpm = Array.from(rows[0], (_, j) => (i.rpm0 ?? 0) + j * i.step);
  const b = gainBand(rows, rpm, layout, termsOf(i));
  const residuals = runResiduals(rows, layout).rows;
  const at = argMax(b.lower);
  return {
    status: 'OK',
    nu: b.split.nu,
    dfA: b.split.dfA,
    dfB: b.split.dfB,
    cA2: b.split.c2A,
    cB2: b.split.c2B,
    d: [...contrastCurve(b.weights, rows)],
    SSA: [...sumOfSquares(residuals, (k) => layout.arm[k] === 0)],
    SSB: [...sumOfSquares(residuals, (k) => layout.arm[k] === 1)],
    t1: b.ratio.pooled,
    a: b.ratio.a,
    b: b.ratio.b,
    w: b.ratio.weights,
    q: b.ratio.q,
    vA: b.armVariance?.a ?? null,
    vB: b.armVariance?.b ?? null,
    sq: [...b.sq],
    sm: [...b.sm],
    sbar: b.sbar,
    var_spectral: b.variances.byRatio,
    var_pooled: b.variances.pooled,
    var_welch: b.variances.apart / RULE_P.apart,
    U2: b.variance,
    g: b.split.guard,
    pw: [...b.pw],
    dT: heat?.dT ?? 0,
    pT: heat?.variance ?? 0,
    pday: dayOf(i)?.variance ?? 0,
    pm: b.pm,
    pd: b.pd,
    uc: [...b.uc],
    nu_eff: b.df,
    nu_t: b.dfOneRpm,
    tau0: b.roughness,
    h: b.pooling,
    tau: b.tau,
    u_ec: b.uEuler,
    u_bonf: b.uBonferroni,
    u_t: b.uOneRpm,
    u: b.u,
    lower: [...b.lower],
    upper: [...b.upper],
    upTo: b.lower[at],
    upToIndex: at,
    upToRpm: b.rpm[at],
    flags: [...b.flags, ...decidedBy(b)],
  };
}

const NAMES = { pooled: 'pooled', ratio: 'ratio', apart: 'welch' } as const;

export function ruleS(i: ScalarCase): unknown {
  const layout = layoutOf(i);
  const heat = heatOf(i);
  const y = i.y.map((v, k) => v - (heat?.shift[k] ?? 0));
  const curves = i.curves && shifted(rowsOf(i.curves, i.step), heat?.shift);
  const residuals = () =>
    runResiduals(
      y.map((v) => Float64Array.of(v)),
      layout,
    );
  const code = noInterval(layout.arm, residuals);
  if (code) return { status: code, nu: residuals().nu };
  const g = scalarGain(y, curves, layout, termsOf(i), i.guard);
  const of = (pick: (c: ScalarGain['used']) => unknown) => g.candidates.map(pick);
  const { c2A, c2B } = g.split;
  return {
    status: 'OK',
    nu: g.split.nu,
    dfA: g.split.dfA,
    dfB: g.split.dfB,
    cA2: c2A,
    cB2: c2B,
    d: g.d,
    SSA: g.ssA,
    SSB: g.ssB,
    s2: g.s2,
    g: g.split.guard,
    variance: of((c) => c.variance),
    df: of((c) => c.df),
    pm: g.pm,
    pT: heat?.variance ?? 0,
    dT: heat?.dT ?? 0,
    pday: dayOf(i)?.variance ?? 0,
    uc: of((c) => c.uc),
    nu_eff: of((c) => c.dfEffective),
    t: of((c) => c.t),
    half: of((c) => c.half),
    active: NAMES[g.used.name],
    halfWidth: g.used.half,
    lower: g.lower,
    upper: g.upper,
    flags: g.flags,
    ...(g.ratio && {
      q: g.ratio.q,
      keff: g.ratio.components,
      piB: (g.ratio.q * c2B) / (c2A + g.ratio.q * c2B),
      a: g.ratio.a,
      b: g.ratio.b,
      w: g.ratio.weights,
      t1: g.ratio.pooled,
    }),
  };
}
