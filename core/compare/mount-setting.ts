import { contrastWeights, mountLoad, type Layout } from '../plan/contrast-weights.ts';
import type { Design } from '../plan/design.ts';
import type { KnownVariance } from '../register/repeatability.ts';
import type { Rows } from './common-grid.ts';
import type { ContrastInput } from './contrast-input.ts';
import { meanOf } from './means.ts';
import { guardedMountVariance } from './mount-guard.ts';
import type { OneWay } from './one-way.ts';
import { runVariance } from './run-variance.ts';
import type { Terms } from './terms.ts';

export interface MountSetting {
  /** Layout of the values compared: pulls, or one value a mounting. */
  layout: Layout;
  terms: Terms;
  unit: 'pulls' | 'mountings';
  reduce: (rows: Rows) => Float64Array[];
}

/**
 * What the mountings allow. Arms that share their mountings evenly need no mount term; otherwise the
 * registered variance enters, guarded by what this session shows; without one, mountings become the
 * unit when both arms have two or more of their own. Undefined: nothing can be said.
 */
export function settleMounts(
  input: ContrastInput,
  layout: Layout,
  averages: readonly number[],
  design: Design,
  oneWay: OneWay | null,
): MountSetting | undefined {
  const terms: Terms = {
    alpha: input.alpha,
    family: input.family,
    // Every mounting begins anew after its own warm-up: what moves between the arms is days and dyno.
    driftVariance: oneWay ? 0 : driftBound(input, layout, design),
    ...(oneWay?.day ? { day: oneWay.day } : {}),
  };
  if (mountLoad(contrastWeights(layout), layout.mount) < 1e-12)
    return { layout, terms, unit: 'pulls', reduce: asIs };
  const registered = input.repeatability.mount;
  if (registered && registered.df >= LEAST_MOUNT_DF) {
    const mount = guardedBySession(input, layout, averages, design, registered);
    return { layout, terms: { ...terms, mount }, unit: 'pulls', reduce: asIs };
  }
  return asMountings(layout, terms);
}

/** Below this a mount variance counts as not registered. */
const LEAST_MOUNT_DF = 2;
/** Fewest mountings of its own that a session guards the registered variance with. */
const GUARDED_FROM = 4;

const asIs = (rows: Rows): Float64Array[] => [...rows];

/** What a drift within the bound could put between the arms, lp², where the design does not cancel it. */
function driftBound(input: ContrastInput, layout: Layout, design: Design): number {
  if (!(design.driftConfounded || input.bracketed) || layout.covariate) return 0;
  const orderMean = (arm: 0 | 1): number => meanOf(layout.order.filter((_, i) => layout.arm[i] === arm));
  return (input.driftBound * Math.abs(orderMean(1) - orderMean(0))) ** 2 / 3;
}

/** The registered mount variance, raised by what the session's own mountings show where there are enough of them. */
function guardedBySession(
  input: ContrastInput,
  layout: Layout,
  averages: readonly number[],
  design: Design,
  registered: KnownVariance,
): KnownVariance {
  const mounts = new Set(layout.mount);
  const ownMounts = mounts.size === input.runs.length;
  if (!(ownMounts && design.equalRuns && mounts.size >= GUARDED_FROM)) return registered;
  const runMeans = input.runs.map((_, r) => meanOf(averages.filter((__, i) => layout.run[i] === r)));
  const runArm = input.runs.map((run): 0 | 1 => (run.arm === input.arm ? 1 : 0));
  const within = runVariance(averages, layout);
  return guardedMountVariance(runMeans, runArm, design.pullsPerRun[0], within, registered);
}

/** One value a mounting: only where both arms have two or more of their own. */
function asMountings(layout: Layout, terms: Terms): MountSetting | undefined {
  const ids = [...new Set(layout.mount)];
  const armsOn = ids.map((id) => new Set(layout.arm.filter((_, i) => layout.mount[i] === id)));
  const own = (arm: 0 | 1): number => armsOn.filter((arms) => arms.size === 1 && arms.has(arm)).length;
  if (armsOn.some((arms) => arms.size > 1) || own(0) < 2 || own(1) < 2) return undefined;
  const members = ids.map((id) => layout.mount.flatMap((m, i) => (m === id ? [i] : [])));
  const arm = members.map((list) => layout.arm[list[0]]);
  return {
    layout: {
      arm,
      run: arm,
      mount: ids,
      order: members.map((list) => meanOf(list.map((i) => layout.order[i]))),
      covariate: false,
    },
    terms,
    unit: 'mountings',
    reduce: (rows) =>
      members.map((list) => Float64Array.from(rows[0], (_, j) => meanOf(list.map((i) => rows[i][j])))),
  };
}
