import type { ControlAlarm } from '../../capture/test-definition.ts';
import { found, type Found } from '../finding.ts';

/** The dyno’s own control vehicle, where the check before or after the session was out of its limits. */
export const controlVehicleGate = (alarm: ControlAlarm | undefined): Found[] =>
  alarm
    ? [
        found(
          'control vehicle',
          'fail',
          'CONTROL_OUT_OF_LIMITS',
          alarm.control,
          alarm.when,
          alarm.off,
          alarm.limit,
        ),
      ]
    : [];
