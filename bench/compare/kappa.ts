import type { Rows } from '../../core/compare/common-grid.ts';
import { sumOfSquares } from '../../core/compare/contrast.ts';
import type { Layout } from '../../core/plan/contrast-weights.ts';

/**
 * Inflation of Σc² when the smaller arm is also the noisier one: (2/min(nA,nB))/(1/nA + 1/nB), else 1.
 * `residuals` are about run means (or the covariate fit).
 */
export function kappaSquared(residuals: Rows, { arm, run }: Pick<Layout, 'arm' | 'run'>): number {
  const nB = arm.filter((a) => a === 1).length;
  const nA = arm.length - nB;
  if (nA === nB) return 1;
  const withinArm = (which: 0 | 1): number => {
    const members = arm.flatMap((a, i) => (a === which ? [i] : []));
    const df = members.length - new Set(members.map((i) => run[i])).size;
    if (df <= 0) return NaN;
    const ss = sumOfSquares(residuals, (i) => arm[i] === which);
    return ss.reduce((a, b) => a + b, 0) / ss.length / df;
  };
  const [small, large] = nA < nB ? [withinArm(0), withinArm(1)] : [withinArm(1), withinArm(0)];
  return small > large ? 2 / Math.min(nA, nB) / (1 / nA + 1 / nB) : 1;
}
