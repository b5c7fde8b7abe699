/** Temperatures that a pull started from, before the throttle was opened. */
import type { Quantity } from '../base/quantities.ts';
import { median } from '../base/robust.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import type { Sweep } from '../capture/sweep.ts';
import type { StartSensor } from '../register/temperature-slope.ts';

const STARTS: readonly Quantity[] = ['intakeAirTemperature', 'coolantTemperature', 'oilTemperature'];
const DIGITS = 2;

export type Starts = Readonly<Partial<Record<Quantity, number>>>;
/** Medians of the first second, or of what there is before the sweep, °C. */
export function startsOf({ channels }: Pick<PullFile, 'channels'>, sweep: Pick<Sweep, 'indices'>): Starts {
  const first = sweep.indices[0];
  const t = channels.time;
  const starts: Partial<Record<Quantity, number>> = {};
  for (const quantity of STARTS) {
    const values = channels[quantity];
    if (!values) continue;
    const before: number[] = [];
    for (let i = 0; i < Math.max(1, first); i++) {
      if (t && t[i] - t[0] > 1) break;
      if (Number.isFinite(values[i])) before.push(values[i]);
    }
    if (before.length > 0) starts[quantity] = Number(median(before).toFixed(DIGITS));
  }
  return starts;
}

/** What a pull started from by each sensor that arms may be compared by, °C; never one that a part can change. */
export type SensorStarts = Readonly<Partial<Record<StartSensor, number>>>;
export function sensorStarts(starts: Starts, cellAirC: number | undefined): SensorStarts {
  const { coolantTemperature: coolant, oilTemperature: oil } = starts;
  return {
    ...(coolant === undefined ? {} : { coolant }),
    ...(oil === undefined ? {} : { oil }),
    ...(cellAirC === undefined ? {} : { 'cell air': cellAirC }),
  };
}
