/** What a column can hold, in which dimension, and how people call it. */
import type { Dimension } from './units.ts';

export type Quantity =
  | 'time'
  | 'engineSpeed'
  | 'rollerSpeed'
  | 'vehicleSpeed'
  | 'torque'
  | 'power'
  | 'rollerForce'
  | 'lambda'
  | 'intakeAirTemperature'
  | 'coolantTemperature'
  | 'oilTemperature'
  | 'manifoldPressure'
  | 'massAirFlow'
  | 'fuelFlow'
  | 'ignitionAdvance'
  | 'knockRetard'
  | 'throttle'
  | 'gear'
  | 'exhaustTemperature'
  | 'inletPressure'
  | 'chargePressure'
  | 'chargeTemperature'
  | 'exhaustPressure'
  | 'superchargerSpeed'
  | 'airTemperature'
  | 'barometer'
  | 'humidity';

export const DIMENSION_OF: Record<Quantity, readonly Dimension[]> = {
  time: ['time'],
  engineSpeed: ['rotation'],
  rollerSpeed: ['speed', 'rotation'],
  vehicleSpeed: ['speed'],
  torque: ['torque'],
  power: ['power'],
  rollerForce: ['force'],
  lambda: ['lambda'],
  intakeAirTemperature: ['temperature'],
  coolantTemperature: ['temperature'],
  oilTemperature: ['temperature'],
  manifoldPressure: ['pressure'],
  massAirFlow: ['massFlow'],
  fuelFlow: ['volumeFlow', 'massFlow'],
  ignitionAdvance: ['angle'],
  knockRetard: ['angle'],
  throttle: ['fraction'],
  gear: ['count'],
  exhaustTemperature: ['temperature'],
  inletPressure: ['pressure'],
  chargePressure: ['pressure'],
  chargeTemperature: ['temperature'],
  exhaustPressure: ['pressure'],
  superchargerSpeed: ['rotation'],
  airTemperature: ['temperature'],
  barometer: ['pressure'],
  humidity: ['fraction', 'humidity'],
};

export const QUANTITY_NAMES: Record<Quantity, string> = {
  time: 'time',
  engineSpeed: 'engine speed',
  rollerSpeed: 'roller speed',
  vehicleSpeed: 'vehicle speed',
  torque: 'torque',
  power: 'power',
  rollerForce: 'roller force',
  lambda: 'lambda or air-fuel ratio',
  intakeAirTemperature: 'intake air temperature',
  coolantTemperature: 'coolant temperature',
  oilTemperature: 'oil temperature',
  manifoldPressure: 'manifold pressure',
  massAirFlow: 'mass air flow',
  fuelFlow: 'fuel flow',
  ignitionAdvance: 'ignition advance',
  knockRetard: 'knock retard',
  throttle: 'throttle',
  gear: 'gear',
  exhaustTemperature: 'exhaust temperature',
  inletPressure: 'pressure before throttle or compressor',
  chargePressure: 'charge pressure before the intercooler',
  chargeTemperature: 'charge temperature before the intercooler',
  exhaustPressure: 'exhaust back-pressure',
  superchargerSpeed: 'supercharger speed',
  airTemperature: 'air temperature',
  barometer: 'barometer',
  humidity: 'humidity',
};
export const QUANTITIES = Object.keys(QUANTITY_NAMES) as Quantity[];
/** Channels by which arms are held against each other, in the order a person looks at them. */
export const ENGINE_CHANNELS = [
  'throttle',
  'lambda',
  'ignitionAdvance',
  'knockRetard',
  'manifoldPressure',
  'massAirFlow',
  'fuelFlow',
  'intakeAirTemperature',
  'coolantTemperature',
  'oilTemperature',
  'exhaustTemperature',
  'inletPressure',
  'chargePressure',
  'chargeTemperature',
  'exhaustPressure',
  'superchargerSpeed',
] as const satisfies readonly Quantity[];
export type EngineChannel = (typeof ENGINE_CHANNELS)[number];
/** What a chosen column goes by: its quantity, engine speed as in test files. */
export type ColumnKey = 'rpm' | Exclude<Quantity, 'engineSpeed'>;
export const keyOfQuantity = (quantity: Quantity): ColumnKey =>
  quantity === 'engineSpeed' ? 'rpm' : quantity;
export const quantityOfKey = (key: ColumnKey): Quantity => (key === 'rpm' ? 'engineSpeed' : key);
export const COLUMN_KEYS = QUANTITIES.map(keyOfQuantity);
