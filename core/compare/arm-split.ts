import type { Layout } from '../plan/contrast-weights.ts';
import type { Residuals } from './contrast.ts';
import { EVEN_WEIGHT, NO_FREEDOM } from '../base/interval-rules.ts';

/** What each arm brings to a comparison: A the baseline (weights below zero), B the other. */
export interface ArmSplit {
  readonly inB: readonly boolean[];
  readonly nu: number;
  readonly dfA: number;
  readonly dfB: number;
  /** Σc² of each arm, and of both. */
  readonly c2A: number;
  readonly c2B: number;
  readonly c2: number;
  /** Whether both arms' scatter can be told from their own pulls. */
  readonly known: boolean;
  /** Guard against one arm carrying most of the weight: 1 where both carry theirs. */
  readonly guard: number;
}

export function armSplit(
  weights: readonly number[],
  { arm }: Pick<Layout, 'arm'>,
  { nu, freedom }: Residuals,
): ArmSplit {
  const inB = arm.map((a) => a === 1);
  const of = (b: boolean, values: readonly number[]): number =>
    values.reduce((sum, value, i) => (inB[i] === b ? sum + value : sum), 0);
  const squares = weights.map((c) => c * c);
  const [c2A, c2B] = [of(false, squares), of(true, squares)];
  const [dfA, dfB] = [of(false, freedom), of(true, freedom)];
  const c2 = c2A + c2B;
  return {
    inB,
    nu,
    dfA,
    dfB,
    c2A,
    c2B,
    c2,
    known: dfA >= NO_FREEDOM && dfB >= NO_FREEDOM,
    guard: 1 + Math.max(0, Math.max(c2A, c2B) / c2 - EVEN_WEIGHT),
  };
}
