/** From a contrast to what may be said: value, interval, wording, conditions, disclosures. */
import { grouped } from '../base/grouped.ts';
import { DEFAULT_RULES, type ClaimForm, type ClaimRules } from '../base/policy.ts';
import { atMostRounded, claimRounded, confidencePct, roundDownTo, type ClaimUnit } from '../base/rounding.ts';
import { basisOf, bandOf, readingOf, saidOf, scaleOf, signed, type Reading } from './claim-reading.ts';
import { signed as difference } from '../base/signed.ts';
import { mechanismTold } from './mechanism.ts';
import { correctionWords } from '../base/standards.ts';
import type { ContrastResult, Interval } from '../compare/result.ts';
import { isRefused, type TestResult } from '../judge/analyse-test.ts';
import type { Metric } from '../plan/metrics.ts';
import type { NotAsSold } from '../register/sold-setting.ts';
import type { ClaimSubject } from '../plan/subject.ts';

export interface ClaimFacts {
  /** What is claimed: everything that differed, and the baseline where it was not stock. */
  readonly subject: ClaimSubject;
  /** Whether that is something sold; a condition (an element removed, another fuel) is told as advice. */
  readonly product: boolean;
  /** Settings tested that are not those it is sold in. */
  readonly notAsSold: NotAsSold | null;
  readonly fitment: string;
  readonly vehicle: string;
  readonly fuel: string;
  readonly calibration: string;
  readonly gear: string;
  /** Tyres of the baseline; empty where a plan of before did not keep them. */
  readonly tyres?: string;
  readonly dyno: string;
  /** How the house words claims; left out: by the lower limit, in the usual steps. */
  readonly rules?: ClaimRules;
}

export interface ClaimText {
  /** Rounded as a claim shows it: a lower limit or a mean towards less; an “at most” towards more. */
  readonly value: number;
  /** What the value is. An “up to” is a limit in every policy; an advice has words of its own and never says a mean. */
  readonly says: ClaimForm;
  readonly unit: ClaimUnit;
  /** Full precision, in the unit: estimate and limits. Null for “up to”, which is itself a limit. */
  readonly interval: { readonly gain: number; readonly lower: number; readonly upper: number } | null;
  readonly rpm: number | null;
  readonly wording: string;
  readonly conditions: readonly string[];
  readonly disclosures: readonly string[];
}

export type ClaimRefusal =
  | 'NO_CONTRAST'
  | 'NOT_POSITIVE'
  | 'UNIT_NOT_FOR_METRIC'
  | 'PEAK_AT_EDGE'
  | 'NO_PRODUCT'
  | 'NOT_SHOWN_TOGETHER'
  | 'ANOTHER_TEST_SAYS_LESS'
  | 'ANOTHER_TEST_SAYS_MORE';
export type ClaimOutcome =
  | { readonly ok: true; readonly value: ClaimText }
  | {
      readonly ok: false;
      readonly code: ClaimRefusal;
      readonly value?: number;
      /** Number of the test that says otherwise. */ readonly test?: number;
    };

/** The contrast of an arm (the first one without), and the same with excluded pulls put back. */
export function contrastsOf(result: TestResult, arm: string | undefined): ContrastResult[] {
  const contrast = arm === undefined ? result.contrasts[0] : result.contrasts.find((c) => c.arm === arm);
  if (!contrast || isRefused(contrast)) return [];
  return contrast.withExcluded ? [contrast, contrast.withExcluded] : [contrast];
}

/** Losses proven with or without the excluded pulls: each is told. */
export function lossTexts(contrasts: readonly ContrastResult[]): string[] {
  return [
    ...new Set(
      contrasts.flatMap(({ relative }) =>
        relative.losses.map(
          (loss) =>
            `Proven loss: ${signed(claimRounded(loss.gain, '%'), '%')} % near ` +
            `${grouped(loss.rpm)} rpm (from ${grouped(loss.fromRpm)} to ${grouped(loss.toRpm)} rpm).`,
        ),
      ),
    ),
  ];
}

/** What barred the claim until a person answered for it: whoever reads the claim is told. */
const answeredTexts = ({ findings }: TestResult, arm: string): string[] =>
  findings.flatMap((f) =>
    f.answer && (f.arm === undefined || f.arm === arm)
      ? [
          f.answer.overrides
            ? `${f.message} This keeps a test back; ${f.answer.by} let it stand: ${f.answer.text}`
            : `${f.message} ${f.answer.by} has answered for it before the claim was published.`,
        ]
      : [],
  );

/** What stands in for the return where the part cannot come off again. */
const oneWayTexts = ({ findings }: TestResult, arm: string): string[] =>
  findings.flatMap((f) =>
    f.code === 'ONE_WAY_HELD' && (f.arm === undefined || f.arm === arm) ? [f.message] : [],
  );

/** What the files say beyond the planned range: choosing the range does not hide it. */
const outsideTexts = ({ findings }: TestResult, arm: string): string[] =>
  findings.flatMap((f) =>
    f.code === 'LOSS_OUTSIDE_WINDOW' && (f.arm === undefined || f.arm === arm) ? [f.message] : [],
  );

/** Where pulls were brought to one start temperature, what it moved is told. */
function adjustedTexts({ startTemperature: heat }: ContrastResult): string[] {
  if (!heat || heat.slope === 0) return [];
  const { apartK, slope, unadjusted: u } = heat;
  const [gain, lower, upper] = [u.gain, u.lower, u.upper].map((v) => difference(v, 1));
  return [
    `Compared at one start temperature by the dyno’s own slope (${difference(slope, 2)} % a kelvin): the part started ` +
      `${Math.abs(apartK).toFixed(1)} K ${apartK < 0 ? 'colder' : 'warmer'}; without it the average is ${gain} % (${lower} to ${upper}).`,
  ];
}

function disclosuresOf(result: TestResult, contrasts: readonly ContrastResult[]): string[] {
  return [
    ...lossTexts(contrasts),
    ...outsideTexts(result, contrasts[0].arm),
    ...answeredTexts(result, contrasts[0].arm),
    ...adjustedTexts(contrasts[0]),
    ...(contrasts.length > 1
      ? [
          'A pull was excluded for a recorded cause; the smaller of the results with and without it is claimed.',
        ]
      : []),
    ...(/B.*A/.test(contrasts[0].design)
      ? []
      : ['No return to baseline.', ...oneWayTexts(result, contrasts[0].arm)]),
  ];
}

const ON_VEHICLE = 'On the vehicle tested: ';
export const isVehicle = (condition: string): boolean => condition.startsWith(ON_VEHICLE);
const BASIS = 'Wheel figures, ';
/** The condition that says how the figures were corrected and smoothed. */
export const isBasis = (condition: string): boolean => condition.startsWith(BASIS);

function conditionsOf(result: TestResult, contrast: ContrastResult, facts: ClaimFacts): string[] {
  return [
    `${facts.subject.text}${facts.subject.against === null ? ' against stock' : ''} on ${facts.fitment}`,
    `${ON_VEHICLE}${facts.vehicle}`,
    `${BASIS}${correctionWords(result.standard, result.school)}, ` + `${result.smoothingRpm} rpm smoothing`,
    `Measured from ${bandOf(contrast)} on ${facts.dyno}`,
    `Gear ${facts.gear}; ${facts.tyres ? `tyres ${facts.tyres}; ` : ''}fuel ${facts.fuel}; calibration ${facts.calibration}`,
    `${contrast.design}, ${contrast.pulls.arm} part and ${contrast.pulls.against} stock ` +
      `pulls counted; ${confidencePct(result.confidence)} % band over the whole range`,
    ...mechanismTold(contrast),
  ];
}

/** What the part does in the setting it is sold in, told beside a claim for another. */
function soldTold(result: TestResult, metric: Metric, unit: ClaimUnit, facts: ClaimFacts): string[] {
  if (!facts.notAsSold) return [];
  const { sold, soldArm } = facts.notAsSold;
  if (soldArm === null) return [`As sold (${sold}) it was not tested.`];
  const text = gainText(result, metric, unit, { ...facts, notAsSold: null }, soldArm);
  if (text.ok) return [`As sold (${sold}): ${text.value.wording}`];
  const advice = adviceText(result, unit, { ...facts, notAsSold: null }, soldArm);
  return [`As sold (${sold}): ${advice.ok ? advice.value.wording : 'not comparable in this test.'}`];
}

/** A setting other than the one it is sold in stands in the first line. */
const withSetting = (words: string, { notAsSold }: ClaimFacts): string =>
  notAsSold
    ? `With ${notAsSold.tested} (sold with ${notAsSold.sold}): ${words[0].toLowerCase()}${words.slice(1)}`
    : words;

function gainText(
  result: TestResult,
  metric: Metric,
  unit: ClaimUnit,
  facts: ClaimFacts,
  arm?: string,
): ClaimOutcome {
  const contrasts = contrastsOf(result, arm);
  if (contrasts.length === 0) return { ok: false, code: 'NO_CONTRAST' };
  if (!facts.product) return { ok: false, code: 'NO_PRODUCT' };
  const readings: { reading: Reading; contrast: ContrastResult }[] = [];
  for (const contrast of contrasts) {
    const reading = readingOf(contrast, metric, unit, basisOf(result));
    if (typeof reading === 'string') return { ok: false, code: reading };
    readings.push({ reading, contrast });
  }
  // Range, engine speed and words come from the one that supports less.
  const { reading, contrast } = readings.reduce((a, b) => (b.reading.limit < a.reading.limit ? b : a));
  const said = saidOf(reading, readings, unit, facts.rules ?? DEFAULT_RULES, result.confidence);
  if (!said.ok) return { ok: false, code: 'NOT_POSITIVE', value: said.value };
  return {
    ok: true,
    value: {
      value: said.value,
      says: said.says,
      unit,
      interval: said.interval,
      rpm: reading.rpm,
      wording: withSetting(said.words, facts),
      conditions: conditionsOf(result, contrast, facts),
      disclosures: [...soldTold(result, metric, unit, facts), ...disclosuresOf(result, contrasts)],
    },
  };
}

/** The average in per cent claimed over several tests: number and limits of all of them, the rest as of this one. */
export function averageOverTests(
  result: TestResult,
  limits: Interval,
  where: string,
  facts: ClaimFacts,
  arm: string,
): ClaimOutcome {
  const contrasts = contrastsOf(result, arm);
  if (contrasts.length === 0) return { ok: false, code: 'NO_CONTRAST' };
  if (!facts.product) return { ok: false, code: 'NO_PRODUCT' };
  const [contrast] = contrasts;
  const average = `on average from ${bandOf(contrast)}, ${where}, ${basisOf(result)}.`;
  const reading: Reading = {
    limit: limits.lower,
    interval: limits,
    rpm: null,
    words: (shown) => `At least ${shown} % ${average}`,
    ranged: (shown, range) => `${shown} % (${range}) ${average}`,
  };
  const said = saidOf(reading, [{ reading }], '%', facts.rules ?? DEFAULT_RULES, result.confidence);
  if (!said.ok) return { ok: false, code: 'NOT_POSITIVE', value: said.value };
  return {
    ok: true,
    value: {
      value: said.value,
      says: said.says,
      unit: '%',
      interval: said.interval,
      rpm: null,
      wording: withSetting(said.words, facts),
      conditions: conditionsOf(result, contrast, facts),
      disclosures: [...soldTold(result, 'bandAverage', '%', facts), ...disclosuresOf(result, contrasts)],
    },
  };
}

/**
 * Wording of a claim from the contrast of an arm (the first one without). By policy the number is the lower limit of
 * the metric or its mean with the range beside it, rounded towards less, so it says at most what the pulls support.
 * With excluded pulls, everything is told from the smaller of the results with and without them, and losses from both.
 */
export const claimText = (
  result: TestResult,
  metric: Metric,
  unit: ClaimUnit,
  facts: ClaimFacts,
  arm?: string,
): ClaimOutcome => gainText(result, metric, unit, facts, arm);

/**
 * What is told as advice: how much a change gives at the most, that no gain was shown, or what is lost. From the
 * average over the band, which is what a driver gets, with every proven loss beside it. “At most” is rounded
 * towards more; with excluded pulls the largest of both is told.
 */
export function adviceText(
  result: TestResult,
  unit: ClaimUnit,
  facts: ClaimFacts,
  arm?: string,
): ClaimOutcome {
  const contrasts = contrastsOf(result, arm);
  if (contrasts.length === 0) return { ok: false, code: 'NO_CONTRAST' };
  const { kind, scale } = scaleOf(unit);
  const widest = contrasts.reduce((a, b) => (b[kind].bandAverage.upper > a[kind].bandAverage.upper ? b : a));
  const { gain, lower, upper } = widest[kind].bandAverage;
  const interval = { gain: gain * scale, lower: lower * scale, upper: upper * scale };
  const basis = basisOf(result);
  const where = `on average from ${bandOf(widest)}, ${basis}`;
  const losses = lossTexts(contrasts);
  const lost = interval.upper < 0;
  const { steps } = facts.rules ?? DEFAULT_RULES;
  const value = lost
    ? roundDownTo(interval.gain, steps[unit])
    : atMostRounded(Math.max(0, interval.upper), unit, steps);
  const shows = contrasts.every((c) => c[kind].bandAverage.lower > 0);
  const words = lost
    ? `Loses ${kind === 'torque' ? 'torque' : 'power'}: ${signed(value, unit)} ${unit} ${where}.`
    : shows
      ? `Gives at most ${signed(value, unit)} ${unit} ${where}.`
      : losses.length > 0
        ? `No gain on average (at most ${signed(value, unit)} ${unit} from ${bandOf(widest)}, ${basis}), and a loss in part of the range.`
        : `No gain shown: at most ${signed(value, unit)} ${unit} ${where}.`;
  return {
    ok: true,
    value: {
      value,
      says: 'lower limit',
      unit,
      interval,
      rpm: null,
      wording: withSetting(words, facts),
      conditions: conditionsOf(result, widest, facts),
      disclosures: disclosuresOf(result, contrasts),
    },
  };
}
