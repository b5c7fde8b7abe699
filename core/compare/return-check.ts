import { tUpperQuantile } from '../base/distributions.ts';
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import type { Run } from '../plan/design.ts';
import type { KnownVariance } from '../register/repeatability.ts';
import type { ComparedPull } from './compared-pull.ts';
import type { ContrastInput } from './contrast-input.ts';
import { meanOf } from './means.ts';
import type { ScalarGain } from './scalar-gain.ts';

export interface ReturnCheck {
  /** Second baseline run less the first, and how far scatter and re-mounting could bring it; lp. */
  readonly difference: number;
  readonly limit: number;
}

/** A-B-A: how far the second baseline run lies from the first, and how far scatter and re-mounting could bring it (lp). */
export function returnCheck(
  input: ContrastInput,
  averages: readonly number[],
  average: ScalarGain,
  mount: KnownVariance | undefined,
): ReturnCheck | null {
  const runs = input.runs.map((run, i) => ({ run, i })).filter(({ run }) => run.arm === input.against);
  const [first, last] = [runs[0], runs.at(-1)];
  if (!first || !last || first === last) return null;
  const starts = input.runs.map((_, i) =>
    input.runs.slice(0, i).reduce((sum, run) => sum + run.counted.length, 0),
  );
  const of = (r: { run: Run<ComparedPull>; i: number }): readonly number[] =>
    averages.slice(starts[r.i], starts[r.i] + r.run.counted.length);
  const remounted = first.run.mount !== last.run.mount;
  const { u2, nu } = welchSatterthwaite(
    [
      average.s2 * (1 / first.run.counted.length + 1 / last.run.counted.length),
      remounted ? 2 * (mount?.variance ?? 0) : 0,
    ],
    [average.split.nu, mount?.df ?? Infinity],
  );
  return {
    difference: meanOf(of(last)) - meanOf(of(first)),
    limit: tUpperQuantile(input.alpha, nu) * Math.sqrt(u2),
  };
}
