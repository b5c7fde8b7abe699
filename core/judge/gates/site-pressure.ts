import { ISA, stationPressurePa } from '../../correct/air.ts';
import { found, type Found } from '../finding.ts';
import type { HeldPull } from './held-pull.ts';

/** Weather moves the pressure of a place by less than this around its standard value (common practice: about ±40 hPa). */
const WEATHER_HPA = 45;

/** Pressure of the standard atmosphere at the site, hPa. */
const standardHpa = (heightM: number): number => stationPressurePa(ISA.pressurePa, heightM) / 100;

/** A station pressure that the registered height of the site cannot have: sea-level pressure entered as it came from a forecast. */
export function pressures(pulls: readonly HeldPull[]): Found[] {
  const odd = pulls.filter(({ air }) => {
    if (!air || air.pressureKind === 'sea level' || air.siteHeightM === undefined) return false;
    return Math.abs(air.pressureHpa - standardHpa(air.siteHeightM)) > WEATHER_HPA;
  });
  if (odd.length === 0) return [];
  const { pressureHpa, siteHeightM } = odd[0].air!;
  return [
    found(
      'plausible',
      'fail',
      'PRESSURE_NOT_OF_SITE',
      odd.map((p) => p.id),
      { hpa: pressureHpa, heightM: siteHeightM!, standardHpa: standardHpa(siteHeightM!) },
    ),
  ];
}
