/** Engine speed over roller speed: the gear, and where the wheels slip. */
import { median, medianOf } from '../base/robust.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import type { RecordingSummary } from '../capture/session/recording-summary.ts';
import type { Sweep } from '../capture/sweep.ts';

const LEAST_SAMPLES = 20;
const fixed = (value: number, digits: number): number => Number(value.toFixed(digits));
interface Ratios {
  /** Sample by sample, in time. */ readonly at: readonly number[];
  readonly ratio: Float64Array;
}
function ratiosIn(file: PullFile, sweep: Sweep): Ratios | null {
  const speed = file.channels.rollerSpeed ?? file.channels.vehicleSpeed;
  if (!speed || !file.channels.engineSpeed) return null;
  const at: number[] = [];
  const ratio: number[] = [];
  for (const i of sweep.indices)
    if (speed[i] > 0 && Number.isFinite(file.rpm[i])) {
      at.push(i);
      ratio.push(file.rpm[i] / speed[i]);
    }
  return at.length < LEAST_SAMPLES ? null : { at, ratio: Float64Array.from(ratio) };
}
/** The middle of the lower half: a slip makes ratios smaller or larger for a while, a gear all of them. */
const usual = (ratio: Float64Array): number =>
  medianOf(
    ratio
      .slice()
      .sort()
      .subarray(0, Math.ceil(ratio.length / 2)),
  );

export interface SpeedRatio {
  readonly of: 'roller' | 'vehicle';
  /** rpm per rpm, or rpm per m/s. */ readonly ratio: number;
}
/** Engine speed over speed of rollers or vehicle; null where either was not logged. */
export function speedRatio(file: PullFile, sweep: Sweep): SpeedRatio | null {
  const ratios = ratiosIn(file, sweep);
  if (!ratios) return null;
  return { of: file.channels.rollerSpeed ? 'roller' : 'vehicle', ratio: usual(ratios.ratio) };
}

/** Where engine and rollers part most; single samples are no slip. */
export function slipIn(file: PullFile, sweep: Sweep): RecordingSummary['slip'] {
  const ratios = ratiosIn(file, sweep);
  if (!ratios) return null;
  const { at, ratio } = ratios;
  const own = usual(ratio);
  let worst = { share: 0, rpm: file.rpm[at[0]] };
  for (let k = 2; k < ratio.length - 2; k++) {
    const share = median(ratio.slice(k - 2, k + 3)) / own - 1;
    if (Math.abs(share) > Math.abs(worst.share)) worst = { share, rpm: file.rpm[at[k]] };
  }
  return { share: fixed(worst.share, 5), rpm: Math.round(worst.rpm) };
}
