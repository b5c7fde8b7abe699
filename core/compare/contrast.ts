import type { Rows } from './common-grid.ts';
import { NumericalError } from '../base/errors.ts';

/** Where each counted pull stands in the comparison; all arrays have one entry per pull. */
export interface Layout {
  /** 0 baseline, 1 part. */
  readonly arm: readonly (0 | 1)[];
  /** Number of the run the pull belongs to. */
  readonly run: readonly number[];
  readonly mount: readonly (number | string)[];
  /** True position in the session, warm-up pulls included. */
  readonly order: readonly number[];
  /** Whether a straight line in order is fitted beside the arms. */
  readonly covariate: boolean;
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/**
 * Weights c with d(r) = Σ c_i·x_i(r). Plain: +1/nB on part pulls, −1/nA on baseline pulls. With the
 * order covariate: the row "arm" of (XᵀX)⁻¹Xᵀ for X = [1, arm, order − mean], found by taking the
 * other columns out of "arm" first (Frisch-Waugh).
 */
export function contrastWeights({ arm, order, covariate }: Pick<Layout, 'arm' | 'order' | 'covariate'>): number[] {
  const nB = arm.filter((a) => a === 1).length;
  const nA = arm.length - nB;
  if (!covariate) return arm.map((a) => (a === 1 ? 1 / nB : -1 / nA));
  const o = order.map((value) => value - mean(order));
  const a = arm.map((value) => value - nB / arm.length);
  const oo = o.reduce((sum, value) => sum + value * value, 0);
  const slope = oo === 0 ? 0 : a.reduce((sum, value, i) => sum + value * o[i], 0) / oo;
  const rest = a.map((value, i) => value - slope * o[i]);
  const scale = rest.reduce((sum, value) => sum + value * value, 0);
  if (scale < 1e-12 * arm.length) {
    throw new NumericalError('BAD_ARGUMENT', 'The arm and the order of the pulls cannot be told apart.', 'Return to the baseline or leave the drift term out.');
  }
  return rest.map((value) => value / scale);
}

/** d(r) = Σ c_i·x_i(r). */
export function contrastCurve(weights: readonly number[], rows: Rows): Float64Array {
  const out = new Float64Array(rows[0]?.length ?? 0);
  rows.forEach((row, i) => { for (let j = 0; j < out.length; j++) out[j] += weights[i] * row[j]; });
  return out;
}

export interface Residuals { readonly rows: Float64Array[]; readonly nu: number }

/**
 * Residuals about the run means, or of the regression on run indicators and order. `nu` is the
 * number of pulls less the rank of what was taken out.
 */
export function runResiduals(rows: Rows, { run, order, covariate }: Pick<Layout, 'run' | 'order' | 'covariate'>): Residuals {
  const groups = [...new Set(run)].map((id) => run.flatMap((value, i) => (value === id ? [i] : [])));
  const centred = rows.map((row) => Float64Array.from(row));
  const o = [...order];
  for (const members of groups) {
    const orderMean = mean(members.map((i) => order[i]));
    for (const i of members) o[i] = order[i] - orderMean;
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
    for (let j = 0; j < (rows[0]?.length ?? 0); j++) {
      let slope = 0;
      for (let i = 0; i < rows.length; i++) slope += o[i] * centred[i][j];
      slope /= oo;
      for (let i = 0; i < rows.length; i++) centred[i][j] -= slope * o[i];
    }
  }
  return { rows: centred, nu };
}

/** Sum of squares per rpm over the pulls chosen (all by default). */
export function sumOfSquares(rows: Rows, of: (pull: number) => boolean = () => true): Float64Array {
  const out = new Float64Array(rows[0]?.length ?? 0);
  rows.forEach((row, i) => { if (of(i)) for (let j = 0; j < out.length; j++) out[j] += row[j] ** 2; });
  return out;
}

/** Σ over mountings of (sum of contrast weights in the mounting)²: how much a mounting's own level enters the contrast. */
export function mountLoad(weights: readonly number[], mount: Layout['mount']): number {
  const sums = new Map<number | string, number>();
  weights.forEach((c, i) => sums.set(mount[i], (sums.get(mount[i]) ?? 0) + c));
  return [...sums.values()].reduce((total, c) => total + c * c, 0);
}
