import type { Guard } from './guard.ts';
import { CLAIM_STEP, type ClaimSteps } from './rounding.ts';
import type { BoostedSchool, Standard } from './standards.ts';

/**
 * What the number of a claim is: the lower limit (“at least”), or the mean with its range beside it. “Up to” is the
 * largest lower limit of the band and has no mean of its own: it is a limit either way.
 */
export const CLAIM_FORMS = ['lower limit', 'mean with range'] as const;
export type ClaimForm = (typeof CLAIM_FORMS)[number];
/** How claims are worded. Whichever way: a gain towards less, an upper end towards more. */
export interface ClaimRules {
  readonly says: ClaimForm;
  readonly steps: ClaimSteps;
}
export const DEFAULT_RULES: ClaimRules = { says: 'lower limit', steps: CLAIM_STEP };
/** What plans are made with where nobody chose otherwise. */
export const DEFAULT_STANDARD: Standard = 'sae-j1349';

/** House policy: thresholds of the gates and how claims are worded. Every analysis records the policy it used. */
export interface Policy {
  readonly version: string;
  readonly warmUpPulls: number;
  readonly pullsPerRun: number;
  readonly driftBoundLpPerPull: number;
  readonly factorArms: { readonly pass: number; readonly caution: number };
  readonly rampSpread: number;
  readonly trimmedShare: number;
  readonly scatter: {
    readonly cautionTimes: number;
    readonly mostPct: number;
    /** A scatter this unlikely to be so small, by the dyno’s history, is not believed. */
    readonly tooLowChance: number;
  };
  /** How many months a claim may stand before it goes stale. */
  readonly claimAgeMonths: number;
  /** Width of the moving average every curve is smoothed by, and the confidence of the band. */
  readonly smoothingRpm: number;
  readonly confidence: number;
  /** How wary the intervals of single numbers (band average, peak) are of arms that scatter differently. */
  readonly guard: Guard;
  /** How air is corrected on boosted engines. */
  readonly boostedSchool: BoostedSchool;
  /** Standard that plans begin with; left out in policies of before it could be chosen. */
  readonly standard?: Standard | undefined;
  /** How claims are worded; left out in policies of before it could be chosen. */
  readonly claims?: ClaimRules | undefined;
}

export const standardOf = ({ standard }: Policy): Standard => standard ?? DEFAULT_STANDARD;
export const rulesOf = ({ claims }: Policy): ClaimRules => claims ?? DEFAULT_RULES;

export const DEFAULT_POLICY: Policy = {
  version: 'house-1',
  warmUpPulls: 3,
  pullsPerRun: 3,
  driftBoundLpPerPull: 0.3,
  factorArms: { pass: 0.01, caution: 0.02 },
  rampSpread: 0.1,
  trimmedShare: 0.1,
  scatter: { cautionTimes: 1.5, mostPct: 2, tooLowChance: 0.001 },
  claimAgeMonths: 36,
  smoothingRpm: 200,
  confidence: 0.95,
  guard: 'strict',
  boostedSchool: 'correct',
};
