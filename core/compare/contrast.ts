import type { Rows } from './common-grid.ts';
import type { Layout } from '../plan/contrast-weights.ts';
import { NO_RESIDUAL } from '../base/interval-rules.ts';

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/** d(r) = Σ c_i·x_i(r). */
export function contrastCurve(weights: readonly number[], rows: Rows): Float64Array {
  const out = new Float64Array(rows[0]?.length ?? 0);
  rows.forEach((row, i) => {
    for (let j = 0; j < out.length; j++) out[j] += weights[i] * row[j];
  });
  return out;
}

export interface Residuals {
  readonly rows: Float64Array[];
  readonly nu: number;
  /** How much of a degree of freedom each pull's residual carries; they add up to `nu`. */
  readonly freedom: readonly number[];
}

/**
 * Residuals about the run means, or of the regression on run indicators and order. `nu` is the
 * number of pulls less the rank of what was taken out. Residuals that are only rounding are zero.
 */
export function runResiduals(
  rows: Rows,
  { run, order, covariate }: Pick<Layout, 'run' | 'order' | 'covariate'>,
): Residuals {
  const groups = [...new Set(run)].map((id) => run.flatMap((value, i) => (value === id ? [i] : [])));
  const centred = rows.map((row) => Float64Array.from(row));
  const o = [...order];
  const freedom = rows.map(() => 1);
  for (const members of groups) {
    const orderMean = mean(members.map((i) => order[i]));
    for (const i of members) {
      o[i] = order[i] - orderMean;
      freedom[i] = 1 - 1 / members.length;
    }
    for (let j = 0; j < (rows[0]?.length ?? 0); j++) {
      let sum = 0;
      for (const i of members) sum += rows[i][j];
      for (const i of members) centred[i][j] = rows[i][j] - sum / members.length;
    }
  }
  const oo = o.reduce((sum, value) => sum + value * value, 0);
  let nu = rows.length - groups.length;
  if (covariate && oo > 1e-12) {
    nu -= 1;
    o.forEach((value, i) => (freedom[i] -= (value * value) / oo));
    for (let j = 0; j < (rows[0]?.length ?? 0); j++) {
      let slope = 0;
      for (let i = 0; i < rows.length; i++) slope += o[i] * centred[i][j];
      slope /= oo;
      for (let i = 0; i < rows.length; i++) centred[i][j] -= slope * o[i];
    }
  }
  for (const row of centred)
    for (let j = 0; j < row.length; j++) if (Math.abs(row[j]) < NO_RESIDUAL) row[j] = 0;
  return { rows: centred, nu, freedom };
}

/** Sum of squares per rpm over the pulls chosen (all by default). */
export function sumOfSquares(rows: Rows, of: (pull: number) => boolean = () => true): Float64Array {
  const out = new Float64Array(rows[0]?.length ?? 0);
  rows.forEach((row, i) => {
    if (of(i)) for (let j = 0; j < out.length; j++) out[j] += row[j] ** 2;
  });
  return out;
}
