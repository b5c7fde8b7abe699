/** The weights a design puts on its pulls: known from the plan alone, before anything is measured. */
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
  /** Which of several sessions each pull is of; left out: one session. Each session's own contrast counts alike. */
  readonly session?: readonly number[] | undefined;
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/**
 * Weights c with d(r) = Σ c_i·x_i(r). Plain: +1/nB on part pulls, −1/nA on baseline pulls. With the
 * order covariate: the row "arm" of (XᵀX)⁻¹Xᵀ for X = [1, arm, order − mean], found by taking the
 * other columns out of "arm" first (Frisch-Waugh). Of several sessions it is the mean of their plain contrasts.
 */
export function contrastWeights({
  arm,
  order,
  covariate,
  session,
}: Pick<Layout, 'arm' | 'order' | 'covariate' | 'session'>): number[] {
  if (session && !covariate) return overSessions(arm, session);
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
    throw new NumericalError(
      'BAD_ARGUMENT',
      'The arm and the order of the pulls cannot be told apart.',
      'Return to the baseline or leave the drift term out.',
    );
  }
  return rest.map((value) => value / scale);
}

function overSessions(arm: Layout['arm'], session: readonly number[]): number[] {
  const K = new Set(session).size;
  return arm.map((a, i) => {
    const alike = arm.filter((other, k) => other === a && session[k] === session[i]).length;
    return (a === 1 ? 1 : -1) / (K * alike);
  });
}

/** Σ over mountings of (sum of contrast weights in the mounting)²: how much a mounting's own level enters the contrast. */
export function mountLoad(weights: readonly number[], mount: Layout['mount']): number {
  const sums = new Map<number | string, number>();
  weights.forEach((c, i) => sums.set(mount[i], (sums.get(mount[i]) ?? 0) + c));
  return [...sums.values()].reduce((total, c) => total + c * c, 0);
}
