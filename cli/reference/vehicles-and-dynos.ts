/** Synthesis over vehicles, health of dynos, start temperatures and days on reference cases, under the names the cases give. */
import { nestedReml } from '../../bench/register/nested-reml.ts';
import { guardDays } from '../../core/compare/day-guard.ts';
import { scalarGain } from '../../core/compare/scalar-gain.ts';
import { checkSlope } from '../../core/compare/start-temperature.ts';
import {
  heterogeneity,
  pooledMean,
  synthesise,
  type BetweenMethod,
  type MeanTest,
  type VehicleGain,
} from '../../core/judge/synthesis.ts';
import { controlChart, chartReference } from '../../core/register/control-chart.ts';
import { registerDayVariance, type RepeatedTest } from '../../core/register/day-variance.ts';
import { controlStudy } from '../../core/register/dyno-health.ts';
import {
  registerSlope,
  type SlopeSession,
  type TemperatureSlope,
} from '../../core/register/temperature-slope.ts';
import { layoutOf, rowsOf, termsOf, type Common, type ScalarCase } from './rules.ts';

interface Gains {
  readonly yi: number[];
  readonly vi: number[];
  readonly method?: BetweenMethod;
  readonly test?: MeanTest;
}
export function synthesis({ yi, vi, method, test }: Gains): unknown {
  const gains: VehicleGain[] = yi.map((gain, i) => ({ gain, variance: vi[i] }));
  if (!method || !test) {
    const s = synthesise(gains)!;
    return {
      k: s.k,
      tau2: s.tau2,
      mu: s.mu,
      q: s.q,
      se_wald: s.seWald,
      se_hk: s.seWald * Math.sqrt(s.q),
      se_mod: s.se,
      t: s.t,
      ci_lower: s.lower,
      ci_upper: s.upper,
      Q: s.heterogeneity.Q,
      Q_p: s.heterogeneity.p,
      mean: s.mean,
      sd: s.sd,
      pi_lower: s.anotherLower,
      pi_upper: s.anotherUpper,
    };
  }
  const m = pooledMean(gains, method, test);
  const { Q, p, I2, H2 } = heterogeneity(gains, m.tau2);
  return {
    tau2: m.tau2,
    mu: m.mu,
    se: m.se,
    ci_lb: m.lower,
    ci_ub: m.upper,
    zval: m.z,
    pval: m.p,
    Q,
    Qp: p,
    I2,
    H2,
    pi_lb: m.anotherLower,
    pi_ub: m.anotherUpper,
  };
}

interface Study {
  readonly y: number[];
  readonly day: number[];
  readonly mount: number[];
}
export function dynoHealth({ y, day, mount }: Study, { r_call = '' }: { r_call?: string }): unknown {
  const pulls = y.map((value, i) => ({ y: value, day: day[i], mount: mount[i] }));
  if (r_call.includes('lmer')) {
    const m = nestedReml(pulls);
    return {
      var_mount: m.mount,
      var_day: m.day,
      var_pull: m.pull,
      intercept: m.intercept,
      se: m.se,
      REMLcrit: m.criterion,
    };
  }
  const s = controlStudy(pulls)!;
  return {
    SS: s.ss,
    df: s.df,
    MS: s.ms,
    c: s.c,
    var_pull: s.pull,
    var_mount_raw: s.mountRaw,
    var_mount: s.mount,
    var_day_raw: s.dayRaw,
    var_day: s.day,
    df_mount: s.dfMount,
    fallback_mount_var: s.fallback.variance,
    fallback_mount_df: s.fallback.df,
  };
}

export function chart(i: { ref: number[]; new: number[] }): unknown {
  const r = chartReference(i.ref)!;
  const points = controlChart(r, i.new);
  return {
    center: r.center,
    sd: r.sd,
    mr_bar: r.movingRange,
    sigma_mr: r.sigma,
    I_lower: r.lower,
    I_upper: r.upper,
    ewma: points.map((p) => p.ewma),
    ewma_lower: points.map((p) => p.lower),
    ewma_upper: points.map((p) => p.upper),
    ewma_alarm: points.map((p) => p.alarm),
    I_alarm: points.map((p) => p.single),
  };
}

export function slopeRegister({ sessions }: { sessions: SlopeSession[] }): unknown {
  const s = registerSlope(sessions);
  const { registered, sessions: M, ...rest } = s;
  return { ...rest, status: registered ? 'REGISTERED' : 'NOT_REGISTERED', M };
}

export function slopeCheck(i: Common & { y: number[]; T: number[]; slope: TemperatureSlope }): unknown {
  const c = checkSlope(i.y, i.T, layoutOf(i), i.slope);
  return c
    ? {
        checked: true,
        bSession: c.b,
        seSession2: c.variance,
        df: c.df,
        limit: c.limit,
        disagrees: c.disagrees,
      }
    : { checked: false, disagrees: false };
}

export function dayRegister({ sets }: { sets: RepeatedTest[] }): unknown {
  const r = registerDayVariance(sets);
  if (!r) return { status: 'NOT_REGISTERED' };
  const { registered, J, MS, u2, raw, variance, df } = r;
  return { status: registered ? 'REGISTERED' : 'NOT_REGISTERED', J, MS, u2, raw, sd2: variance, dd: df };
}

/** Each session by itself, and all together. */
export function dayGuard(i: ScalarCase & { session: number[]; sd2: number }): unknown {
  const gainOf = (keep: (pull: number) => boolean, whole: boolean) => {
    const pick = <T>(list: readonly T[]): T[] => list.filter((_, k) => keep(k));
    const part: ScalarCase = {
      ...i,
      y: pick(i.y),
      arm: pick(i.arm),
      run: pick(i.run),
      curves: i.curves && pick(i.curves),
      mount: i.mount ? pick(i.mount) : null,
      session: whole ? pick(i.session) : null,
      sd2: whole ? i.sd2 : null,
    };
    return scalarGain(
      part.y,
      part.curves && rowsOf(part.curves, part.step),
      layoutOf(part),
      termsOf(part),
      part.guard,
    );
  };
  const joint = gainOf(() => true, true);
  const sessions = [...new Set(i.session)].map((s) => gainOf((k) => i.session[k] === s, false));
  const g = guardDays(joint, sessions, i.sd2);
  return { u2: g.u2, statistic: g.statistic, disagree: g.disagree, lower: g.lower, upper: g.upper };
}
