/** Whether what the engine drew agrees with what it gave: airflow or fuel flow against power, all as observed. */
import type { EngineChannel } from '../../base/quantities.ts';
import { armLog, logContrast, type LoggedPull } from '../../compare/arm-logs.ts';
import { found, type Found } from '../finding.ts';
import { anotherUnit } from './another-unit.ts';

const gate = 'log agrees' as const;
/** Percentage points between the two ratios (the method's gate “log agrees”). */
const WITHIN = 3;

/** Airflow or fuel flow of an arm over the other's, whichever was logged in both. */
function flowRatios(
  pulls: readonly LoggedPull[],
  { arm, against }: { readonly arm: string; readonly against: string },
  grid: readonly number[],
  stepRpm: number,
) {
  return (['massAirFlow', 'fuelFlow'] as const satisfies readonly EngineChannel[]).flatMap((channel) => {
    const [a, b] = [arm, against].map((id) => armLog(pulls, id, channel, grid));
    const ratio = (a && b && logContrast(a, b, grid, stepRpm)?.ratio) ?? null;
    return ratio === null ? [] : [{ channel, ratio }];
  });
}

/** @param powerRatio arm over baseline over the band, as observed: what flows is not corrected for air either */
export function logAgreesGate(
  pulls: readonly LoggedPull[],
  pair: { readonly arm: string; readonly against: string },
  powerRatio: number,
  grid: readonly number[],
  stepRpm: number,
): Found[] {
  const flows = flowRatios(pulls, pair, grid, stepRpm);
  const power = 100 * (powerRatio - 1);
  const apart = anotherUnit(powerRatio, flows[0]?.ratio);
  if (flows.length === 0) return [...apart, found(gate, 'caution', 'FLOW_NOT_LOGGED')];
  const told = flows.map(({ channel, ratio }) => {
    const gain = 100 * (ratio - 1);
    return Math.abs(gain - power) <= WITHIN
      ? found(gate, 'pass', 'FLOW_AGREES', channel, gain, power)
      : found(gate, 'caution', 'FLOW_DISAGREES', channel, gain, power);
  });
  return [...apart, ...told];
}
