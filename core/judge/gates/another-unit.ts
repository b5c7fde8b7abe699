/**
 * Whether one arm was read in another unit than its files say: the arms then lie as far apart as the units, and nothing
 * in any single file contradicts it. A gain as large is real on a blower; then the airflow says so too.
 */
import { found, type Found } from '../finding.ts';

/** How far apart readings lie in the units that are mistaken for each other; NIST SP 811, appendix B. */
const UNITS: readonly (readonly [string, number])[] = [
  ['N·m and lb·ft', 1.355818],
  ['kW and PS', 1.359622],
  ['kW and hp', 1.341022],
  ['N·m and kgf·m', 9.80665],
];
/** A part adds its own gain or loss to the unit's factor, up to so much. */
const WITHIN = 0.04;
/** An airflow or fuel flow this near the power ratio bears it out, as a share. */
const BORNE_OUT = 0.1;

/** @param ratio power of the arm over the other's @param flow the same of airflow or fuel flow; undefined where not logged */
export function anotherUnit(ratio: number, flow: number | undefined): Found[] {
  if (flow !== undefined && Math.abs(flow / ratio - 1) < BORNE_OUT) return [];
  const hit = UNITS.find(([, factor]) => [factor, 1 / factor].some((f) => Math.abs(ratio / f - 1) < WITHIN));
  return hit ? [found('plausible', 'fail', 'ARMS_A_UNIT_APART', hit[0], 100 * (ratio - 1))] : [];
}
