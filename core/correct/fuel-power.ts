import { FUEL_DENSITY, type Fuel } from '../base/units.ts';
import { isBoosted, type Engine } from '../base/standards.ts';

/** Fuel per energy at the crank of petrol engines at full load, lb/(hp·h). Common practice; no published source. */
const BSFC = { natural: [0.4, 0.55], boosted: [0.5, 0.65] } as const;
/** 1 lb/(hp·h) in kg/J. */
const KG_PER_J = 0.45359237 / (745.6998715822702 * 3600);

/**
 * Power at the crank that a fuel flow could make, W: an estimate between the limits the engine's kind leaves open.
 * Nothing for other fuels and compression ignition, of which no range is held here.
 */
export function fuelPower(
  fuelM3S: number,
  engine: Pick<Engine, 'aspiration' | 'ignition'>,
  fuel: Fuel | undefined,
): { readonly low: number; readonly high: number } | undefined {
  const used = fuel ?? 'petrol';
  if (engine.ignition !== 'spark' || (used !== 'petrol' && used !== 'e10')) return undefined;
  const [least, most] = BSFC[isBoosted(engine) ? 'boosted' : 'natural'];
  const kgS = fuelM3S * FUEL_DENSITY[used];
  return { low: kgS / (most * KG_PER_J), high: kgS / (least * KG_PER_J) };
}
