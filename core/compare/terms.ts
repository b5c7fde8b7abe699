import type { KnownVariance } from '../register/repeatability.ts';

/** What is known beside the pulls of the session. Variances in lp². */
export interface Terms {
  /** Variance of one mounting's level; left out: zero, only right when both arms share every mounting. */
  readonly mount?: KnownVariance | undefined;
  /** Variance bound for drift between the arms (A-B only). */
  readonly driftVariance?: number;
  /** What start temperatures of the arms leave open in the contrast, lp². */
  readonly temperature?: KnownVariance | undefined;
  /** What the days of a vehicle leave open in the mean over those measured, lp². */
  readonly day?: KnownVariance | undefined;
  /** One-sided error. */
  readonly alpha: number;
}

/** Terms that are of the contrast as a whole and not of its pulls. */
export const wholeTerms = ({ temperature, day }: Terms): readonly KnownVariance[] =>
  [temperature, day].filter((term) => term !== undefined && term.variance > 0) as KnownVariance[];

/** What is said of the scatter behind an interval; the last keeps it from claim grade. */
export type ScatterFlag = 'SCATTER_TOO_LOW' | 'ARM_SCATTER_UNKNOWN';
