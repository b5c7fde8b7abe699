import { runResiduals, sumOfSquares } from './contrast.ts';
import type { Layout } from '../plan/contrast-weights.ts';

/** Variance of one number per pull about its run, lp². */
export function runVariance(values: readonly number[], layout: Layout): number {
  const { rows, nu } = runResiduals(
    values.map((value) => Float64Array.of(value)),
    layout,
  );
  return sumOfSquares(rows)[0] / nu;
}
