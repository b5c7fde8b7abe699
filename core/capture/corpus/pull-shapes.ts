/** Pull files with something of their own: a clock, power alone, rollers, a wish beside the reading. */
import type { Quantity } from '../../base/quantities.ts';
import { STYLES } from './countries.ts';
import { at, columnOf, expectedOf, METRIC, rpm, SI, torque, type As, type CorpusFile } from './made-pull.ts';
import { encoded, tableText, type Column, type Style } from './written.ts';

const PLAIN = STYLES[2];
function shape(
  name: string,
  columns: Column[],
  expected: CorpusFile['expected'],
  more: Partial<CorpusFile> & { style?: Style } = {},
): CorpusFile {
  const style = more.style ?? {
    ...PLAIN,
    units: 'round' as const,
    quoted: false,
    encoding: 'utf-8' as const,
  };
  return {
    name,
    bytes: encoded(tableText(columns, style), style.encoding),
    options: more.options ?? {},
    expected,
    torque: more.torque ?? { values: torque, within: 0.006 },
  };
}
const metric = (quantity: Quantity, name: string): Column => columnOf(quantity, name, METRIC[quantity]!);
const as = (quantity: Quantity, name: string, form: As): Column => columnOf(quantity, name, form);
const RPM = { engineSpeed: expectedOf('engineSpeed', METRIC.engineSpeed!) };
const RADIUS = 0.6;
const rollerSpeed = rpm.map((n) => n / 120);

// eslint-disable-next-line max-lines-per-function -- a table of files, a few lines each
export function shapes(): CorpusFile[] {
  const speed = metric('engineSpeed', 'RPM');
  const moment = metric('torque', 'Torque');
  const clock = at.map((i) => `14:02:${(3 + 0.125 * i).toFixed(3).padStart(6, '0')}`);
  const stamp = at.map((i) => `2026-11-26T14:02:${(3 + 0.125 * i).toFixed(3).padStart(6, '0')}`);
  const fromStart = { values: at.map((i) => 14 * 3600 + 123 + 0.125 * i), within: 1e-3 };
  return [
    shape('power only', [speed, metric('power', 'Power')], RPM, {
      torque: { values: torque, within: 0.005 },
    }),
    shape('krpm', [as('engineSpeed', 'Engine speed', { unit: 'krpm', scale: 1000, digits: 4 }), moment], {
      engineSpeed: { values: rpm, within: 0.06 },
    }),
    shape(
      'rad/s under ω',
      [as('engineSpeed', 'ω', { unit: 'rad/s', scale: 30 / Math.PI, digits: 4 }), moment],
      {
        engineSpeed: { values: rpm, within: 0.001 },
      },
    ),
    shape(
      'revolutions a second',
      [as('engineSpeed', 'Crankshaft speed', { unit: 'rev/s', scale: 60, digits: 4 }), moment],
      {
        engineSpeed: { values: rpm, within: 0.004 },
      },
    ),
    shape('decanewton metres', [speed, as('torque', 'Couple', { unit: 'daN.m', scale: 10, digits: 4 })], RPM),
    shape(
      'force and speed of the rollers',
      [
        speed,
        {
          name: 'Roller force',
          unit: 'N',
          digits: 3,
          values: at.map((i) => (torque[i] * rpm[i] * Math.PI) / 30 / rollerSpeed[i]),
        },
        { name: 'Roller speed', unit: 'km/h', digits: 4, values: rollerSpeed.map((v) => 3.6 * v) },
      ],
      RPM,
      { torque: { values: torque, within: 0.01 } },
    ),
    shape(
      'rollers in rpm, with their radius',
      [
        speed,
        {
          name: 'Zugkraft',
          unit: 'daN',
          digits: 4,
          values: at.map((i) => (torque[i] * rpm[i] * Math.PI) / 300 / rollerSpeed[i]),
        },
        {
          name: 'Rollendrehzahl',
          unit: '1/min',
          digits: 3,
          values: rollerSpeed.map((v) => (60 * v) / (2 * Math.PI * RADIUS)),
        },
      ],
      RPM,
      { options: { rollerRadiusM: RADIUS }, torque: { values: torque, within: 0.01 } },
    ),
    shape('a clock', [{ name: 'Time', unit: '', digits: 0, values: clock }, speed, moment], {
      ...RPM,
      time: fromStart,
    }),
    shape('time stamps', [{ name: 'Timestamp', unit: '', digits: 0, values: stamp }, speed, moment], {
      ...RPM,
      time: { values: at.map((i) => Date.UTC(2026, 10, 26, 14, 2) / 1000 + 3 + 0.125 * i), within: 1e-3 },
    }),
    shape('milliseconds', [as('time', 'Elapsed', { unit: 'ms', scale: 1e-3, digits: 0 }), speed, moment], {
      ...RPM,
      time: { values: SI.time!, within: 1e-3 },
    }),
    shape(
      'a wish beside the reading',
      [
        speed,
        { name: 'Target torque', unit: 'Nm', digits: 1, values: torque.map((t) => t + 30) },
        moment,
        { name: 'Turbo speed', unit: 'rpm', digits: 0, values: rpm.map((n) => n * 20) },
      ],
      RPM,
    ),
    shape(
      'a pedal beside the throttle',
      [
        speed,
        moment,
        { name: 'Accelerator pedal position', unit: '%', digits: 1, values: at.map(() => 100) },
        metric('throttle', 'Throttle'),
      ],
      { ...RPM, throttle: { values: SI.throttle!, within: 0.06 } },
    ),
    shape(
      'names nobody knows, units that say it',
      [
        as('engineSpeed', 'Channel 1', { unit: 'U/min', scale: 1, digits: 0 }),
        as('torque', 'Channel 2', { unit: 'Nm', scale: 1, digits: 2 }),
      ],
      RPM,
    ),
    shape(
      'two lambda probes',
      [speed, moment, metric('lambda', 'Lambda 1'), metric('lambda', 'Lambda 2')],
      RPM,
    ),
    shape(
      'a throttle of one for full',
      [speed, moment, { name: 'TPS', unit: '', digits: 3, values: at.map(() => 0.996) }],
      {
        ...RPM,
        throttle: { values: SI.throttle!, within: 0.06 },
      },
    ),
    shape(
      'columns of a spreadsheet in another order',
      [
        metric('coolantTemperature', 'Kühlwassertemperatur'),
        moment,
        metric('throttle', 'Gaspedal'),
        speed,
        metric('time', 'Zeit'),
      ],
      {
        ...RPM,
        coolantTemperature: { values: SI.coolantTemperature!, within: 0.06 },
        time: { values: SI.time!, within: 0.001 },
      },
    ),
  ];
}
