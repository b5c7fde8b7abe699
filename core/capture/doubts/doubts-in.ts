/**
 * Doubts about the samples of a sweep: what a lost decimal point, a swallowed row, a dead sensor or a break in the
 * record leaves behind. Nothing is corrected or left out; what is in doubt is said, and judged by where it lies.
 */
import type { Quantity } from '../columns.ts';
import type { PullFile } from '../pull-file-types.ts';
import { gather } from '../pull-samples.ts';
import type { Sweep } from '../sweep.ts';
import { doubtAt, type Doubt, type SweepReadings } from './doubt.ts';
import { gapsIn } from './gaps.ts';
import { jumpsIn } from './jumps.ts';
import { apartIn } from './power-torque.ts';
import { stuckIn } from './stuck.ts';

/** Smallest change of engine speed from one sample to the next that can be a jump, rpm. */
const LEAST_JUMP_RPM = 60;

export function doubtsIn(file: PullFile, sweep: Sweep): Doubt[] {
  const readings = readingsOf(file, sweep);
  const { rpm, torque, power, time, columns } = readings;
  const at = (
    code: Doubt['code'],
    places: readonly number[],
    column: string,
    message: (count: string, line: number) => string,
  ): Doubt[] => (places.length > 0 ? [doubtAt(code, places, readings, column, message)] : []);
  const gaps = time ? gapsIn(time, rpm) : [];
  const ofTorque = jumpsIn(torque, 0);
  const ofSpeed = jumpsIn(rpm, LEAST_JUMP_RPM);
  // Where the record breaks off, everything jumps: that is said once.
  const notAtGap = (places: readonly number[]): number[] => places.filter((i) => !gaps.includes(i));
  return [
    ...at(
      'OUTLIER',
      ofTorque.outliers,
      columns.torque,
      (n, line) =>
        `${n} of torque ${n === 'One sample' ? 'stands' : 'stand'} far off the samples around, first on line ${line}.`,
    ),
    ...at(
      'STEP',
      notAtGap(ofTorque.steps),
      columns.torque,
      (_n, line) => `Torque jumps from one sample to the next and does not come back, first on line ${line}.`,
    ),
    ...at(
      'SPEED_JUMP',
      notAtGap([...ofSpeed.outliers, ...ofSpeed.steps].sort((a, b) => a - b)),
      columns.rpm,
      (_n, line) => `Engine speed jumps from one sample to the next, first on line ${line}.`,
    ),
    ...at(
      'STUCK',
      stuckIn(torque),
      columns.torque,
      (n, line) => `${n} of torque in a row do not move while the engine speeds up, first on line ${line}.`,
    ),
    ...at(
      'STUCK',
      stuckIn(rpm),
      columns.rpm,
      (n, line) => `${n} of engine speed in a row do not move, first on line ${line}.`,
    ),
    ...at(
      'TIME_GAP',
      gaps,
      columns.rpm,
      (_n, line) => `The record pauses while the engine speeds up; it goes on at line ${line}.`,
    ),
    ...(power
      ? at(
          'POWER_TORQUE_APART',
          apartIn(power, torque, rpm),
          columns.power,
          (n, line) =>
            `${n} ${n === 'One sample' ? 'has' : 'have'} a power that is not torque times speed, first on line ${line}.`,
        )
      : []),
  ];
}

const headerOf = (file: PullFile, quantity: Quantity): string =>
  file.columns.find((column) => column.quantity === quantity)?.header ?? '';

function readingsOf(file: PullFile, { indices }: Sweep): SweepReadings {
  const pick = (values: Float64Array): Float64Array => gather(values, indices);
  const { power, time, engineSpeed } = file.channels;
  return {
    rpm: pick(file.rpm),
    torque: pick(file.torqueNm),
    power: file.torqueFrom === 'torque' && power ? pick(power) : undefined,
    time: time && pick(time),
    line: Int32Array.from(indices, (i) => file.line[i]),
    columns: {
      rpm: headerOf(file, engineSpeed ? 'engineSpeed' : 'vehicleSpeed'),
      torque: headerOf(
        file,
        file.torqueFrom === 'torque' ? 'torque' : file.torqueFrom === 'power' ? 'power' : 'rollerForce',
      ),
      power: headerOf(file, 'power'),
    },
  };
}
