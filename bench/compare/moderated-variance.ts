import type { KnownVariance } from '../../core/register/repeatability.ts';

/** Rule B for one curve: the history's df are discounted when the session is noisier than the history. */
export function moderatedVariance(
  s2: ArrayLike<number>,
  nu: number,
  sbar: number,
  history: KnownVariance,
): { f: number; df: number; v: Float64Array } {
  const f = Math.max(1, sbar / history.variance);
  const df = history.df / f + nu;
  // The numerator keeps the whole history while the df shrink, so a noisy session widens v as well as its tail.
  return {
    f,
    df,
    v: Float64Array.from({ length: s2.length }, (_, j) => (history.df * history.variance + nu * s2[j]) / df),
  };
}
