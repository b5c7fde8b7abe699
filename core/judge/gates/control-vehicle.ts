import type { ControlAlarm, CrossedOutCheck } from '../../capture/test-definition.ts';
import { found, type Found } from '../finding.ts';

const gate = 'control vehicle' as const;

/**
 * The dyno’s own control vehicle, where the check before or after the session was out of its limits, or where a check
 * beside it was crossed out: whoever reviews the claim reads why.
 */
export const controlVehicleGate = (
  alarm: ControlAlarm | undefined,
  crossedOut: readonly CrossedOutCheck[] = [],
): Found[] => [
  ...(alarm
    ? [found(gate, 'fail', 'CONTROL_OUT_OF_LIMITS', alarm.control, alarm.when, alarm.off, alarm.limit)]
    : []),
  ...(crossedOut.length > 0 ? [found(gate, 'caution', 'CHECK_CROSSED_OUT', crossedOut)] : []),
];
