/**
 * What is worth testing next: demand × how little is known ÷ dyno hours. A ranking for people to
 * look at, not a measurement; the weights are house policy.
 */

/** How far the evidence of one part on one fitment has come, least first. */
export const EVIDENCE_STATES = [
  'untested',
  'planned',
  'capturing',
  /** Only as one of several things that differed: evidence for the combination, never the part’s own. */
  'in combination',
  'measured',
  'no gain shown',
  'claim drafted',
  'stale',
  'published',
] as const;
export type EvidenceState = (typeof EVIDENCE_STATES)[number];

/** Share of what one would like to know that is still open. */
export const OPEN_SHARE: Readonly<Record<EvidenceState, number>> = {
  untested: 1,
  planned: 0.8,
  capturing: 0.6,
  'in combination': 0.6,
  measured: 0.5,
  stale: 0.7,
  'no gain shown': 0.15,
  'claim drafted': 0.2,
  published: 0.1,
};
/** With a finding from a sibling that one test serves, less is open. */
export const FAMILY_DISCOUNT = 0.5;

/** Demand rises up to threefold as a launch comes near; a part launched already, or without a date, has its plain demand. */
export const LAUNCH = { most: 2, daysToThird: 60 } as const;

export interface WorthInput {
  readonly state: EvidenceState;
  readonly familyServed: boolean;
  readonly unitsPerYear: number;
  /** Days until the part is sold; null or negative when it is on sale. */ readonly launchInDays:
    number | null;
  /** `usualDynoHours` of the plan stage. */ readonly dynoHours: number;
}

/** Score without unit; higher is more worth testing. One unit a year is counted where sales are unknown, so nothing vanishes. */
export function worthTesting({
  state,
  familyServed,
  unitsPerYear,
  launchInDays,
  dynoHours,
}: WorthInput): number {
  const urgency =
    launchInDays === null || launchInDays < 0
      ? 1
      : 1 + LAUNCH.most * Math.exp(-launchInDays / LAUNCH.daysToThird);
  return (
    (Math.max(1, unitsPerYear) * urgency * OPEN_SHARE[state] * (familyServed ? FAMILY_DISCOUNT : 1)) /
    dynoHours
  );
}
