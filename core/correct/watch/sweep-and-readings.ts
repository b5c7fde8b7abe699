/** Checks of the sweep of a recording and of its samples. */
import { grouped } from '../../base/grouped.ts';
import type { RecordingSummary } from '../../capture/session/recording-summary.ts';
import { ignitionTakenBack, isDeep } from '../hollow.ts';
import { pct, rpm, usual, type About, type Check } from './among.ts';
import type { Notice } from './notice.ts';

const LATE_RPM = 150;
const RAMP_SHARE = 0.1;
const SLIP_SHARE = 0.02;
const APART = 0.02;
/** Further from the others of its arm than any scatter: a unit, a gear, a leak. */
const UNLIKE_LP = 4;

export const sweep: Check = ({ recording: { label, summary: s }, about, others, plan }) => {
  const began = usual(others, (o) => o.beganRpm);
  const ramp = usual(others, (o) => o.rampRpmPerS);
  const usable = s.beganRpm + 300;
  const late = usable > plan.band.fromRpm || (began !== null && s.beganRpm > began + LATE_RPM);
  return [
    late &&
      about(
        'BEGAN_LATE',
        'ask',
        `${label} began at ${rpm(s.beganRpm)}${began === null ? '' : `, the others at ${grouped(Math.round(began))}`}.`,
        usable > plan.band.fromRpm
          ? `It can be used above ${rpm(usable)} only; a repeat would keep the whole range.`
          : 'The range of the plan is still covered.',
      ),
    s.liftedRpm !== null &&
      about(
        'THROTTLE_LIFTED',
        'ask',
        `${label} ends at ${rpm(s.liftedRpm)}: the throttle was lifted before ${rpm(plan.band.toRpm)}.`,
        'Leave it out for this cause and repeat it.',
      ),
    s.doubts.length > 0 &&
      about('SPEED_JUMPED', 'ask', `${label}: ${s.doubts[0]}`, 'Look at the samples; repeat it if in doubt.'),
    ramp !== null &&
      s.rampRpmPerS !== null &&
      Math.abs(s.rampRpmPerS / ramp - 1) > RAMP_SHARE &&
      about(
        'RAMP_UNLIKE',
        'ask',
        `${label} rose at ${Math.round(s.rampRpmPerS)} rpm/s, the others at ${Math.round(ramp)}.`,
        'Check the setting of the rollers and the gear.',
      ),
  ];
};

export const readings: Check = ({ recording: { label, summary: s }, about, alike }) => {
  const level = usual(alike, (o) => o.level);
  return [
    s.lost > 0 &&
      about(
        'SAMPLES_LOST',
        'ask',
        `${s.lost} samples of ${label} never arrived and are in no buffer.`,
        'Check cable and network, then repeat it.',
      ),
    s.slip !== null &&
      Math.abs(s.slip.share) > SLIP_SHARE &&
      about(
        'WHEEL_SLIP',
        'stop',
        `${label}: engine and rollers part by ${pct(s.slip.share, 1)} at ${rpm(s.slip.rpm)}.`,
        'Check straps and tyres before the next pull; leave this one out for wheel slip.',
      ),
    s.powerTorque !== null &&
      s.powerTorque > APART &&
      about(
        'POWER_TORQUE_APART',
        'stop',
        `${label}: power is not torque times speed; they are ${pct(s.powerTorque)} apart.`,
        'One of the two is in another unit than it says. Set the unit at the dyno.',
      ),
    level !== null &&
      s.level !== null &&
      Math.abs(s.level - level) > UNLIKE_LP &&
      about(
        'LEVEL_UNLIKE',
        'ask',
        `${label} reads ${pct(Math.exp((s.level - level) / 100) - 1)} ` +
          `${s.level < level ? 'less' : 'more'} than the other pulls of its arm.`,
        'That is no scatter: look for a leak, the gear, the unit, the fuel.',
      ),
    hollow(label, s, about),
  ];
};
function hollow(label: string, { hollow: h }: RecordingSummary, about: About): Notice | false {
  if (!h) return false;
  return (
    isDeep(h) &&
    about(
      'TORQUE_TAKEN_BACK',
      'ask',
      ignitionTakenBack(h)
        ? `${label}: torque falls by ${pct(h.share)} at ${rpm(h.rpm)} while the ignition is taken back by ${h.ignition!.toFixed(0)}°.`
        : `${label}: torque falls by ${pct(h.share)} at ${rpm(h.rpm)} and comes back.`,
      'Gearbox or traction control is intervening: switch it off the same way for every pull.',
    )
  );
}
