/**
 * What cannot be undone (cams, drilled pulleys, blower kits): the baseline cannot be measured again, so the car is
 * strapped down anew within each arm, and a control vehicle is measured before and after each of them.
 */

/** One measurement of the control vehicle: its pulls' averages, lp, and when. */
export interface ControlCheck {
  /** Moment, ISO. */ readonly at: string;
  /** Calendar day at the site. */ readonly day: string;
  /** Pulls before the counted ones. */ readonly warmUps: number;
  readonly values: readonly number[];
}
/** A mounting of the car under test as it was recorded: its counted pulls. */
export interface MountingSpan {
  readonly mount: number | string;
  readonly arm: string;
  /** Moments of the first and the last of them, ISO. */ readonly from: string;
  readonly to: string;
  readonly day: string;
}
export interface OneWayFacts {
  /** Steps that cannot be undone, of the parts the arms differ by, as the register has them. */
  readonly forGood: readonly string[];
  /** Tag of the control vehicle the plan names. */ readonly control: string;
  /** Whether its ledger has anything done on it between the first and the last of the checks. */
  readonly controlChanged: boolean;
  readonly checks: readonly ControlCheck[];
  readonly mountings: readonly MountingSpan[];
}

/** Mountings that each arm has at least. */
export const LEAST_MOUNTINGS = 2;
/** A check further away than this from an arm says nothing of it (common practice: the same shift). */
export const CHECK_WITHIN_HOURS = 12;
/** Checks that a plan without return needs: before and after each arm. */
export const CONTROL_CHECKS = 4;
/** Counted pulls of a check, after as many that are not counted as before any run. */
export const CONTROL_PULLS = 3;
