import { pctFromLp } from '../base/units.ts';

/** Rounding slack so that a value that is a step up to the last binary digit keeps its step. */
const SLACK = 1e-9;

/** Rounds towards the side that claims less: gains towards zero, losses away from it. */
export const roundDownTo = (value: number, step: number): number => {
  const rounded = Math.floor(value / step + SLACK) * step;
  return Number((Object.is(rounded, -0) ? 0 : rounded).toFixed(6));
};

/** Steps a claim is rounded to, by the unit a person reads. */
export const CLAIM_STEP = { kW: 0.5, hp: 1, PS: 1, 'N·m': 1, 'lb·ft': 1, '%': 0.1 } as const;
export type ClaimUnit = keyof typeof CLAIM_STEP;

/** A gain or loss as a claim may show it. */
export const claimRounded = (value: number, unit: ClaimUnit): number => roundDownTo(value, CLAIM_STEP[unit]);

/** Per cent of an lp difference as a claim shows it: one decimal, towards less. */
export const shownPct = (d: number): number => roundDownTo(pctFromLp(d), 0.1);
