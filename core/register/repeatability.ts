/** A variance known from elsewhere (lp²) with its degrees of freedom. */
export interface KnownVariance {
  readonly variance: number;
  readonly df: number;
}

/** Registered repeatability of a dyno in one measuring mode; variances in lp². Any part may be unknown. */
export interface Repeatability {
  readonly curve?: KnownVariance | undefined;
  readonly bandAverage?: KnownVariance | undefined;
  readonly peak?: KnownVariance | undefined;
  readonly mount?: KnownVariance | undefined;
  readonly day?: KnownVariance | undefined;
}
