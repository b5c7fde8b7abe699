/** Designs the interval rules are tried in: runs of one size, on one mounting or each on its own. */
import type { Layout } from '../../core/plan/contrast-weights.ts';

export type DesignName = 'A-B-A' | 'A-B-B-A' | 'A-B' | 'A-B-A-B';
export const DESIGN_NAMES: readonly DesignName[] = ['A-B-A', 'A-B-B-A', 'A-B'];
/** Uncounted pulls before every run. */
export const WARM_UPS = 3;

export function designLayout(name: DesignName, n: number, remounted: boolean): Layout {
  const runs = name.split('-').map((letter): 0 | 1 => (letter === 'B' ? 1 : 0));
  const pulls = runs.flatMap((arm, run) => Array.from({ length: n }, (_, k) => ({ arm, run, k })));
  return {
    arm: pulls.map((p) => p.arm),
    run: pulls.map((p) => p.run),
    mount: pulls.map((p) => (remounted ? p.run : 0)),
    order: pulls.map((p) => p.run * (n + WARM_UPS) + WARM_UPS + p.k + 1),
    covariate: name === 'A-B-A-B',
  };
}

/** Distance of the arms' mean positions, pulls: what a drift could put between them. */
export function apart({ arm, order, covariate }: Layout): number {
  if (covariate) return 0;
  const of = (which: 0 | 1): number => {
    const own = order.filter((_, i) => arm[i] === which);
    return own.reduce((a, b) => a + b, 0) / own.length;
  };
  return Math.abs(of(1) - of(0));
}
