/**
 * What correcting for air leaves open in a comparison: how far the arms' factors are apart, how far the standards
 * disagree about that, and what the sensors make of it. Both arms are read by the same sensors, so that an offset
 * enters only by how differently the two arms' factors go with it.
 */
import { EvidentiaError } from '../base/errors.ts';
import { STANDARDS, type BoostedSchool, type Engine, type Standard } from '../base/standards.ts';
import type { AirReading } from '../capture/air-reading.ts';
import { airState } from './air.ts';
import { movedAir, type AirSensor, type AirUncertainty } from './factor-uncertainty.ts';
import { correctionFactor } from './standards.ts';

export interface FactorDifference {
  /** Of the arm's factor over the baseline's, as the contrast weighs the pulls, lp. */
  readonly difference: number;
  /** The smallest and the largest difference any standard for this engine would have taken out, lp. */
  readonly least: number;
  readonly most: number;
  /** Standard uncertainty of the rule itself, lp: a rectangle over what the standards say (JCGM 100:2008, 4.3.7). */
  readonly betweenStandards: number;
  /** Standard uncertainty from offsets of the registered sensors, lp; null where none is registered. */
  readonly sensors: number | null;
}
export interface WeighedAir {
  /** Weight of the pull in the contrast. */
  readonly weight: number;
  readonly reading: AirReading;
}

/** @throws AirError for a reading that cannot be right; CorrectionError where the standard does not cover the engine */
export function factorDifference(
  pulls: readonly WeighedAir[],
  { standard, engine, school }: { standard: Standard; engine: Engine; school: BoostedSchool },
  known: AirUncertainty,
): FactorDifference {
  const by = (rule: Standard, own: BoostedSchool, read = (air: AirReading): AirReading => air): number =>
    pulls.reduce((sum, { weight, reading }) => {
      const { factor } = correctionFactor(rule, airState(read(reading)), engine, own);
      return sum + weight * 100 * Math.log(factor);
    }, 0);
  const difference = by(standard, school);
  // By their plain rule: where the house leaves the air in, what they would take out is what is open.
  const others = STANDARDS.filter((rule) => rule !== 'none').flatMap((rule) =>
    tried(() => by(rule, 'correct')),
  );
  const all = [difference, ...others];
  const [least, most] = [Math.min(...all), Math.max(...all)];
  return {
    difference,
    least,
    most,
    betweenStandards: (most - least) / Math.sqrt(12),
    sensors: ofSensors(pulls, known, (read) => by(standard, school, read)),
  };
}

/** A standard that does not cover the engine says nothing of it. */
function tried(of: () => number): number[] {
  try {
    return [of()];
  } catch (error) {
    if (error instanceof EvidentiaError) return [];
    throw error;
  }
}

/** Offsets of the sensors one by one, the same for every reading of the session, in quadrature (JCGM 100:2008, 5.1.2). */
function ofSensors(
  pulls: readonly WeighedAir[],
  known: AirUncertainty,
  by: (read: (air: AirReading) => AirReading) => number,
): number | null {
  // What is no reading of that sensor (a dew point is none of a hygrometer in per cent) does not move with it.
  const moves = (sensor: AirSensor): boolean =>
    sensor !== 'humidity' || pulls.every(({ reading }) => reading.humidity.kind === 'relative');
  const sensors = (Object.entries(known) as [AirSensor, number][]).filter(([sensor]) => moves(sensor));
  if (sensors.length === 0) return null;
  const parts = sensors.map(([sensor, u]) => {
    const [above, below] = [u, -u].map((step) => by((air) => movedAir(air, sensor, step).air));
    return (above - below) / 2;
  });
  return Math.hypot(...parts);
}
