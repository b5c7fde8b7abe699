import type { Rows } from './common-grid.ts';

/**
 * Roughness τ of the residual curves: the length of the path their normalised vector walks along rpm,
 * each step weighted by the share of the pull-to-pull variance in the total. Columns without scatter
 * have no direction: steps to and from them count nothing.
 */
export function roughness(residuals: Rows, share?: ArrayLike<number>): number {
  const G = residuals[0]?.length ?? 0;
  const norm = new Float64Array(G);
  for (const row of residuals) for (let j = 0; j < G; j++) norm[j] += row[j] ** 2;
  for (let j = 0; j < G; j++) norm[j] = Math.sqrt(norm[j]);
  let tau = 0;
  for (let j = 0; j + 1 < G; j++) {
    if (norm[j] === 0 || norm[j + 1] === 0) continue;
    let step = 0;
    for (const row of residuals) step += (row[j + 1] / norm[j + 1] - row[j] / norm[j]) ** 2;
    tau += Math.sqrt(step) * (share ? Math.sqrt((share[j] + share[j + 1]) / 2) : 1);
  }
  return tau;
}
