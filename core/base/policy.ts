import type { Guard } from './guard.ts';
import type { BoostedSchool } from './standards.ts';

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
}

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
