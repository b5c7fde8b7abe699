/** A metric of a contrast as a claim reads it: the number by policy, rounded, and the words it stands in. */
import { grouped } from '../base/grouped.ts';
import type { ClaimForm, ClaimRules } from '../base/policy.ts';
import { atMostRounded, claimRounded, confidencePct, type ClaimUnit } from '../base/rounding.ts';
import { correctionWords, STANDARD_NAMES } from '../base/standards.ts';
import { DISPLAY_UNITS } from '../base/units.ts';
import type { ContrastResult, Interval } from '../compare/result.ts';
import type { TestResult } from '../judge/analyse-test.ts';
import type { Metric } from '../plan/metrics.ts';

type Kind = 'power' | 'torque' | 'relative';
export const scaleOf = (unit: ClaimUnit): { kind: Kind; scale: number } => {
  if (unit === '%') return { kind: 'relative', scale: 1 };
  if (unit in DISPLAY_UNITS.torque)
    return { kind: 'torque', scale: DISPLAY_UNITS.torque[unit as keyof typeof DISPLAY_UNITS.torque] };
  return { kind: 'power', scale: 1000 * DISPLAY_UNITS.power[unit as keyof typeof DISPLAY_UNITS.power] };
};
/** With its sign; per cents with the one decimal they are rounded to. */
export const signed = (value: number, unit: ClaimUnit): string =>
  `${value < 0 ? '−' : value > 0 ? '+' : ''}${grouped(unit === '%' ? Math.abs(value).toFixed(1) : Math.abs(value))}`;

/** How the figures are to be read: where they were measured and what was corrected. */
export const basisOf = (result: TestResult): string =>
  result.standard === 'none' || result.school
    ? `at the wheel, ${correctionWords(result.standard, result.school)}`
    : `at the wheel, ${STANDARD_NAMES[result.standard]}`;

export const bandOf = ({ relative }: ContrastResult): string =>
  `${grouped(relative.curve[0].rpm)} to ${grouped(relative.curve.at(-1)!.rpm)} rpm`;

/** One metric of one contrast in a unit: its lower limit, the mean with its limits, and the words around them. */
export interface Reading {
  readonly limit: number;
  /** Null for an “up to”, which is itself a limit. */
  readonly interval: Interval | null;
  readonly rpm: number | null;
  /** What follows the number that is the lower limit. */
  readonly words: (shown: string) => string;
  /** The same for a mean with its range; null where there is no mean. */
  readonly ranged: ((shown: string, range: string) => string) | null;
}

/** Throws nothing: where the unit or the peak does not allow it, the code of the refusal. */
export function readingOf(
  contrast: ContrastResult,
  metric: Metric,
  unit: ClaimUnit,
  basis: string,
): Reading | 'UNIT_NOT_FOR_METRIC' | 'PEAK_AT_EDGE' {
  const { kind, scale } = scaleOf(unit);
  const scaled = ({ gain, lower, upper }: Interval): Interval => ({
    gain: gain * scale,
    lower: lower * scale,
    upper: upper * scale,
  });
  switch (metric) {
    case 'upTo': {
      const { gain, rpm } = contrast[kind].upTo;
      return {
        limit: gain * scale,
        interval: null,
        rpm,
        words: (shown) => `Up to ${shown} ${unit} ${basis}, at ${grouped(rpm)} rpm.`,
        ranged: null,
      };
    }
    case 'bandAverage': {
      const interval = scaled(contrast[kind].bandAverage);
      return {
        limit: interval.lower,
        interval,
        rpm: null,
        words: (shown) => `At least ${shown} ${unit} on average from ${bandOf(contrast)}, ${basis}.`,
        ranged: (shown, range) =>
          `${shown} ${unit} (${range}) on average from ${bandOf(contrast)}, ${basis}.`,
      };
    }
    case 'peakToPeak': {
      if (kind === 'torque') return 'UNIT_NOT_FOR_METRIC';
      const peak = contrast.power.peakToPeak;
      if (peak.atEdge) return 'PEAK_AT_EDGE';
      const interval =
        kind === 'relative'
          ? { gain: peak.gainPct, lower: peak.lowerPct, upper: peak.upperPct }
          : scaled(peak);
      const peaks = `peak at ${grouped(peak.armRpm)} rpm against ${grouped(peak.againstRpm)} rpm`;
      return {
        limit: interval.lower,
        interval,
        rpm: peak.armRpm,
        words: (shown) => `At least ${shown} ${unit} peak power ${basis}: ${peaks}.`,
        ranged: (shown, range) => `${shown} ${unit} (${range}) peak power ${basis}: ${peaks}.`,
      };
    }
  }
}

/** The number of a gain, what it is, and the words with it. */
type Said =
  | {
      readonly ok: true;
      readonly value: number;
      readonly says: ClaimForm;
      readonly interval: Interval | null;
      readonly words: string;
    }
  | { readonly ok: false; /** What is not above zero. */ readonly value: number };

/**
 * The number as policy words it. A mean is claimed only where its range begins above zero as it is shown: else the
 * words themselves would allow that there is no gain.
 *
 * @param reading the result that supports less, with or without what was left out
 * @param all both of them: the smaller mean is claimed, with a range as wide as either of them has
 */
export function saidOf(
  reading: Reading,
  all: readonly { readonly reading: Reading }[],
  unit: ClaimUnit,
  { says, steps }: ClaimRules,
  confidence: number,
): Said {
  const down = (value: number): number => claimRounded(value, unit, steps);
  const limit = down(reading.limit);
  if (!(limit > 0)) return { ok: false, value: reading.limit };
  if (says === 'lower limit' || !reading.ranged) {
    const words = reading.words(signed(limit, unit));
    return { ok: true, value: limit, says: 'lower limit', interval: reading.interval, words };
  }
  const intervals = all.map((one) => one.reading.interval!);
  const interval = {
    gain: Math.min(...intervals.map((i) => i.gain)),
    lower: reading.limit,
    upper: Math.max(...intervals.map((i) => i.upper)),
  };
  const value = down(interval.gain);
  const upper = signed(atMostRounded(interval.upper, unit, steps), unit);
  const range = `${confidencePct(confidence)} % range ${signed(limit, unit)} to ${upper} ${unit}`;
  return { ok: true, value, says, interval, words: reading.ranged(signed(value, unit), range) };
}
