/**
 * Correction standards: factors that multiply observed brake torque and power to bring them to a
 * reference atmosphere. pd is dry pressure and p total pressure in hPa, T the intake air in K.
 * The standards print 298 with t + 273; 298.15 with t + 273.15 is used here (under 2e-5 apart).
 */
import { CorrectionError } from '../base/errors.ts';
import {
  schoolFor,
  STANDARD_NAMES,
  type BoostedSchool,
  type Engine,
  type Standard,
} from '../base/standards.ts';
import type { AirState } from './air.ts';

/** Why a factor should be looked at before a number rests on it. */
export interface FactorRemark {
  readonly code:
    'TEMPERATURE_OUT_OF_RANGE' | 'PRESSURE_OUT_OF_RANGE' | 'FACTOR_OUT_OF_RANGE' | 'FUEL_RATE_UNKNOWN';
  readonly message: string;
}

export interface Factor {
  readonly standard: Standard;
  readonly factor: number;
  /** What the factor rests on, so that the working can be shown. */
  readonly pressureHpa: number;
  readonly pressureKind: 'dry' | 'total';
  readonly temperatureK: number;
  readonly remarks: readonly FactorRemark[];
}

const T25 = 298.15;
const T20 = 293.15;
const T60F = 288.705556;
const STD_PRESSURE_HPA = 29.92 * 33.86389;

/** Share of indicated power taken by friction that SAE J1349 assumes with 85 % mechanical efficiency: 1/0.85 = 1.176. */
const saeSpark = (pd: number, T: number): number => 1.176 * (990 / pd) * Math.sqrt(T / T25) - 0.176;
const isoSpark = (pd: number, T: number): number => (990 / pd) ** 1.2 * (T / T25) ** 0.6;

/** Atmospheric factor of ISO 1585 for compression ignition. */
function atmosphericFactor(pd: number, T: number, aspiration: Engine['aspiration']): number {
  const turbo = aspiration === 'turbo' || aspiration === 'turbo-intercooled';
  return turbo ? (990 / pd) ** 0.7 * (T / T25) ** 1.5 : (990 / pd) * (T / T25) ** 0.7;
}

/** Engine factor of ISO 1585: fm = 0.036·qc − 1.14, 0.3 below qc 40 and 1.2 above 65. */
export function engineFactor(correctedFuelMg: number): number {
  if (correctedFuelMg < 40) return 0.3;
  if (correctedFuelMg > 65) return 1.2;
  return 0.036 * correctedFuelMg - 1.14;
}

const referencePressure = (standard: Standard): { pd: number; p: number } => ({
  pd: standard === 'sae-j607' ? STD_PRESSURE_HPA : 990,
  p: 1013,
});

interface Range {
  readonly temperatureC: readonly [number, number];
  readonly pressureHpa: readonly [number, number];
  readonly factor: readonly [number, number];
}

/**
 * Factor of a standard for one air state and engine, with what should be looked at.
 * Sources, all from memory: SAE J1349 (rev. 2004-08), SAE J607, DIN 70020, ISO 1585 / UN R85, JIS D 1001.
 * Throws `CorrectionError` where the standard does not define a factor for the engine.
 * @param school house policy for boosted engines; of no effect on others
 */
export function correctionFactor(
  standard: Standard,
  air: AirState,
  engine: Engine,
  school: BoostedSchool = 'correct',
): Factor {
  const own = schoolFor(engine, { standard, school });
  if (own === 'do not correct') return { ...correctionFactor('none', air, engine), standard };
  const measured = { pd: air.dryPressurePa / 100, p: air.pressurePa / 100 };
  // For temperature only: as if the pressure were the standard's own.
  const { pd, p } = own === 'temperature only' ? referencePressure(standard) : measured;
  const T = air.temperatureK;
  const remarks: FactorRemark[] = [];
  const done = (factor: number, kind: 'dry' | 'total', range?: Range): Factor => {
    const pressureHpa = kind === 'dry' ? measured.pd : measured.p;
    if (range) remarks.push(...outside(standard, range, air.temperatureC, pressureHpa, factor));
    return { standard, factor, pressureHpa, pressureKind: kind, temperatureK: T, remarks };
  };
  const compression = (range: Range): Factor => {
    const { fuelMgPerLitreCycle: q, boostRatio } = engine;
    if (q === undefined) {
      remarks.push({
        code: 'FUEL_RATE_UNKNOWN',
        message: 'The fuel per litre and cycle is not known, so the smallest engine factor (0.3) is used.',
      });
    }
    const fm = q === undefined ? 0.3 : engineFactor(q / (boostRatio ?? 1));
    return done(atmosphericFactor(pd, T, engine.aspiration) ** fm, 'dry', range);
  };
  const sae: Range = { temperatureC: [15, 35], pressureHpa: [900, 1050], factor: [0.93, 1.07] };
  const iso: Range = { temperatureC: [15, 35], pressureHpa: [800, 1100], factor: [0.93, 1.07] };
  const forCompression = (range: Range): Range => ({ ...range, factor: [0.9, 1.1] });
  switch (standard) {
    case 'none':
      return done(1, 'dry');
    case 'sae-j1349':
      return engine.ignition === 'spark'
        ? done(saeSpark(pd, T), 'dry', sae)
        : compression(forCompression(sae));
    case 'sae-j607':
      return done((STD_PRESSURE_HPA / pd) * Math.sqrt(T / T60F), 'dry');
    case 'din-70020':
      return done((1013 / p) * Math.sqrt(T / T20), 'total');
    case 'iso-1585':
      return engine.ignition === 'spark'
        ? done(isoSpark(pd, T), 'dry', iso)
        : compression(forCompression(iso));
    case 'jis-d1001':
      if (engine.ignition === 'compression') {
        throw new CorrectionError(
          'STANDARD_NOT_FOR_ENGINE',
          'JIS D 1001 is held here for spark ignition only.',
          'Choose ISO 1585 or SAE J1349 for this engine.',
        );
      }
      return done(isoSpark(pd, T), 'dry', iso);
  }
}

function outside(
  standard: Standard,
  range: Range,
  temperatureC: number,
  pressureHpa: number,
  factor: number,
): FactorRemark[] {
  const name = STANDARD_NAMES[standard];
  const out = (value: number, [low, high]: readonly [number, number]): boolean =>
    !(value >= low && value <= high);
  return [
    ...(out(temperatureC, range.temperatureC)
      ? [
          {
            code: 'TEMPERATURE_OUT_OF_RANGE' as const,
            message:
              `${name} holds from ${range.temperatureC[0]} to ${range.temperatureC[1]} °C; ` +
              `the intake air was ${temperatureC.toFixed(1)} °C.`,
          },
        ]
      : []),
    ...(out(pressureHpa, range.pressureHpa)
      ? [
          {
            code: 'PRESSURE_OUT_OF_RANGE' as const,
            message:
              `${name} holds from ${range.pressureHpa[0]} to ${range.pressureHpa[1]} hPa ` +
              `dry; the dry pressure was ${pressureHpa.toFixed(1)} hPa.`,
          },
        ]
      : []),
    ...(out(factor, range.factor)
      ? [
          {
            code: 'FACTOR_OUT_OF_RANGE' as const,
            message:
              `${name} holds for factors from ${range.factor[0].toFixed(2)} to ` +
              `${range.factor[1].toFixed(2)}; this one is ${factor.toFixed(4)}.`,
          },
        ]
      : []),
  ];
}

/** What the dyno applied on its own before the file was written. */
export interface Applied {
  readonly standard: Standard;
  /** The factor itself, when the file states it. */
  readonly factor?: number | undefined;
  /** The dyno's own air reading, when it differs from the pull's. */
  readonly air?: AirState | undefined;
}

/**
 * The factor already in the figures, to be divided out: the stated one, else the one its standard
 * gives for its own air reading (or the pull's).
 */
export function appliedFactor(applied: Applied | undefined, air: AirState, engine: Engine): number {
  if (!applied) return 1;
  if (applied.factor !== undefined) {
    if (!(applied.factor > 0.5 && applied.factor < 2)) {
      throw new CorrectionError(
        'FACTOR_UNUSABLE',
        `The factor stated as applied is ${applied.factor}.`,
        'A factor lies near 1; check the pull’s settings.',
      );
    }
    return applied.factor;
  }
  return correctionFactor(applied.standard, applied.air ?? air, engine).factor;
}
