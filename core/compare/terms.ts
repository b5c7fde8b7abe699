import type { KnownVariance } from '../register/repeatability.ts';

/** What is known beside the pulls of the session. Variances in lp². */
export interface Terms {
  /** Variance of one mounting's level; left out: zero, only right when both arms share every mounting. */
  readonly mount?: KnownVariance | undefined;
  /** Variance bound for drift between the arms (A-B only). */
  readonly driftVariance?: number;
  /** One-sided error. */
  readonly alpha: number;
}

/** What is said of the scatter behind an interval; the last keeps it from claim grade. */
export type ScatterFlag = 'SCATTER_TOO_LOW' | 'ARM_SCATTER_UNKNOWN';
