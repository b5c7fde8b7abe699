/** What the register knows that a file may leave out: fuel, roller radius, gearing. */
import type { Fuel } from '../base/units.ts';

export interface ReadingOptions {
  readonly fuel?: Fuel | undefined;
  readonly rollerRadiusM?: number | undefined;
  readonly rpmPerKmh?: number | undefined;
}

/** The fuel that air-fuel ratios are read by, from how a person names it; undefined where it cannot be told. */
export function fuelOf(text: string): Fuel | undefined {
  const lower = text.toLowerCase();
  if (/diesel|en ?590/.test(lower)) return 'diesel';
  if (/methanol/.test(lower)) return 'methanol';
  const blend = /\be ?(\d{2})\b/.exec(lower);
  if (blend)
    return blend[1] === '85' ? 'e85' : blend[1] === '10' ? 'e10' : blend[1] === '05' ? 'petrol' : undefined;
  return /petrol|gasoline|ron|aki|octane/.test(lower) ? 'petrol' : undefined;
}

const MM_PER_INCH = 25.4;
/**
 * Unloaded radius of a tyre, m, from its size: “205/55 R16” is 205 mm wide, its wall 55 % of that, on a 16 inch rim
 * (tyre size notation of ISO 4000-1, from memory). The loaded radius is a few per cent smaller, so what follows from it is an estimate.
 */
export function tyreRadiusM(size: string): number | undefined {
  const match = /(\d{3})\s*\/\s*(\d{2})\s*Z?R\s*(\d{2})/i.exec(size);
  if (!match) return undefined;
  const [width, aspect, rim] = match.slice(1).map(Number) as [number, number, number];
  return ((width * aspect) / 100 + (rim * MM_PER_INCH) / 2) / 1000;
}

/** Engine revolutions a minute for each km/h on the road: gear and final drive over the tyre's circumference. */
export const rpmPerKmh = (gearRatio: number, finalDrive: number, radiusM: number): number =>
  (gearRatio * finalDrive * 1000) / 60 / (2 * Math.PI * radiusM);
