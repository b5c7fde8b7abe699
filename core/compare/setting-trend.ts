/**
 * The trend of the gain over an ordered setting (an opening, a pulley’s diameter), a straight line through the pulls of
 * all its settings. Told beside the pairs and never claimed: nothing between the settings was measured.
 */
import { pctFromLp } from '../base/units.ts';
import { tUpperQuantile } from '../base/distributions.ts';
import { VARIANCE_FLOOR } from '../base/interval-rules.ts';
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import { mountLoad } from '../plan/contrast-weights.ts';
import type { Setting } from '../plan/swept-setting.ts';
import type { KnownVariance } from '../register/repeatability.ts';
import { meanOf } from './means.ts';
import type { Interval } from './result.ts';

/** One counted pull of a setting: its band average, lp, and where it stood. */
export interface SettingPull {
  readonly setting: Setting;
  readonly average: number;
  readonly run: number;
  readonly mount: number | string;
  readonly order: number;
}
export interface SettingTrend {
  readonly name: string;
  readonly unit: string;
  readonly from: number;
  readonly to: number;
  readonly settings: number;
  /** Change of the band average from the smallest to the largest setting along the line, %. */
  readonly change: Interval;
}

/** Two settings are a pair, not a trend. */
const LEAST_SETTINGS = 3;
const LEAST_DF = 2;

/**
 * @param driftBound drift within it may have moved the settings apart in the order they were run, lp a pull
 * @param mount registered variance of a mounting; without it a trend over several mountings is not told
 * @returns undefined where there is no order, no freedom, or several mountings of which nothing is known
 */
export function settingTrend(
  pulls: readonly SettingPull[],
  {
    alpha,
    driftBound,
    mount,
  }: { readonly alpha: number; readonly driftBound: number; readonly mount?: KnownVariance | undefined },
): SettingTrend | undefined {
  const values = [...new Set(pulls.map((p) => p.setting.value))].sort((a, b) => a - b);
  const kinds = new Set(pulls.map((p) => `${p.setting.name} ${p.setting.unit}`));
  const runs = [...new Set(pulls.map((p) => p.run))];
  const nu = pulls.length - runs.length;
  if (kinds.size !== 1 || values.length < LEAST_SETTINGS || nu < LEAST_DF) return undefined;
  const centre = meanOf(pulls.map((p) => p.setting.value));
  const sxx = pulls.reduce((sum, p) => sum + (p.setting.value - centre) ** 2, 0);
  const weights = pulls.map((p) => (p.setting.value - centre) / sxx);
  const load = mountLoad(
    weights,
    pulls.map((p) => p.mount),
  );
  const isMounted = load > 1e-12 * weights.reduce((sum, w) => sum + w * w, 0);
  if (isMounted && !mount) return undefined;
  const slope = pulls.reduce((sum, p, i) => sum + weights[i] * p.average, 0);
  const within = runs.reduce((sum, run) => {
    const own = pulls.filter((p) => p.run === run).map((p) => p.average);
    return sum + own.reduce((s, v) => s + (v - meanOf(own)) ** 2, 0);
  }, 0);
  const drift = driftBound * pulls.reduce((sum, p, i) => sum + weights[i] * p.order, 0);
  const { u2, nu: df } = welchSatterthwaite(
    [
      Math.max(within / nu, VARIANCE_FLOOR) * weights.reduce((sum, w) => sum + w * w, 0),
      isMounted ? mount!.variance * load : 0,
      drift ** 2 / 3,
    ],
    [nu, mount?.df ?? Infinity, Infinity],
  );
  const half = tUpperQuantile(alpha, df) * Math.sqrt(u2);
  const span = values[values.length - 1] - values[0];
  const [{ setting }] = pulls;
  return {
    name: setting.name,
    unit: setting.unit,
    from: values[0],
    to: values[values.length - 1],
    settings: values.length,
    change: {
      gain: pctFromLp(slope * span),
      lower: pctFromLp((slope - half) * span),
      upper: pctFromLp((slope + half) * span),
    },
  };
}
