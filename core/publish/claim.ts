/** From a contrast to what may be said: value, interval, wording, conditions, disclosures. */
import type { PeakToPeak } from '../compare/contrast-analysis.ts';
import { grouped } from '../base/grouped.ts';
import { DISPLAY_UNITS } from '../base/units.ts';
import { STANDARD_NAMES } from '../base/standards.ts';
import { isRefused, type TestResult } from '../judge/analyse-test.ts';
import { claimRounded, type ClaimUnit } from '../judge/display.ts';
import type { Metric } from '../plan/metrics.ts';

export interface ClaimFacts {
  /** What is claimed: the part, or everything that differed. */ readonly part: string;
  /** What it was measured against; “stock” unless the baseline was not. */ readonly against?: string;
  readonly fitment: string;
  readonly vehicle: string;
  readonly fuel: string;
  readonly calibration: string;
  readonly gear: string;
  readonly dyno: string;
}

export interface ClaimText {
  /** Rounded as a claim shows it: a lower limit, towards less. */
  readonly value: number;
  readonly unit: ClaimUnit;
  /** Full precision, in the unit: estimate and limits. Null for “up to”, which is itself a limit. */
  readonly interval: { readonly gain: number; readonly lower: number; readonly upper: number } | null;
  readonly rpm: number | null;
  readonly wording: string;
  readonly conditions: readonly string[];
  readonly disclosures: readonly string[];
}

export type ClaimRefusal = 'NO_CONTRAST' | 'NOT_POSITIVE' | 'UNIT_NOT_FOR_METRIC';

const scaleOf = (unit: ClaimUnit): { kind: 'power' | 'torque' | 'relative'; scale: number } => {
  if (unit === '%') return { kind: 'relative', scale: 1 };
  if (unit in DISPLAY_UNITS.torque)
    return { kind: 'torque', scale: DISPLAY_UNITS.torque[unit as keyof typeof DISPLAY_UNITS.torque] };
  return { kind: 'power', scale: 1000 * DISPLAY_UNITS.power[unit as keyof typeof DISPLAY_UNITS.power] };
};

/** With its sign; per cents with the one decimal they are rounded to. */
const signed = (value: number, unit: ClaimUnit): string =>
  `${value < 0 ? '−' : '+'}${grouped(unit === '%' ? Math.abs(value).toFixed(1) : Math.abs(value))}`;

/**
 * Wording of a claim from the contrast of an arm (the first one without). Policy "lower limit": the number is the
 * lower limit of the metric, rounded towards less, so it says at most what the pulls support. With
 * excluded pulls, the smaller of the results with and without them is used, with the engine speed it was found at.
 */
export function claimText(
  result: TestResult,
  metric: Metric,
  unit: ClaimUnit,
  facts: ClaimFacts,
  arm?: string,
): { ok: true; value: ClaimText } | { ok: false; code: ClaimRefusal; value?: number } {
  const contrast = arm === undefined ? result.contrasts[0] : result.contrasts.find((c) => c.arm === arm);
  if (!contrast || isRefused(contrast)) return { ok: false, code: 'NO_CONTRAST' };
  const { kind, scale } = scaleOf(unit);
  if (kind === 'torque' && metric === 'peakToPeak') return { ok: false, code: 'UNIT_NOT_FOR_METRIC' };
  const block = contrast[kind];
  const again = contrast.withExcluded;
  const scaled = (i: { gain: number; lower: number; upper: number }) => ({
    gain: i.gain * scale,
    lower: i.lower * scale,
    upper: i.upper * scale,
  });
  const basis = `at the wheel, ${STANDARD_NAMES[result.standard]}`;
  const band = `${grouped(contrast.relative.curve[0].rpm)} to ${grouped(contrast.relative.curve.at(-1)!.rpm)} rpm`;
  let value: number,
    interval: ClaimText['interval'] = null,
    rpm: number | null = null,
    wording: (shown: string) => string;
  if (metric === 'upTo') {
    const other = again?.[kind].upTo;
    const upTo = other && other.gain < block.upTo.gain ? other : block.upTo;
    value = upTo.gain * scale;
    rpm = upTo.rpm;
    wording = (shown) => `Up to ${shown} ${unit} ${basis}, at ${grouped(rpm!)} rpm.`;
  } else if (metric === 'bandAverage') {
    const other = again?.[kind].bandAverage;
    interval = scaled(other && other.lower < block.bandAverage.lower ? other : block.bandAverage);
    value = interval.lower;
    wording = (shown) => `At least ${shown} ${unit} on average from ${band}, ${basis}.`;
  } else {
    const own: PeakToPeak = contrast.power.peakToPeak;
    const peak = again && again.power.peakToPeak.lower < own.lower ? again.power.peakToPeak : own;
    interval =
      kind === 'relative' ? { gain: peak.gainPct, lower: peak.lowerPct, upper: peak.upperPct } : scaled(peak);
    value = interval.lower;
    rpm = peak.armRpm;
    wording = (shown) =>
      `At least ${shown} ${unit} peak power ${basis}: peak at ${grouped(peak.armRpm)} rpm against ${grouped(peak.againstRpm)} rpm.`;
  }
  const shown = claimRounded(value, unit);
  if (!(shown > 0)) return { ok: false, code: 'NOT_POSITIVE', value };
  const disclosures = contrast.relative.losses.map(
    (loss) =>
      `Proven loss: ${signed(claimRounded(loss.gain, '%'), '%')} % near ${grouped(loss.rpm)} rpm (from ${grouped(loss.fromRpm)} to ${grouped(loss.toRpm)} rpm).`,
  );
  if (contrast.withExcluded)
    disclosures.push(
      'A pull was excluded for a recorded cause; the smaller of the results with and without it is claimed.',
    );
  if (!/B.*A/.test(contrast.design)) disclosures.push('No return to baseline.');
  return {
    ok: true,
    value: {
      value: shown,
      unit,
      interval,
      rpm,
      wording: wording(signed(shown, unit)),
      conditions: [
        `${facts.part} against ${facts.against ?? 'stock'} on ${facts.fitment}`,
        `On the vehicle tested: ${facts.vehicle}`,
        `Wheel figures, corrected by ${STANDARD_NAMES[result.standard]}, ${result.smoothingRpm} rpm smoothing`,
        `Measured from ${band} on ${facts.dyno}`,
        `Gear ${facts.gear}; fuel ${facts.fuel}; calibration ${facts.calibration}`,
        `${contrast.design}, ${contrast.pulls.arm} part and ${contrast.pulls.against} stock pulls counted; ${Math.round(100 * result.confidence)} % band over the whole range`,
      ],
      disclosures,
    },
  };
}
