import type { TemperatureSlope } from '../register/temperature-slope.ts';

/** The slope that was registered when a plan was locked, and what it was registered from. */
export interface PlannedSlope extends TemperatureSlope {
  /** The vehicle, or the engines of its kind. */ readonly subject: string;
  /** Numbers of the tests behind it. */ readonly tests: readonly number[];
}
