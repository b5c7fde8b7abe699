import { tUpperQuantile } from '../base/distributions.ts';
import { familyQuantile, type Family } from '../base/family-quantile.ts';
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
  /** What a control vehicle leaves open in its own movement between the arms, where that is taken off; lp². */
  readonly control?: KnownVariance | undefined;
  /** One-sided error of this contrast alone. */
  readonly alpha: number;
  /** The contrasts whose single numbers hold together with this one's; left out: it stands alone, at `alpha`. */
  readonly family?: Family | undefined;
}

/** How many standard uncertainties the limits of a single number lie out. */
export const limitAt = ({ alpha, family }: Pick<Terms, 'alpha' | 'family'>, df: number): number =>
  family ? familyQuantile(family, df) : tUpperQuantile(alpha, df);

/** Terms that are of the contrast as a whole and not of its pulls. */
export const wholeTerms = ({ temperature, day, control }: Terms): readonly KnownVariance[] =>
  [temperature, day, control].filter((term) => term !== undefined && term.variance > 0) as KnownVariance[];

/** What is said of the scatter behind an interval; the last keeps it from claim grade. */
export type ScatterFlag = 'SCATTER_TOO_LOW' | 'ARM_SCATTER_UNKNOWN';
