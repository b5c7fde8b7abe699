/** One car registered under two tags counts as two vehicles, and three make a fleet: the distance run gives it away. */
import { found, type Found } from './finding.ts';

export interface RunVehicle {
  readonly tag: string;
  /** Distance run by the register, km; with each entry of its ledger it is brought up to date. */
  readonly odometerKm: number;
}
/** Two cars that have run as far as each other to this, km, may be one; own choice. */
const APART_KM = 500;
/** Cars that have run less are new, and alike in that; own choice. */
const NEW_KM = 2000;

/** Each two of the vehicles put together that may be one car. */
export function maybeOneCar(vehicles: readonly RunVehicle[]): [RunVehicle, RunVehicle][] {
  const run = [...vehicles].filter(({ odometerKm }) => odometerKm >= NEW_KM);
  return run.flatMap((one, i) =>
    run
      .slice(i + 1)
      .filter((other) => other.tag !== one.tag && Math.abs(other.odometerKm - one.odometerKm) < APART_KM)
      .map((other): [RunVehicle, RunVehicle] => [one, other]),
  );
}

export function oneCarFindings(vehicles: readonly RunVehicle[]): Found[] {
  const pairs = maybeOneCar(vehicles);
  return pairs.length > 0 ? [found('every test counts', 'caution', 'MAYBE_ONE_CAR', pairs)] : [];
}
