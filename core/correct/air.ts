/** From what the weather station read to the state of the air that a correction needs. */
import { AirError } from '../base/errors.ts';
import { kelvinFromC } from '../base/units.ts';
import type { AirReading } from '../capture/air-reading.ts';
import { vapourPressurePa } from './vapour-pressure.ts';

/** ICAO Standard Atmosphere, sea level (ICAO Doc 7488/3; from memory). */
export const ISA = {
  pressurePa: 101325,
  temperatureK: 288.15,
  lapseKPerM: 0.0065,
  densityKgM3: 1.225,
} as const;
const G0 = 9.80665;
/** Specific gas constants of dry air and of water vapour, J/(kg·K). */
const R_DRY = 287.05287;
const R_VAPOUR = 461.523;
const ISA_EXPONENT = G0 / (R_DRY * ISA.lapseKPerM);

/** The state of the air, everything worked out from the reading shown beside it. */
export interface AirState {
  readonly temperatureC: number;
  readonly temperatureK: number;
  readonly pressurePa: number;
  readonly vapourPressurePa: number;
  readonly dryPressurePa: number;
  readonly relativeHumidityPct: number;
  readonly densityKgM3: number;
  readonly densityAltitudeM: number;
}

/** Ranges wide enough for any cell, narrow enough that a reading in another unit is refused, not used. */
const RANGE = {
  temperatureC: [-40, 60, '°C', 'A value near 70 or above may be in °F, near 290 in K.'],
  pressureHpa: [500, 1100, 'hPa', 'A value near 100 may be in kPa, near 30 in inHg, near 750 in mmHg.'],
  percent: [0, 100, '% relative humidity', 'Enter per cent, not a share of one.'],
  siteHeightM: [-450, 5000, 'm', 'Enter the height of the site in metres.'],
} as const;

function check(name: keyof typeof RANGE, value: number): void {
  const [low, high, unit, hint] = RANGE[name];
  if (!(value >= low && value <= high)) {
    throw new AirError(
      'AIR_OUT_OF_RANGE',
      `The air reading has ${value} ${unit}; ${low} to ${high} ${unit} can be right.`,
      hint,
      {},
      { quantity: name, value, low, high },
    );
  }
}

/**
 * Pressure at the site from one reduced to sea level, by the ISA relation
 * p = p0·(1 − L·h/T0)^(g/(R·L)). Sea-level pressure is never used as it is.
 */
export function stationPressurePa(seaLevelPa: number, heightM: number): number {
  return seaLevelPa * (1 - (ISA.lapseKPerM * heightM) / ISA.temperatureK) ** ISA_EXPONENT;
}

/** Density of moist air, kg/m³, as a mixture of two ideal gases. */
export function moistAirDensity(dryPa: number, vapourPa: number, temperatureK: number): number {
  return dryPa / (R_DRY * temperatureK) + vapourPa / (R_VAPOUR * temperatureK);
}

/** Height in the ISA troposphere that has this density, m: ρ = ρ0·(1 − L·h/T0)^(g/(R·L) − 1). */
export function densityAltitudeM(densityKgM3: number): number {
  return (
    (ISA.temperatureK / ISA.lapseKPerM) * (1 - (densityKgM3 / ISA.densityKgM3) ** (1 / (ISA_EXPONENT - 1)))
  );
}

/**
 * Air state of a reading. Throws `AirError` when a value cannot be right, sea-level pressure comes
 * without a height, or the humidity reading says more vapour than the air can hold or less than none.
 */
export function airState(reading: AirReading): AirState {
  check('temperatureC', reading.temperatureC);
  check('pressureHpa', reading.pressureHpa);
  if (reading.humidity.kind === 'relative') check('percent', reading.humidity.percent);
  else check('temperatureC', reading.humidity.temperatureC);
  let pressurePa = reading.pressureHpa * 100;
  if (reading.pressureKind === 'sea level') {
    if (reading.siteHeightM === undefined) {
      throw new AirError(
        'AIR_INCOMPLETE',
        'The pressure is reduced to sea level and the height of the site is not known.',
        'Enter the site height, or the station pressure itself.',
      );
    }
    check('siteHeightM', reading.siteHeightM);
    pressurePa = stationPressurePa(pressurePa, reading.siteHeightM);
  }
  const vapour = vapourPressurePa(reading.humidity, reading.temperatureC, pressurePa);
  const saturated = vapourPressurePa({ kind: 'relative', percent: 100 }, reading.temperatureC, pressurePa);
  if (!(vapour >= 0 && vapour <= saturated * 1.02)) {
    throw new AirError(
      'AIR_OUT_OF_RANGE',
      `The ${reading.humidity.kind} reading does not fit an air temperature of ${reading.temperatureC} °C.`,
      'Dew point and wet bulb lie at or below the air temperature; check both readings.',
      {},
      { quantity: 'humidity' },
    );
  }
  const temperatureK = kelvinFromC(reading.temperatureC);
  const dry = pressurePa - vapour;
  const density = moistAirDensity(dry, vapour, temperatureK);
  return {
    temperatureC: reading.temperatureC,
    temperatureK,
    pressurePa,
    vapourPressurePa: vapour,
    dryPressurePa: dry,
    relativeHumidityPct: (100 * vapour) / saturated,
    densityKgM3: density,
    densityAltitudeM: densityAltitudeM(density),
  };
}
