/** Whether what the engine drew agrees with what it gave: airflow or fuel flow against power, all as observed. */
import type { EngineChannel } from '../../base/quantities.ts';
import { armLog, logContrast, type LoggedPull } from '../../compare/arm-logs.ts';
import { found, type Found } from '../finding.ts';

const gate = 'log agrees' as const;
/** Percentage points between the two ratios (the method's gate “log agrees”). */
const WITHIN = 3;

/** @param powerRatio arm over baseline over the band, as observed: what flows is not corrected for air either */
export function logAgreesGate(
  pulls: readonly LoggedPull[],
  { arm, against }: { readonly arm: string; readonly against: string },
  powerRatio: number,
  grid: readonly number[],
  stepRpm: number,
): Found[] {
  const flows = (['massAirFlow', 'fuelFlow'] as const satisfies readonly EngineChannel[]).flatMap(
    (channel) => {
      const [a, b] = [arm, against].map((id) => armLog(pulls, id, channel, grid));
      const ratio = (a && b && logContrast(a, b, grid, stepRpm)?.ratio) ?? null;
      return ratio === null ? [] : [{ channel, gain: 100 * (ratio - 1) }];
    },
  );
  const power = 100 * (powerRatio - 1);
  if (flows.length === 0) return [found(gate, 'caution', 'FLOW_NOT_LOGGED')];
  return flows.map(({ channel, gain }) =>
    Math.abs(gain - power) <= WITHIN
      ? found(gate, 'pass', 'FLOW_AGREES', channel, gain, power)
      : found(gate, 'caution', 'FLOW_DISAGREES', channel, gain, power),
  );
}
