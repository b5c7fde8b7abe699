import { fuelOf, rpmPerKmh, tyreRadiusM, type ReadingOptions } from '../../core/capture/reading-options.ts';
import type { TestRow } from '../plan/repository.ts';

/** What the register knows for the reader of this test's files. The gear is the plan's, found by its name on the vehicle. */
export function readingOptions(
  {
    test,
    vehicle,
  }: {
    readonly test: Pick<TestRow['test'], 'fuel' | 'gear'>;
    readonly vehicle: Pick<TestRow['vehicle'], 'gears' | 'wheels' | 'finalDrive'>;
  },
  dyno: { readonly rollerRadiusM: number | null },
): ReadingOptions {
  const fuel = fuelOf(test.fuel);
  const gear = vehicle.gears.find((g) => sameGear(g.name, test.gear));
  const radius = tyreRadiusM(vehicle.wheels);
  return {
    ...(fuel ? { fuel } : {}),
    ...(dyno.rollerRadiusM === null ? {} : { rollerRadiusM: dyno.rollerRadiusM }),
    ...(gear && vehicle.finalDrive && radius
      ? { rpmPerKmh: rpmPerKmh(gear.ratio, vehicle.finalDrive, radius) }
      : {}),
  };
}

/** “4”, “4th” and “4th gear” are one gear. */
const sameGear = (a: string, b: string): boolean => {
  const key = (text: string): string =>
    text
      .toLowerCase()
      .replace(/gear|\s|\(.*\)/g, '')
      .replace(/(\d)(st|nd|rd|th)\b/, '$1');
  return key(a) !== '' && key(a) === key(b);
};
