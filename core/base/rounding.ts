/**
 * How gains and losses are shown, everywhere: gates, figures, tables, claims and the command line. Towards less:
 * gains towards zero, losses away from it. The upper end of an interval, and what is said to be “at most”, goes
 * the other way, so that no rounding makes an interval narrower or an “at most” smaller than the pulls support.
 */

import { pctFromLp } from './units.ts';

/** Slack so that a value that is a step up to the last binary digit keeps its step. */
const SLACK = 1e-9;

const tidy = (value: number): number => Number((Object.is(value, -0) ? 0 : value).toFixed(6));

/** An estimate or a lower limit: towards less. */
export const roundDownTo = (value: number, step: number): number =>
  tidy(Math.floor(value / step + SLACK) * step);

/** An upper limit: towards more. */
export const roundUpTo = (value: number, step: number): number =>
  tidy(Math.ceil(value / step - SLACK) * step);

/** Steps of claims, by the unit a person reads; policy may set others. */
export const CLAIM_STEP = { kW: 0.5, hp: 1, PS: 1, 'N·m': 1, 'lb·ft': 1, '%': 0.1 } as const;
export type ClaimUnit = keyof typeof CLAIM_STEP;
export type ClaimSteps = Readonly<Record<ClaimUnit, number>>;

/** Steps in which results are read on screens and in print: finer than claims, the same everywhere. */
export const SHOWN_STEP = 0.1;

/** A gain or loss as a claim may show it. */
export const claimRounded = (value: number, unit: ClaimUnit, steps: ClaimSteps = CLAIM_STEP): number =>
  roundDownTo(value, steps[unit]);
/** What a claim says is at most so much. */
export const atMostRounded = (value: number, unit: ClaimUnit, steps: ClaimSteps = CLAIM_STEP): number =>
  roundUpTo(value, steps[unit]);

/** A gain, loss or lower limit as text with one decimal and a true minus. */
export const shownGain = (value: number): string => fixed(roundDownTo(value, SHOWN_STEP));
/** An upper limit as text with one decimal and a true minus. */
export const shownUpper = (value: number): string => fixed(roundUpTo(value, SHOWN_STEP));

const fixed = (value: number): string => value.toFixed(1).replace('-', '−');

/** With its sign, plus included: an estimate or a lower limit. */
export const signedGain = (value: number): string => plus(shownGain(value));
/** With its sign, plus included: an upper limit. */
export const signedUpper = (value: number): string => plus(shownUpper(value));
/** Estimate and interval in the one pattern: “+5.1 kW (+3.0 to +7.2)”. */
export const intervalText = (i: { gain: number; lower: number; upper: number }, unit: string): string =>
  `${signedGain(i.gain)} ${unit} (${signedGain(i.lower)} to ${signedUpper(i.upper)})`;
const plus = (text: string): string => (text.startsWith('−') || Number(text) === 0 ? text : `+${text}`);

/** A confidence in per cent, never called more than it is: 0.999 is 99.9, not 100. */
export const confidencePct = (confidence: number): number => roundDownTo(100 * confidence, SHOWN_STEP);

/** Per cent of an lp difference as a claim shows it: one decimal, towards less. */
export const shownPct = (d: number): number => roundDownTo(pctFromLp(d), SHOWN_STEP);
