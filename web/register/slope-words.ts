/** How a slope over a start temperature reads: what it is, and why it is registered or not. */
import type { StartSlope } from '../../contract/register/start-slopes.ts';
import {
  SLOPE_RULE,
  START_LIMITS,
  type SlopeReason,
  type StartSensor,
} from '../../core/register/temperature-slope.ts';
import { number } from '../base/format.ts';

export const SENSOR_NAMES: Readonly<Record<StartSensor, string>> = {
  coolant: 'coolant',
  oil: 'oil',
  'cell air': 'air of the cell',
};
const WHY: Readonly<Record<SlopeReason, (slope: StartSlope) => string>> = {
  SESSIONS: (s) => `${s.sessions} of ${SLOPE_RULE.sessions} sessions`,
  DF: (s) => `${s.dfTotal ?? 0} of ${SLOPE_RULE.df} degrees of freedom`,
  NOT_CLEAR: () => `less than ${SLOPE_RULE.clear} standard errors`,
  NO_BENEFIT: () => `explains under ${100 * SLOPE_RULE.benefit} %`,
  SLOPE_VARIES: () => 'differs between sessions',
};
export const whyNot = (slope: StartSlope): string => slope.reasons.map((r) => WHY[r](slope)).join(', ');
/** The slope with its standard error, % per kelvin. */
export const slopeText = ({ slope, error }: StartSlope): string =>
  slope === null || error === null ? '–' : `${number(slope, 2)} ± ${number(error, 2)} %/K`;

/** How far apart the arms may start without a caution, K. */
export const allowedK = ({ registered, slope, sensor }: StartSlope): number =>
  registered && slope
    ? Math.min(START_LIMITS.mostK[sensor], START_LIMITS.effectLp[0] / Math.abs(slope))
    : START_LIMITS.apartK[0];
