/**
 * Designs with a re-mount at every change of runs: bias and coverage of the band average by the scalar rule that rule S
 * replaced, when the mounting is ignored and when its registered variance is added, and what drift and adaptation do.
 */
import { seededRng, type Rng } from '../../core/base/rng.ts';
import { contrastWeights, type Layout } from '../../core/plan/contrast-weights.ts';
import { oldScalar } from './old-scalar.ts';

const WITHIN = 0.693;
const MOUNT = 0.636;
const MOUNT_DF = 10;
const DRIFT = -0.2;
/** Low first pulls after a swap, lp. */
const ADAPTATION = [-1.5, -1, -0.5, 0];
const WARM_UPS = 0;

export interface Design {
  readonly name: string;
  readonly arms: readonly (0 | 1)[];
  readonly pulls: readonly number[];
}
export const DESIGNS: readonly Design[] = [
  { name: 'AB 4+4', arms: [0, 1], pulls: [4, 4] },
  { name: 'ABA 3+3+3', arms: [0, 1, 0], pulls: [3, 3, 3] },
  { name: 'ABA 2+4+2', arms: [0, 1, 0], pulls: [2, 4, 2] },
  { name: 'ABBA 2×4 (B re-mounted)', arms: [0, 1, 1, 0], pulls: [2, 2, 2, 2] },
  { name: 'ABAB 2×4', arms: [0, 1, 0, 1], pulls: [2, 2, 2, 2] },
];

const layoutOf = ({ arms, pulls }: Design, covariate: boolean): Layout => {
  const each = arms.flatMap((arm, run) => Array.from({ length: pulls[run] }, () => ({ arm, run })));
  return {
    arm: each.map((p) => p.arm),
    run: each.map((p) => p.run),
    mount: each.map((p) => p.run),
    order: each.map((p, i) => i + 1 + p.run * WARM_UPS),
    covariate,
  };
};

/** Levels of the pulls, lp: scatter, mounting, drift. */
function drawn({ run, order }: Layout, drift: number, rng: Rng): number[] {
  const mounts = run.map(() => NaN);
  const level = (r: number): number =>
    Number.isNaN(mounts[r]) ? (mounts[r] = MOUNT * rng.normal()) : mounts[r];
  return run.map((r, i) => WITHIN * rng.normal() + level(r) + drift * order[i]);
}
const registered = (rng: Rng) => {
  let chi = 0;
  for (let k = 0; k < MOUNT_DF; k++) chi += rng.normal() ** 2;
  return { variance: (MOUNT ** 2 * chi) / MOUNT_DF, df: MOUNT_DF };
};

export interface DesignRates {
  readonly bias: number;
  readonly sd: number;
  /** Intervals that hold zero, %: the mounting ignored, and with its registered variance. */
  readonly ignored: number;
  readonly added: number;
  readonly half: number;
}

export function designRates(
  design: Design,
  covariate: boolean,
  drift: number,
  sessions: number,
  seed: number,
): DesignRates {
  const rng = seededRng(seed);
  const layout = layoutOf(design, covariate);
  const sums = { bias: 0, squares: 0, ignored: 0, added: 0, half: 0 };
  const holds = ({ lower, upper }: { lower: number; upper: number }): number =>
    lower <= 0 && upper >= 0 ? 100 / sessions : 0;
  for (let t = 0; t < sessions; t++) {
    const values = drawn(layout, drift, rng);
    const plain = oldScalar(values, layout, { alpha: 0.025 });
    const added = oldScalar(values, layout, { alpha: 0.025, mount: registered(rng) });
    sums.bias += plain.d / sessions;
    sums.squares += plain.d ** 2 / sessions;
    sums.ignored += holds(plain);
    sums.added += holds(added);
    sums.half += (added.upper - added.lower) / 2 / sessions;
  }
  const { bias, squares, ...rest } = sums;
  return { bias, sd: Math.sqrt(squares - bias ** 2), ...rest };
}

/** Bias that adaptation gives, without scatter: after each swap of the part, or in every run alike. */
export function adaptationBias(
  design: Design,
  covariate: boolean,
  runs: 'after a swap' | 'every run',
): number {
  const layout = layoutOf(design, covariate);
  const seen = new Map<number, number>();
  const low = layout.run.map((r) => {
    const k = seen.get(r) ?? 0;
    seen.set(r, k + 1);
    return runs === 'after a swap' && r === 0 ? 0 : (ADAPTATION[k] ?? 0);
  });
  return contrastWeights(layout).reduce((sum, c, i) => sum + c * low[i], 0);
}

export function designsReport(sessions: number, seed = 20266): string {
  const of = (d: Design, covariate: boolean, drift: number, k: number) =>
    designRates(d, covariate, drift, sessions, seed + k);
  const covariateHelps = ({ arms }: Design): boolean =>
    arms.length === 2 || arms[0] !== arms[arms.length - 1];
  return [
    '| design | no drift: SD; mount ignored / added (half-width) | drift −0.2: bias plain / order; ' +
      'coverage plain / order | adaptation after a swap | in every run |',
    '|---|---|---|---|---|',
    ...DESIGNS.map((d, k) => {
      const still = of(d, false, 0, k);
      const [plain, order] = [of(d, false, DRIFT, k), of(d, true, DRIFT, k)];
      const after = adaptationBias(d, false, 'after a swap').toFixed(2);
      const withOrder = covariateHelps(d)
        ? ` (order ${adaptationBias(d, true, 'after a swap').toFixed(2)})`
        : '';
      return (
        `| ${d.name} | ${still.sd.toFixed(2)}; ${still.ignored.toFixed(0)} / ${still.added.toFixed(1)} (${still.half.toFixed(2)}) ` +
        `| ${plain.bias.toFixed(2)} / ${order.bias.toFixed(2)}; ${plain.added.toFixed(1)} / ${order.added.toFixed(1)} ` +
        `(${plain.half.toFixed(2)} / ${order.half.toFixed(2)}) | ${after}${withOrder} ` +
        `| ${adaptationBias(d, false, 'every run').toFixed(2)} |`
      );
    }),
  ].join('\n');
}
