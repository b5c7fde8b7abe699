/** Arms that started unequally warm, brought to one temperature by the slope that the plan names. */
import { tUpperQuantile } from '../base/distributions.ts';
import type { Layout } from '../plan/contrast-weights.ts';
import { contrastWeights } from '../plan/contrast-weights.ts';
import type { KnownVariance } from '../register/repeatability.ts';
import type { TemperatureSlope } from '../register/temperature-slope.ts';
import { runResiduals } from './contrast.ts';

/**
 * Without a registered slope nothing is moved, and a difference between the arms costs what a slope of 0.2 lp/K would:
 * the scatter that temperature is believed to have at most.
 */
export const NO_SLOPE: TemperatureSlope = { b: 0, V: 0.04, df: Infinity };

export interface TemperatureTerm extends KnownVariance {
  /** How much warmer the part's arm started, weighted as the contrast is, K. */ readonly dT: number;
  /** What is taken off each pull, lp; the same at every rpm. */ readonly shift: readonly number[];
}

/** @param temperatures start temperature of each pull, K or °C */
export function temperatureTerm(
  temperatures: readonly number[],
  layout: Layout,
  { b, V, df }: TemperatureSlope,
): TemperatureTerm {
  const session = layout.session ?? temperatures.map(() => 0);
  const means = new Map<number, { sum: number; n: number }>();
  temperatures.forEach((T, i) => {
    const { sum, n } = means.get(session[i]) ?? { sum: 0, n: 0 };
    means.set(session[i], { sum: sum + T, n: n + 1 });
  });
  const centre = (i: number): number => means.get(session[i])!.sum / means.get(session[i])!.n;
  const dT = contrastWeights(layout).reduce((sum, c, i) => sum + c * temperatures[i], 0);
  return { dT, shift: temperatures.map((T, i) => b * (T - centre(i))), variance: V * dT ** 2, df };
}

/** The session's own slope against the registered one. */
export interface SlopeCheck {
  /** Slope of this session, lp/K, and its variance. */ readonly b: number;
  readonly variance: number;
  readonly df: number;
  /** From this difference on they disagree, lp/K. */ readonly limit: number;
  readonly disagrees: boolean;
}
/** Temperatures that hardly move within runs tell no slope of their own, K². */
const LEAST_MOVEMENT = 1e-9;
const LEAST_NU = 3;

/**
 * Whether a session contradicts the slope that it is adjusted by.
 * @param values one number a pull, lp
 * @returns undefined where the session tells no slope of its own
 */
export function checkSlope(
  values: readonly number[],
  temperatures: readonly number[],
  layout: Layout,
  slope: TemperatureSlope,
): SlopeCheck | undefined {
  const column = (list: readonly number[]) =>
    runResiduals(
      list.map((v) => Float64Array.of(v)),
      layout,
    );
  const { rows, nu } = column(values);
  const [e, t] = [rows.map((r) => r[0]), column(temperatures).rows.map((r) => r[0])];
  const X = t.reduce((sum, v) => sum + v * v, 0);
  if (X < LEAST_MOVEMENT || nu < LEAST_NU) return undefined;
  const b = e.reduce((sum, v, i) => sum + v * t[i], 0) / X;
  const s2 = e.reduce((sum, v, i) => sum + (v - b * t[i]) ** 2, 0) / (nu - 1);
  const variance = s2 / X;
  const both = variance + slope.V;
  const df = both ** 2 / (variance ** 2 / (nu - 1) + slope.V ** 2 / slope.df);
  const limit = tUpperQuantile(0.025, df) * Math.sqrt(both);
  return { b, variance, df, limit, disagrees: Math.abs(b - slope.b) > limit };
}
