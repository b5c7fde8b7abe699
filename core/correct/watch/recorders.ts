/** Checks of what records: channels, clocks, the log, the weather station. */
import { QUANTITY_NAMES, type Quantity } from '../../base/quantities.ts';
import { DEVICE_NAMES, type DeviceKind } from '../../register/devices.ts';
import { signed } from '../../base/signed.ts';
import { type Check } from './among.ts';

const CLOCK_OFF_MS = 1000;
const AIR_MOVED = { temperatureK: 1.5, pressureHpa: 2 };

export const recorders: Check = ({
  recording: { label, summary: s, clocksOffMs, logWanted, logJoined },
  about,
}) => [
  ...s.dead.map((name) =>
    about(
      'CHANNEL_DEAD',
      'ask',
      `${label}: ${name} was not recorded, although the logger has it.`,
      'Check plug and sensor now: it cannot be had afterwards.',
    ),
  ),
  ...(Object.entries(s.channels) as [Quantity, { stuck: boolean }][])
    .filter(([, { stuck }]) => stuck)
    .map(([quantity]) =>
      about(
        'CHANNEL_STUCK',
        'ask',
        `${label}: ${QUANTITY_NAMES[quantity]} does not move through the whole pull.`,
        'The sensor or its line is stuck: check it now.',
      ),
    ),
  ...(Object.entries(clocksOffMs) as [DeviceKind, number][])
    .filter(([, off]) => Math.abs(off) > CLOCK_OFF_MS)
    .map(([kind, off]) =>
      about(
        'CLOCK_OFF',
        'know',
        `The clock of the ${DEVICE_NAMES[kind]} is ${(Math.abs(off) / 1000).toFixed(1)} s ${off > 0 ? 'ahead' : 'behind'}.`,
        'The log was joined by engine speed, so nothing is lost; set the clock.',
      ),
    ),
  logWanted &&
    !logJoined &&
    about(
      'LOG_MISSING',
      'ask',
      `${label} has no engine log.`,
      'Check the logger now: the log cannot be had afterwards.',
    ),
];

export const air: Check = ({ recording, about, before }) => {
  const { summary, label } = recording;
  if (!summary.air)
    return [
      about(
        'AIR_MISSING',
        'ask',
        `${label} has no air reading.`,
        'Type it, or bring the station back, before the car is unstrapped.',
      ),
    ];
  const last = before?.summary.air;
  const [dT, dP] = last
    ? [summary.air.temperatureC - last.temperatureC, summary.air.pressureHpa - last.pressureHpa]
    : [0, 0];
  return [
    (Math.abs(dT) > AIR_MOVED.temperatureK || Math.abs(dP) > AIR_MOVED.pressureHpa) &&
      about(
        'AIR_MOVED',
        'ask',
        `The air moved by ${signed(dT, 1)} K and ${signed(dP, 1)} hPa since the pull before ${label}.`,
        'Check where the station stands, doors and fan.',
      ),
  ];
};
