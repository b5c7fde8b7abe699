/**
 * Constants of the two interval rules, in one place. Rule P, “pooled, guarded”, makes every limit of a curve
 * (band, “up to”, worst, stretches, losses); rule S, “widest of three”, every limit of one number per pull
 * (band average, peak). Both were settled by simulation; docs/method.md has what they hold and what they do not.
 */

/** Smallest variance a comparison may rest on, lp² (0.05 lp): below it the scatter is not believable. */
export const VARIANCE_FLOOR = 0.0025;
/** Residuals smaller than this are rounding, lp. */
export const NO_RESIDUAL = 1e-12;
/** An arm with fewer degrees of freedom than this says nothing of its own scatter. */
export const NO_FREEDOM = 1e-9;
/** Share of Σc² that one arm may carry before its weight is guarded against. */
export const EVEN_WEIGHT = 2 / 3;

/** How the ratio of the arms’ scatter is found from the residual curves. */
export const ARM_RATIO = {
  /** Cosine components of the curves that are looked at. */
  components: 8,
  /** A component with this share of the scatter has half its weight; smaller ones fade out. */
  halfWeightShare: 0.02,
  /** The ratio is looked for between 1/limit and limit. */
  limit: 10,
} as const;

export const RULE_P = {
  /** Share of the scatter’s own shape along rpm that the band always keeps. */
  ownShape: 0.8,
  /** Standard deviation of the kernel that smooths the scatter along rpm. */
  kernelRpm: 500,
  /** Pooling over rpm multiplies the degrees of freedom by 1 + roughness/scale, by `mostPooling` at the most. */
  mostPooling: 2,
  roughnessScale: 7,
  /** What the arms’ own scatter, taken apart, is multiplied by. */
  apart: 1.1,
  /** From this multiple of the pooled variance on, the arms are said to differ in scatter. */
  armsDifferFrom: 1.5,
} as const;

export const RULE_S = {
  /** What the variance by the arm ratio is raised by for the ratio being an estimate, divided by the components behind it. */
  ratioEstimated: 0.1,
  /** What the arms’ own scatter, taken apart, is multiplied by under the usual guard. */
  usualApart: 1.1,
} as const;
