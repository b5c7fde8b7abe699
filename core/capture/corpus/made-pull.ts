/** The one pull of the corpus, in SI, and how a logger writes its channels. */
import type { Quantity } from '../../base/quantities.ts';
import type { PullFileOptions } from '../pull-file-types.ts';
import type { Column } from './written.ts';

export interface CorpusFile {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly options: PullFileOptions;
  /** By quantity: values in internal units, and by how much a reading may differ (what rounding in the file costs). */
  readonly expected: Partial<
    Record<Quantity, { readonly values: readonly number[]; readonly within: number }>
  >;
  readonly torque: { readonly values: readonly number[]; readonly within: number };
}

const SAMPLES = 48;
export const at = Array.from({ length: SAMPLES }, (_, i) => i);
export const rpm = at.map((i) => 2000 + 95 * i + (i % 3));
export const torque = at.map((i) => 151.3 + 0.9 * i - 0.021 * i * i);
export const SI: Partial<Record<Quantity, readonly number[]>> = {
  time: at.map((i) => 0.125 * i),
  engineSpeed: rpm,
  torque,
  power: at.map((i) => (torque[i] * rpm[i] * Math.PI) / 30),
  lambda: at.map((i) => 0.9 - 0.001 * i),
  intakeAirTemperature: at.map((i) => 24.5 + 0.11 * i),
  coolantTemperature: at.map((i) => 88.2 + 0.05 * i),
  oilTemperature: at.map((i) => 97.1 + 0.07 * i),
  manifoldPressure: at.map((i) => 98_000 + 40 * i),
  massAirFlow: at.map((i) => 0.04 + 0.0011 * i),
  fuelFlow: at.map((i) => (12 + 0.4 * i) / 3.6e6),
  ignitionAdvance: at.map((i) => 14 + 0.25 * i),
  knockRetard: at.map((i) => (i % 7 === 0 ? 0.75 : 0)),
  throttle: at.map(() => 99.6),
  exhaustTemperature: at.map((i) => 612 + 4 * i),
  inletPressure: at.map((i) => 97_200 - 25 * i),
  chargePressure: at.map((i) => 151_000 + 60 * i),
  chargeTemperature: at.map((i) => 96 + 0.8 * i),
  exhaustPressure: at.map((i) => 118_000 + 900 * i),
  superchargerSpeed: at.map((i) => 21_000 + 500 * i),
};

/** value = (SI − offset) / scale, written to so many digits. */
export interface As {
  readonly unit: string;
  readonly scale: number;
  readonly offset?: number;
  readonly digits: number;
}
export const METRIC: Partial<Record<Quantity, As>> = {
  time: { unit: 's', scale: 1, digits: 3 },
  engineSpeed: { unit: 'rpm', scale: 1, digits: 0 },
  torque: { unit: 'Nm', scale: 1, digits: 2 },
  power: { unit: 'kW', scale: 1000, digits: 3 },
  lambda: { unit: '', scale: 1, digits: 3 },
  intakeAirTemperature: { unit: '°C', scale: 1, digits: 1 },
  coolantTemperature: { unit: '°C', scale: 1, digits: 1 },
  oilTemperature: { unit: '°C', scale: 1, digits: 1 },
  manifoldPressure: { unit: 'kPa', scale: 1000, digits: 2 },
  massAirFlow: { unit: 'kg/h', scale: 1 / 3600, digits: 2 },
  fuelFlow: { unit: 'l/h', scale: 1 / 3.6e6, digits: 2 },
  ignitionAdvance: { unit: '°', scale: 1, digits: 2 },
  knockRetard: { unit: '°', scale: 1, digits: 2 },
  throttle: { unit: '%', scale: 1, digits: 1 },
  exhaustTemperature: { unit: '°C', scale: 1, digits: 0 },
  inletPressure: { unit: 'kPa', scale: 1000, digits: 2 },
  chargePressure: { unit: 'kPa', scale: 1000, digits: 2 },
  chargeTemperature: { unit: '°C', scale: 1, digits: 1 },
  exhaustPressure: { unit: 'kPa', scale: 1000, digits: 2 },
  superchargerSpeed: { unit: 'rpm', scale: 1, digits: 0 },
};
export const AMERICAN: Partial<Record<Quantity, As>> = {
  ...METRIC,
  torque: { unit: 'ft-lb', scale: 1.3558179483314, digits: 3 },
  power: { unit: 'hp', scale: 745.6998715822702, digits: 3 },
  lambda: { unit: 'AFR', scale: 1 / 14.7, digits: 3 },
  intakeAirTemperature: { unit: '°F', scale: 5 / 9, offset: -160 / 9, digits: 2 },
  coolantTemperature: { unit: '°F', scale: 5 / 9, offset: -160 / 9, digits: 2 },
  oilTemperature: { unit: '°F', scale: 5 / 9, offset: -160 / 9, digits: 2 },
  manifoldPressure: { unit: 'psia', scale: 6894.757293168, digits: 3 },
  massAirFlow: { unit: 'lb/min', scale: 0.45359237 / 60, digits: 3 },
  fuelFlow: { unit: 'cc/min', scale: 1e-6 / 60, digits: 1 },
  exhaustTemperature: { unit: '°F', scale: 5 / 9, offset: -160 / 9, digits: 0 },
};

export function columnOf(quantity: Quantity, name: string, as: As): Column {
  const values = SI[quantity]!.map((v) => (v - (as.offset ?? 0)) / as.scale);
  return { name, unit: as.unit, digits: as.digits, values };
}
export const within = (as: As): number => 0.500001 * 10 ** -as.digits * as.scale;
export const expectedOf = (quantity: Quantity, as: As) => ({ values: SI[quantity]!, within: within(as) });
