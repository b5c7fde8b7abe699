/** What the logger on the car reads at a moment, as the stand-in plays it. */
import type { DeviceChannel } from '../../../contract/capture/device-protocol.ts';
import type { Rng } from '../../../core/base/rng.ts';
import { powerW } from '../../../core/base/units.ts';
import type { EngineModel } from '../../../core/capture/simulated/engines.ts';
import type { FaultName } from './faults.ts';

export const LOG_CHANNELS: DeviceChannel[] = [
  { name: 'Time', unit: 's' },
  { name: 'Engine speed', unit: 'rpm' },
  { name: 'Throttle', unit: '%' },
  { name: 'Lambda', unit: '' },
  { name: 'Ignition advance', unit: '°' },
  { name: 'Knock retard', unit: '°' },
  { name: 'Manifold pressure', unit: 'kPa' },
  { name: 'Mass air flow', unit: 'g/s' },
  { name: 'Intake air temp', unit: '°C' },
  { name: 'Coolant temp', unit: '°C' },
  { name: 'Oil temp', unit: '°C' },
];
/** How far its clock is ahead with that fault, s. */
export const OFFSET_S = 3.4;
/** Where temperatures come to rest, how much a pull warms, and how fast that goes away, °C and s. */
const REST = { coolant: 88, oil: 96, intake: 26 };
const WARMS = { coolant: 3, oil: 4, intake: 7 };
const SETTLES_S = 70;
const SOAKED_K = 3;
const WARM_K = 9;
export const IDLE_RPM = 850;
const round = (value: number, digits: number): number => Number(value.toFixed(digits));

export interface LogMoment {
  /** Its own time, s. */ readonly t: number;
  /** Engine speed in a pull; null while idling. */ readonly rpm: number | null;
  readonly torqueNm: number;
  readonly model: EngineModel;
  readonly faults: ReadonlySet<FaultName>;
  readonly heat: Heat;
  readonly pullsBefore: number;
  /** Where a stuck sensor stays. */ readonly stuck: { lambda: number | null };
  readonly rng: Rng;
}
/** Kelvins above rest. */
export interface Heat {
  coolant: number;
  oil: number;
  intake: number;
}
/** Warms through a pull, cools towards rest after it. */
export function warm(heat: Heat, seconds: number, pulling: boolean): void {
  for (const key of ['coolant', 'oil', 'intake'] as const)
    heat[key] += pulling ? (WARMS[key] * seconds) / 12 : -heat[key] * (1 - Math.exp(-seconds / SETTLES_S));
}

/** Values in the order of the channels. */
export function logReading({
  t,
  rpm: speed,
  torqueNm,
  model,
  faults,
  heat,
  pullsBefore,
  stuck,
  rng,
}: LogMoment) {
  const rpm = speed ?? IDLE_RPM + 4 * rng.normal();
  const torque = speed === null ? 0 : torqueNm;
  const throttle = speed === null || torque < 0 ? 0 : torque < 0.3 * model.torqueNm(rpm) ? 18 : 100;
  const isFull = throttle === 100;
  const cut = isFull && faults.has('torque intervention') && rpm > 4300 && rpm < 4650;
  const knocks = isFull && faults.has('knock') && rpm > 4800;
  const leak = faults.has('low boost') ? 0.93 : 1;
  const lambda =
    (isFull ? model.lambda + (faults.has('lean mixture') && rpm > 4500 ? 0.12 : 0) : 1) +
    0.003 * rng.normal();
  stuck.lambda = faults.has('sensor stuck') ? (stuck.lambda ?? lambda) : null;
  const soaked = faults.has('heat soak') ? SOAKED_K * pullsBefore : 0;
  return [
    round(t + (faults.has('clock offset') ? OFFSET_S : 0), 3),
    round(rpm + 3 * rng.normal(), 0),
    round(isFull ? 100 - 0.4 * rng.uniform() : throttle, 1),
    faults.has('dead channel') ? null : round(stuck.lambda ?? lambda, 3),
    round((isFull ? 24 : 12) - (cut ? 11 : 0) - (knocks ? 4 : 0), 1),
    round(knocks ? 4 + 0.5 * rng.uniform() : 0, 1),
    round((isFull ? model.manifoldKpa * leak : 45) + 0.5 * rng.normal(), 1),
    round((powerW(Math.max(torque, 0), rpm) / 1000) * model.airPerKw + 2 + 0.2 * rng.normal(), 1),
    round(REST.intake + heat.intake + soaked + (faults.has('warm start') ? WARM_K : 0), 1),
    round(REST.coolant + heat.coolant, 1),
    round(REST.oil + heat.oil, 1),
  ];
}
