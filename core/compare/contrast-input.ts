import type { Family } from '../base/family-quantile.ts';
import type { Guard } from '../base/guard.ts';
import type { Run } from '../plan/design.ts';
import type { OneWayFacts } from '../plan/one-way.ts';
import type { TemperatureSlope } from '../register/temperature-slope.ts';
import type { Repeatability } from '../register/repeatability.ts';
import type { ComparedPull } from './compared-pull.ts';

/** One contrast to be analysed: an arm against another, with how. */
export interface ContrastInput {
  readonly arm: string;
  readonly against: string;
  /** Runs of the two arms, counted pulls only, in order. */
  readonly runs: readonly Run<ComparedPull>[];
  readonly grid: readonly number[];
  readonly stepRpm: number;
  readonly smoothingRpm: number;
  readonly alpha: number;
  /** Contrasts whose single numbers hold together with this one's; left out: it stands alone. */
  readonly family?: Family | undefined;
  readonly drift: 'none' | 'linear';
  readonly driftBound: number;
  /** Several parts between one opening and one closing baseline: a part off the centre keeps some drift, which the bound covers. */
  readonly bracketed?: boolean;
  /** How wary the intervals of single numbers are of arms that scatter differently. */
  readonly guard: Guard;
  /** Of it the variance of mountings enters an interval, and where nothing returns that of days. */
  readonly repeatability: Repeatability;
  /** Where the plan has no return to the baseline: what was recorded of mountings and of the control vehicle. */
  readonly oneWay?: OneWayFacts | undefined;
  /** Slope over the start temperature the plan names; null where it names none. */
  readonly slope?: TemperatureSlope | null;
}
