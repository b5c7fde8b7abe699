/**
 * Exact unit factors and the conversions built on them. Inside the core every quantity is SI
 * (or the named unit in its identifier); these are used where a file is read or a person reads.
 * Source: BIPM SI Brochure and NIST SP 811 for hp, PS, lbf·ft, psi and mile; the inch of mercury
 * is the conventional one at 0 °C.
 */

export const WATTS_PER_HP = 745.6998715822702;
export const WATTS_PER_PS = 735.49875;
export const NM_PER_LBFT = 1.3558179483314;
export const NM_PER_KGFM = 9.80665;
export const PA_PER_INHG = 3386.389;
export const PA_PER_PSI = 6894.757293168;
export const PA_PER_MMHG = 133.322387415;
export const METRES_PER_MILE = 1609.344;
export const KG_PER_LB = 0.45359237;
export const NEWTON_PER_LBF = 4.4482216152605;
export const KELVIN_AT_0C = 273.15;

/** Quantities a channel can carry; each has one internal unit (see `INTERNAL_UNIT`). */
export type Dimension =
  | 'time'
  | 'rotation'
  | 'speed'
  | 'torque'
  | 'power'
  | 'force'
  | 'temperature'
  | 'pressure'
  | 'massFlow'
  | 'volumeFlow'
  | 'lambda'
  | 'angle'
  | 'fraction'
  | 'humidity'
  | 'count';

/** The unit every value of a dimension is held in after parsing. */
export const INTERNAL_UNIT: Record<Dimension, string> = {
  time: 's',
  rotation: 'rpm',
  speed: 'm/s',
  torque: 'N·m',
  power: 'W',
  force: 'N',
  temperature: '°C',
  pressure: 'Pa',
  massFlow: 'kg/s',
  volumeFlow: 'm³/s',
  lambda: 'λ',
  angle: '°',
  fraction: '%',
  humidity: '%',
  count: '',
};

/** A unit as it may be written: `internal = value · scale + offset`. */
export interface Unit {
  readonly id: string;
  readonly dimension: Dimension;
  readonly scale: number;
  readonly offset: number;
}

const unit = (id: string, dimension: Dimension, scale = 1, offset = 0): Unit => ({
  id,
  dimension,
  scale,
  offset,
});
const TWO_PI = 2 * Math.PI;

/** All units the importer knows, by their canonical spelling. */
export const UNITS: Record<string, Unit> = Object.fromEntries(
  [
    unit('s', 'time'),
    unit('ms', 'time', 1e-3),
    unit('min', 'time', 60),
    unit('rpm', 'rotation'),
    unit('rad/s', 'rotation', 60 / TWO_PI),
    unit('Hz', 'rotation', 60),
    unit('krpm', 'rotation', 1000),
    unit('m/s', 'speed'),
    unit('km/h', 'speed', 1 / 3.6),
    unit('mph', 'speed', METRES_PER_MILE / 3600),
    unit('N·m', 'torque'),
    unit('daN·m', 'torque', 10),
    unit('lb·ft', 'torque', NM_PER_LBFT),
    unit('kgf·m', 'torque', NM_PER_KGFM),
    unit('W', 'power'),
    unit('kW', 'power', 1000),
    unit('hp', 'power', WATTS_PER_HP),
    unit('PS', 'power', WATTS_PER_PS),
    unit('N', 'force'),
    unit('daN', 'force', 10),
    unit('kN', 'force', 1000),
    unit('lbf', 'force', NEWTON_PER_LBF),
    unit('kgf', 'force', 9.80665),
    unit('°C', 'temperature'),
    unit('°F', 'temperature', 5 / 9, -160 / 9),
    unit('K', 'temperature', 1, -KELVIN_AT_0C),
    unit('Pa', 'pressure'),
    unit('hPa', 'pressure', 100),
    unit('kPa', 'pressure', 1000),
    unit('bar', 'pressure', 1e5),
    unit('psi', 'pressure', PA_PER_PSI),
    unit('inHg', 'pressure', PA_PER_INHG),
    unit('mmHg', 'pressure', PA_PER_MMHG),
    unit('kg/s', 'massFlow'),
    unit('g/s', 'massFlow', 1e-3),
    unit('kg/h', 'massFlow', 1 / 3600),
    unit('lb/min', 'massFlow', KG_PER_LB / 60),
    unit('lb/h', 'massFlow', KG_PER_LB / 3600),
    unit('m³/s', 'volumeFlow'),
    unit('L/h', 'volumeFlow', 1e-3 / 3600),
    unit('cc/min', 'volumeFlow', 1e-6 / 60),
    unit('λ', 'lambda'),
    unit('AFR', 'lambda'),
    unit('°', 'angle'),
    unit('%', 'fraction'),
    unit('share', 'fraction', 100),
    unit('% RH', 'humidity'),
    unit('', 'count'),
  ].map((u) => [u.id, u]),
);

/** Value in the dimension's internal unit. */
export const toInternal = (value: number, from: Unit): number => value * from.scale + from.offset;

/** Stoichiometric air-fuel ratio by fuel, by mass. Common practice; no published source. */
export const STOICHIOMETRIC_AFR = { petrol: 14.7, e10: 14.1, e85: 9.8, diesel: 14.5, methanol: 6.4 } as const;
export type Fuel = keyof typeof STOICHIOMETRIC_AFR;
/** Density at 15 °C, kg/m³: the middle of what EN 228 and EN 590 allow, others common practice (from memory). */
export const FUEL_DENSITY: Record<Fuel, number> = {
  petrol: 745,
  e10: 750,
  e85: 785,
  diesel: 832,
  methanol: 792,
};

/** Lambda from an air-fuel ratio; only possible when the fuel is known. */
export const lambdaFromAfr = (afr: number, fuel: Fuel): number => afr / STOICHIOMETRIC_AFR[fuel];
/** Air-fuel ratio from lambda; only possible when the fuel is known. */
export const afrFromLambda = (lambda: number, fuel: Fuel): number => lambda * STOICHIOMETRIC_AFR[fuel];

/** Power in W from torque in N·m at an engine speed in rpm: P = T·ω. */
export const powerW = (torqueNm: number, rpm: number): number => (torqueNm * rpm * TWO_PI) / 60;
/** Torque in N·m from power in W at an engine speed in rpm. */
export const torqueNm = (watts: number, rpm: number): number => (watts * 60) / (rpm * TWO_PI);

export const kelvinFromC = (celsius: number): number => celsius + KELVIN_AT_0C;
export const cFromKelvin = (kelvin: number): number => kelvin - KELVIN_AT_0C;

/** Relative gain in per cent from a difference in lp (lp = 100·ln). */
export const pctFromLp = (d: number): number => 100 * (Math.exp(d / 100) - 1);
/** lp of a positive quantity: 100·ln(y). */
export const lp = (y: number): number => 100 * Math.log(y);

/** What a person may choose to read power and torque in; `perSi` converts from W or N·m. */
export const DISPLAY_UNITS = {
  power: { kW: 1 / 1000, hp: 1 / WATTS_PER_HP, PS: 1 / WATTS_PER_PS },
  torque: { 'N·m': 1, 'lb·ft': 1 / NM_PER_LBFT },
} as const;
