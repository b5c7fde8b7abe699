/**
 * How well a correction factor is known, by the registered sensors: first-order propagation (JCGM 100:2008, 5.1.2) with
 * the slope of the factor taken over one standard uncertainty on either side. Sensors err independently of each other.
 */
import type { BoostedSchool, Engine, Standard } from '../base/standards.ts';
import type { AirReading, AirSensor, AirUncertainty } from '../capture/air-reading.ts';
export type { AirSensor, AirUncertainty } from '../capture/air-reading.ts';
import { readUnit } from '../capture/unit-spellings.ts';
import { airState } from './air.ts';
import { correctionFactor } from './standards.ts';

/** A sensor as the register has it; the uncertainty is a standard one, in its own unit. */
export interface RegisteredSensor {
  readonly quantity: string;
  readonly uncertainty: number;
  readonly unit: string;
}

const SENSES: readonly [RegExp, AirSensor][] = [
  [/baro|pressure/i, 'pressure'],
  [/humid|dew|hygro/i, 'humidity'],
  [/air|intake|ambient|cell/i, 'temperature'],
];
const DIMENSIONS: Record<AirSensor, readonly string[]> = {
  temperature: ['temperature'],
  pressure: ['pressure'],
  humidity: ['fraction', 'humidity'],
};

/**
 * Standard uncertainties of what the air is read by: K, hPa, per cent of relative humidity. Of several sensors of a
 * kind the least certain counts; one in a unit that is none of its kind is left out.
 */
export function airUncertainty(sensors: readonly RegisteredSensor[]): AirUncertainty {
  const known: Partial<Record<AirSensor, number>> = {};
  for (const { quantity, uncertainty, unit } of sensors) {
    const sensor = SENSES.find(([name]) => name.test(quantity))?.[1];
    const of = readUnit(unit)?.unit;
    if (!sensor || !of || !DIMENSIONS[sensor].includes(of.dimension)) continue;
    const internal = uncertainty * of.scale;
    const value = sensor === 'pressure' ? internal / 100 : internal;
    known[sensor] = Math.max(known[sensor] ?? 0, value);
  }
  return known;
}

export interface FactorUncertainty {
  /** Relative standard uncertainty of the factor, per cent. */ readonly pct: number;
  /** Share of it that comes from each sensor, of its square. */
  readonly shares: AirUncertainty;
}

/**
 * @returns undefined where not one of the sensors is known
 * @throws AirError for a reading that cannot be right; CorrectionError where the standard does not cover the engine
 */
export function factorUncertainty(
  standard: Standard,
  reading: AirReading,
  engine: Engine,
  school: BoostedSchool,
  known: AirUncertainty,
): FactorUncertainty | undefined {
  const sensors = Object.entries(known) as [AirSensor, number][];
  if (sensors.length === 0) return undefined;
  const factor = (air: AirReading): number =>
    correctionFactor(standard, airState(air), engine, school).factor;
  const own = factor(reading);
  const parts = sensors.map(([sensor, u]) => {
    const [above, below] = [movedAir(reading, sensor, u), movedAir(reading, sensor, -u)];
    const step = above.by - below.by;
    return { sensor, part: step === 0 ? 0 : ((factor(above.air) - factor(below.air)) / step) * u };
  });
  const variance = parts.reduce((sum, { part }) => sum + part ** 2, 0);
  return {
    pct: (100 * Math.sqrt(variance)) / own,
    shares: Object.fromEntries(
      parts.map(({ sensor, part }) => [sensor, variance > 0 ? part ** 2 / variance : 0]),
    ),
  };
}

/** The reading with one sensor off by so much; a relative humidity stays between 0 and 100 %. */
export function movedAir(air: AirReading, sensor: AirSensor, by: number): { air: AirReading; by: number } {
  if (sensor === 'temperature') return { air: { ...air, temperatureC: air.temperatureC + by }, by };
  if (sensor === 'pressure') return { air: { ...air, pressureHpa: air.pressureHpa + by }, by };
  // A dew point or wet bulb is no reading of a hygrometer in per cent: nothing is known of its sensor.
  if (air.humidity.kind !== 'relative') return { air, by: 0 };
  const percent = Math.min(100, Math.max(0, air.humidity.percent + by));
  return {
    air: { ...air, humidity: { kind: 'relative', percent } },
    by: percent - air.humidity.percent,
  };
}
