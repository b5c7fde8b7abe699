/** Samples whose power is not their torque at their speed (P = T·ω), where the file has both. */
import { powerW } from '../../base/units.ts';
import { median, resolution, spread } from '../../base/robust.ts';

/** How far apart they may be as a share: what rounding makes, beside this and beside the usual spread. */
const SHARE = 0.005;
const SPREADS = 10;

/** Places of such samples. The usual ratio of a file is its own: it may be in another basis throughout. */
export function apartIn(power: Float64Array, torque: Float64Array, rpm: Float64Array): number[] {
  const worked = torque.map((t, i) => powerW(t, rpm[i]));
  const both = worked.map((_, i) => i).filter((i) => worked[i] > 0 && power[i] > 0);
  if (both.length < 10) return [];
  const ratio = Float64Array.from(both, (i) => power[i] / worked[i]);
  const usual = median(ratio);
  const sd = spread(ratio, usual) / usual;
  const [stepP, stepT] = [resolution(power), resolution(torque)];
  const rounding = (i: number): number =>
    // Of what the power should be: one that reads nothing has no rounding of its own.
    (Number.isFinite(stepP) ? stepP / (usual * worked[i]) : 0) +
    (Number.isFinite(stepT) ? stepT / torque[i] : 0);
  const wrong = new Set<number>();
  for (let i = 0; i < power.length; i++) {
    if (!Number.isFinite(power[i]) || !Number.isFinite(worked[i])) continue;
    // One of the two without the other is no pair of readings.
    const apart = worked[i] > 0 ? Math.abs(power[i] / worked[i] / usual - 1) : power[i] > 0 ? Infinity : 0;
    if (apart > Math.max(SHARE, SPREADS * sd) + rounding(i)) wrong.add(i);
  }
  return [...wrong];
}
