/** The air of a pull as the interface shows it: what follows from the reading, by every standard, and how well it is known. */
import { and, desc, eq, gt, lte, or } from 'drizzle-orm';
import type { AirShown } from '../../contract/correct/air.ts';
import { EvidentiaError } from '../../core/base/errors.ts';
import { STANDARDS, type BoostedSchool, type Engine, type Standard } from '../../core/base/standards.ts';
import { airState } from '../../core/correct/air.ts';
import {
  airUncertainty,
  factorUncertainty,
  type AirUncertainty,
} from '../../core/correct/factor-uncertainty.ts';
import { correctionFactor } from '../../core/correct/standards.ts';
import type { Queryable } from '../base/db.ts';
import { sensors } from '../register/tables.ts';

/**
 * How well the dyno's sensors read the air, as they were calibrated and in use at a moment: one that came later, or a
 * newer calibration, says nothing of a session before it.
 */
export async function sensorsOf(tx: Queryable, dynoId: string, moment: Date): Promise<AirUncertainty> {
  return airUncertainty(
    await tx
      .selectDistinctOn([sensors.quantity, sensors.serial], {
        quantity: sensors.quantity,
        uncertainty: sensors.uncertainty,
        unit: sensors.unit,
      })
      .from(sensors)
      .where(
        and(
          eq(sensors.dynoId, dynoId),
          lte(sensors.calibratedOn, moment.toISOString().slice(0, 10)),
          or(eq(sensors.removed, false), gt(sensors.removedAt, moment)),
        ),
      )
      .orderBy(sensors.quantity, sensors.serial, desc(sensors.calibratedOn), desc(sensors.id)),
  );
}

/** What every standard would say of one reading; null where a standard does not cover the engine. */
export function airShown(
  reading: Parameters<typeof airState>[0],
  engine: Engine,
  school: BoostedSchool,
  planned: { readonly standard: Standard; readonly sensors: AirUncertainty },
): AirShown {
  const state = airState(reading);
  const factor = (standard: (typeof STANDARDS)[number]): number | null => {
    try {
      return correctionFactor(standard, state, engine, school).factor;
    } catch (error) {
      if (error instanceof EvidentiaError) return null;
      throw error;
    }
  };
  return {
    temperatureC: state.temperatureC,
    pressureHpa: state.pressurePa / 100,
    dryPressureHpa: state.dryPressurePa / 100,
    vapourPressureHpa: state.vapourPressurePa / 100,
    relativeHumidityPct: state.relativeHumidityPct,
    densityAltitudeM: state.densityAltitudeM,
    factors: Object.fromEntries(STANDARDS.map((s) => [s, factor(s)])),
    factorUncertainty:
      factor(planned.standard) === null
        ? null
        : (factorUncertainty(planned.standard, reading, engine, school, planned.sensors) ?? null),
  };
}
