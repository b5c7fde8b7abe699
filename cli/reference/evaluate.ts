/**
 * Runs reference cases (results of R, see docs/method.md) through the core and compares every number.
 * A case whose group the core does not compute yet is reported as such, never as agreement.
 */
import {
  chisqQuantile,
  chisqUpper,
  digamma,
  fUpper,
  lgamma,
  nctUpper,
  normalQuantile,
  normalRangeCdf,
  trigamma,
  trigammaInverse,
  tUpper,
  tUpperQuantile,
} from '../../core/base/distributions.ts';
import { pctFromLp } from '../../core/base/units.ts';
import { commonGrid } from '../../core/compare/common-grid.ts';
import { runResiduals, sumOfSquares } from '../../core/compare/contrast.ts';
import { contrastWeights, mountLoad, type Layout } from '../../core/plan/contrast-weights.ts';
import { criticalValue, type EcForm } from '../../core/base/critical-value.ts';
import { roughness } from '../../core/compare/roughness.ts';
import { oldBand } from '../../bench/compare/old-band.ts';
import { oldScalar, type OldScalar, type OldTerms } from '../../bench/compare/old-scalar.ts';
import { moderatedVariance } from '../../bench/compare/moderated-variance.ts';
import { smoothed, smoothedRows, smoothedVariance, varianceKernel } from '../../core/compare/smoothing.ts';
import { welchSatterthwaite } from '../../core/base/welch-satterthwaite.ts';
import { historyPrior } from '../../core/compare/history-prior.ts';
import { deletionTests } from '../../core/compare/flyers.ts';
import { guardedMountVariance } from '../../core/compare/mount-guard.ts';
import { shownPct } from '../../core/base/rounding.ts';
import { scalarPower } from '../../core/plan/power.ts';
import { ruleP, ruleS } from './rules.ts';
import {
  chart,
  dayGuard,
  dayRegister,
  dynoHealth,
  slopeCheck,
  slopeRegister,
  synthesis,
} from './vehicles-and-dynos.ts';

export interface ReferenceCase {
  id: string;
  group: string;
  title?: string;
  input: Record<string, never>;
  r_call?: string;
  rel_tol: number;
  output: unknown;
}
export interface CaseResult {
  id: string;
  group: string;
  state: 'agrees' | 'differs' | 'not computed';
  compared: number;
  worst: number;
  where?: string;
}

// Reference inputs are data from a file: their shape is checked by the comparison itself.

type Evaluate = (input: any, theCase: ReferenceCase) => unknown;

const number = (x: unknown): number => (x === 'Inf' ? Infinity : x === '-Inf' ? -Infinity : Number(x));
const layout = (i: any): Layout => ({
  arm: i.arm,
  run: i.run,
  mount: i.mount ?? i.run,
  order: i.order ?? i.arm.map((_: unknown, k: number) => k + 1),
  covariate: false,
});
const terms = (i: any): OldTerms => ({
  alpha: 0.025,
  ...(i.s0sq === undefined ? {} : { history: { variance: i.s0sq, df: i.d0 } }),
  ...(i.sm2 === undefined ? {} : { mount: { variance: i.sm2, df: i.dm } }),
  ...(i.udrift2 === undefined ? {} : { driftVariance: i.udrift2 }),
});
const engine = (g: OldScalar) => ({
  d: g.d,
  nu: g.nu,
  s2: g.s2,
  f: g.f,
  v: g.v,
  df_v: g.dfV,
  kappa2: g.kappa2,
  mount_coef_ss: g.mountLoad,
  u_c: g.uc,
  nu_eff: g.df,
  t: g.t,
  lower: g.lower,
  upper: g.upper,
  p_one_sided: g.pOneSided,
});
const scalar = (i: any, covariate = false) => engine(oldScalar(i.a, { ...layout(i), covariate }, terms(i)));
const usesOrder = (c: ReferenceCase): boolean => /covariate\s*=\s*TRUE/.test(c.r_call ?? '');

const DESIGNS: Record<string, { arm: (0 | 1)[]; run: number[] }> = {
  AB: { arm: [0, 0, 0, 0, 1, 1, 1, 1], run: [1, 1, 1, 1, 2, 2, 2, 2] },
  ABA: { arm: [0, 0, 0, 1, 1, 1, 0, 0, 0], run: [1, 1, 1, 2, 2, 2, 3, 3, 3] },
  ABBA: { arm: [0, 0, 1, 1, 1, 1, 0, 0], run: [1, 1, 2, 2, 3, 3, 4, 4] },
  ABAB: { arm: [0, 0, 1, 1, 0, 0, 1, 1], run: [1, 1, 2, 2, 3, 3, 4, 4] },
};

const GROUPS: Record<string, Evaluate> = {
  distributions: () => ({
    qt_975_4: tUpperQuantile(0.025, 4),
    qt_975_7p3: tUpperQuantile(0.025, 7.3),
    qt_975_13p37: tUpperQuantile(0.025, 13.37),
    qt_upper_bonf_4: tUpperQuantile(0.025 / 101, 4),
    pt_upper_5p2_6: tUpper(5.2, 6),
    pt_upper_44p93_2: tUpper(44.93, 2),
    pf_upper: fUpper(2.4, 4, 10),
    qchisq_20_8: chisqQuantile(0.2, 8),
    pchisq_upper: chisqUpper(12.3, 5),
    qnorm_975: normalQuantile(0.975),
    nct_power: nctUpper(tUpperQuantile(0.025, 8), 8, 3.5),
    digamma_3: digamma(3),
    trigamma_3: trigamma(3),
    trigammaInverse_p1: trigammaInverse(0.1),
    trigammaInverse_1p5: trigammaInverse(1.5),
    lgamma_2p5: lgamma(2.5),
    ptukey_3: normalRangeCdf(2.165, 3),
  }),
  'critical value': (i) => {
    const c = criticalValue(i.alpha, i.nu, i.tau, i.form as EcForm, i.G);
    return { u_ec: c.ec, u_bonf: c.bonferroni, u: c.u };
  },
  'pre-smoothing': (i) => ({ value: [...smoothed(i.x, i.rpm[1] - i.rpm[0])] }),
  'variance smoothing': (i) => ({
    K_row1: [...varianceKernel(i.rpm)[0]],
    smooth: [...smoothedVariance(i.s2, i.rpm)],
  }),
  roughness: (i) => ({ value: roughness(i.res.map((row: number[]) => Float64Array.from(row))) }),
  'history prior': (i) => {
    const h = historyPrior(i.V ?? i.x.map((v: number) => [v]), i.dfi ?? i.df);
    if (i.V) return { evar: h.evar, d0_hat: h.d0Hat, d0: h.d0, s0sq: h.s0sq };
    // limma's scale carries its own centring; the shared part is the moment estimator of the df.
    const e = i.x.map((v: number, k: number) => Math.log(v) - digamma(i.df[k] / 2) + Math.log(i.df[k] / 2));
    const centre = e.reduce((a: number, b: number) => a + b, 0) / e.length;
    const scale = Math.exp(centre + digamma(h.d0Hat / 2) - Math.log(h.d0Hat / 2));
    return {
      scale,
      df2: h.d0Hat,
      evar: h.evar,
      var_post: i.x.map((v: number, k: number) => (h.d0Hat * scale + i.df[k] * v) / (h.d0Hat + i.df[k])),
    };
  },
  'moderated variance': (i) => {
    const m = moderatedVariance(i.s2, i.nu, i.sbar, { variance: i.s0sq, df: i.d0 });
    return { f: m.f, df: m.df, v: [...m.v] };
  },
  band: (i, c) => {
    const covariate = usesOrder(c);
    const step = i.rpm[1] - i.rpm[0];
    const grid = commonGrid(i.Y, i.rpm);
    const rows = smoothedRows(grid.rows, step);
    const b = oldBand(rows, grid.rpm, { ...layout(i), covariate }, terms(i));
    const k = b.lower.indexOf(Math.max(...b.lower));
    const stock = rows.filter((_, q) => i.arm[q] === 0);
    const absolute = b.lower.map(
      (low, j) =>
        Math.exp(stock.reduce((s, row) => s + row[j], 0) / stock.length / 100) * (Math.exp(low / 100) - 1),
    );
    const best = absolute.indexOf(Math.max(...absolute));
    return {
      contrast: b.weights,
      d: [...b.d],
      nu: b.nu,
      s2: [...b.s2],
      s2_smooth: [...b.s2Smooth],
      sbar: b.sbar,
      f: b.f,
      v: [...b.v],
      df_v: b.dfV,
      kappa2: b.kappa2,
      mount_coef_ss: b.mountLoad,
      u_c: [...b.uc],
      nu_eff: b.df,
      tau: b.tau,
      u_ec: b.uEc,
      u_bonf: b.uBonferroni,
      u: b.u,
      lower: [...b.lower],
      upper: [...b.upper],
      claim_lp: b.lower[k],
      claim_pct: pctFromLp(b.lower[k]),
      claim_rpm: b.rpm[k],
      claim_shown_pct: shownPct(b.lower[k]),
      loss_somewhere: b.upper.some((u) => u < 0),
      claim_abs: absolute[best],
      claim_abs_rpm: b.rpm[best],
    };
  },
  'missing rpm': (i) => {
    const grid = commonGrid(i.Y, i.rpm);
    return {
      status: grid.status,
      first: grid.rpm[0],
      last: grid.rpm.at(-1),
      points: grid.rpm.length,
      x_lp: grid.rows.map((row) => [...row]),
    };
  },
  'band average': (i, c) => {
    if ((c.r_call ?? '').includes('quiet=')) {
      const history = { variance: 0.48, df: 10 };
      const of = (a: number[]) => engine(oldScalar(a, layout(i), { alpha: 0.025, history }));
      return { quiet: of(i.a), noisy: of(i.a.map((v: number) => 3 * v)) };
    }
    const g = scalar(i);
    return { ttest_lower: g.lower, ttest_upper: g.upper, ttest_p_one_sided: g.p_one_sided, engine: g };
  },
  design: (i, c) => {
    if (!i.a) {
      return Object.fromEntries(
        Object.entries(DESIGNS).map(([name, { arm, run }]) => {
          const order = arm.map((_, k) => k + 1);
          const ss = (w: number[]) => w.reduce((s, x) => s + x * x, 0);
          const plain = contrastWeights({ arm, order, covariate: false });
          const withOrder = contrastWeights({ arm, order, covariate: true });
          return [
            name,
            {
              plain,
              plain_ss: ss(plain),
              plain_mount_ss: mountLoad(plain, run),
              order: withOrder,
              order_ss: ss(withOrder),
              order_mount_ss: mountLoad(withOrder, run),
            },
          ];
        }),
      );
    }
    const g = scalar(i, usesOrder(c));
    if (!(c.r_call ?? '').includes('lm_estimate')) return g;
    // lm's own standard error uses the residuals of the regression on arm and order, without the runs.
    const l = { ...layout(i), covariate: true };
    const weights = contrastWeights(l);
    const rows = i.a.map((v: number) => Float64Array.of(v));
    const within = runResiduals(rows, l);
    const sigma2 = sumOfSquares(within.rows)[0] / within.nu;
    const armOnly = runResiduals(rows, { ...l, run: i.arm });
    // Residuals about arm means and a common slope are those of lm(y ~ arm + order).
    const lm2 = sumOfSquares(armOnly.rows)[0] / armOnly.nu;
    return {
      lm_estimate: g.d,
      lm_se_residual: Math.sqrt(lm2 * weights.reduce((s, w) => s + w * w, 0)),
      sigma_within: Math.sqrt(sigma2),
      df_within: within.nu,
      engine: g,
    };
  },
  'Welch-Satterthwaite': (i) => welchSatterthwaite(i.parts, i.df.map(number)),
  'flyer flag': (i, c) => {
    const tests = deletionTests(i.a, i.run, i.d0 === undefined ? undefined : { variance: i.s0sq, df: i.d0 });
    const engine = {
      t: tests.map((x) => x.t),
      df: tests.map((x) => x.df),
      crit: tests.map((x) => x.critical),
      flag: tests.map((x) => x.flag),
    };
    return (c.r_call ?? '').includes('rstudent') ? { engine, rstudent: engine.t } : engine;
  },
  'mount guard': (i) => {
    const g = guardedMountVariance(i.bmean, i.barm, i.nblk, i.s2w, { variance: i.sm2, df: i.dm });
    return { msb: g.msb, f: g.f, sm2: g.variance, dm: g.df };
  },
  'sample size': (i) => {
    if (i.k)
      return {
        value: i.n.map((n: number, q: number) =>
          scalarPower(n, i.delta[q], i.sd[q], 0.025, { stepVariance: 0.64, df: 10, mountings: i.k[q] }),
        ),
      };
    const at = (shift: number) =>
      i.n.map((n: number, q: number) => (n - shift < 2 ? null : scalarPower(n - shift, i.delta[q], i.sd[q])));
    return { power: at(0), power_n_minus_1: at(1) };
  },
  'rule P': ruleP,
  'rule-s': ruleS,
  'slope-register': slopeRegister,
  'slope-use-scalar': ruleS,
  'slope-use-curve': ruleP,
  'slope-check': slopeCheck,
  'slope-insession': ruleS,
  'day-register': dayRegister,
  'day-scalar': ruleS,
  'day-curve': ruleP,
  'day-guard': dayGuard,
  synthesis,
  'dyno health': dynoHealth,
  'control chart': chart,
  display: (i) => ({ pct: i.d.map(pctFromLp), shown: i.d.map(shownPct) }),
};

/** Evaluates one case; a difference is relative, absolute 1e-12 near zero. */
export function evaluateCase(theCase: ReferenceCase): CaseResult {
  const evaluate = GROUPS[theCase.group];
  const base = { id: theCase.id, group: theCase.group };
  if (!evaluate) return { ...base, state: 'not computed', compared: 0, worst: 0 };
  const diff = { compared: 0, worst: 0, where: undefined as string | undefined, ok: true };
  compare(evaluate(theCase.input, theCase), theCase.output, '', theCase.rel_tol, diff);
  return {
    ...base,
    state: diff.ok && diff.compared > 0 ? 'agrees' : 'differs',
    compared: diff.compared,
    worst: diff.worst,
    ...(diff.ok ? {} : { where: diff.where }),
  };
}

function compare(
  actual: any,
  expected: any,
  path: string,
  tol: number,
  diff: { compared: number; worst: number; where: string | undefined; ok: boolean },
): void {
  const fail = (): void => {
    diff.ok = false;
    diff.where ??= path || 'value';
  };
  if (Array.isArray(expected)) {
    if (!Array.isArray(actual) || actual.length !== expected.length) return fail();
    expected.forEach((value, i) => compare(actual[i], value, `${path}[${i}]`, tol, diff));
  } else if (expected !== null && typeof expected === 'object') {
    for (const [key, value] of Object.entries(expected))
      compare(actual?.[key], value, path ? `${path}.${key}` : key, tol, diff);
  } else {
    diff.compared += 1;
    if (typeof expected === 'number') {
      const gap = Math.abs(actual - expected);
      const relative = gap <= 1e-12 && Math.abs(expected) < 1e-3 ? 0 : gap / Math.abs(expected);
      if (!(relative <= tol)) fail();
      if (relative > diff.worst || Number.isNaN(relative)) diff.worst = relative;
    } else if (expected === 'Inf' || expected === '-Inf') {
      if (actual !== number(expected)) fail();
    } else if (expected === null) {
      if (actual !== null && actual !== undefined && !Number.isNaN(actual)) fail();
    } else if (actual !== expected) fail();
  }
}
