/**
 * What the engine's own log says of each arm, at the same rpm: channels of pulls averaged over an arm, and two arms
 * held against each other. As observed: nothing here is corrected for air.
 */
import type { Quantity } from '../base/quantities.ts';
import type { ChannelCurves } from '../correct/channel-curves.ts';
import { meanOf } from './means.ts';
import { smoothed } from './smoothing.ts';

export interface LoggedPull {
  readonly id: string;
  readonly arm: string;
  readonly curves: ChannelCurves;
}
export interface ArmLog {
  readonly arm: string;
  /** Pulls that have the channel, and each one's mean over the grid. */
  readonly pulls: readonly { readonly id: string; readonly mean: number }[];
  readonly mean: number;
  readonly least: number;
  readonly leastRpm: number;
  readonly most: number;
  readonly mostRpm: number;
  /** Mean over the arm's pulls at each grid point; NaN where one of them has no value. */
  readonly curve: readonly number[];
}
export interface LogContrast {
  /** Arm less baseline, mean over what both cover. */ readonly difference: number;
  /** Standard error of it from the scatter of the pulls; null with one pull an arm. */
  readonly error: number | null;
  /** Largest difference of the arms' means over a stretch of 500 rpm. */
  readonly largest: { readonly difference: number; readonly rpm: number };
  /** Arm over baseline, geometric mean over what both cover; null where a value is not above zero. */
  readonly ratio: number | null;
}

/** A difference is told over a stretch, not at one sample. */
const STRETCH_RPM = 500;

/** One channel of one arm; undefined where none of its pulls has it. */
export function armLog(
  pulls: readonly LoggedPull[],
  arm: string,
  quantity: Quantity,
  grid: readonly number[],
): ArmLog | undefined {
  const own = pulls.flatMap(({ id, arm: of, curves }) => {
    const values = curves[quantity];
    const known = values?.filter((v) => v !== null) ?? [];
    return of === arm && values && known.length > 0 ? [{ id, values, mean: meanOf(known) }] : [];
  });
  if (own.length === 0) return undefined;
  const curve = grid.map((_, j) =>
    own.every((p) => p.values[j] !== null) ? meanOf(own.map((p) => p.values[j]!)) : NaN,
  );
  const known = curve.flatMap((v, j) => (Number.isFinite(v) ? [j] : []));
  if (known.length === 0) return undefined;
  const least = known.reduce((a, b) => (curve[b] < curve[a] ? b : a));
  const most = known.reduce((a, b) => (curve[b] > curve[a] ? b : a));
  return {
    arm,
    pulls: own.map(({ id, mean }) => ({ id, mean })),
    mean: meanOf(known.map((j) => curve[j])),
    least: curve[least],
    leastRpm: grid[least],
    most: curve[most],
    mostRpm: grid[most],
    curve,
  };
}

/** Two arms at the same rpm; undefined where they have no rpm in common. */
export function logContrast(
  arm: ArmLog,
  against: ArmLog,
  grid: readonly number[],
  stepRpm: number,
): LogContrast | undefined {
  const at = grid.flatMap((_, j) => (Number.isFinite(arm.curve[j] - against.curve[j]) ? [j] : []));
  if (at.length === 0) return undefined;
  const differences = at.map((j) => arm.curve[j] - against.curve[j]);
  const stretch = smoothed(differences, stepRpm, STRETCH_RPM);
  const half = Math.floor(STRETCH_RPM / (2 * stepRpm) + 0.5);
  // Ends are averaged over less than the stretch: only a grid shorter than it is read there.
  const inner = [...stretch.keys()].filter((k) => k >= half && k < stretch.length - half);
  const places = inner.length > 0 ? inner : [Math.floor(stretch.length / 2)];
  const largest = places.reduce((a, b) => (Math.abs(stretch[b]) > Math.abs(stretch[a]) ? b : a));
  const isPositive = at.every((j) => arm.curve[j] > 0 && against.curve[j] > 0);
  return {
    difference: meanOf(differences),
    error: errorOf(arm, against),
    largest: { difference: stretch[largest], rpm: grid[at[largest]] },
    ratio: isPositive ? Math.exp(meanOf(at.map((j) => Math.log(arm.curve[j] / against.curve[j])))) : null,
  };
}

/** Both arms' pull-to-pull scatter pooled, as the standard error of the difference of their means. */
function errorOf(arm: ArmLog, against: ArmLog): number | null {
  const [n, m] = [arm.pulls.length, against.pulls.length];
  if (n + m < 3) return null;
  const ss = [arm, against].reduce((sum, { pulls }) => {
    const mean = meanOf(pulls.map((p) => p.mean));
    return sum + pulls.reduce((own, p) => own + (p.mean - mean) ** 2, 0);
  }, 0);
  return Math.sqrt((ss / (n + m - 2)) * (1 / n + 1 / m));
}
