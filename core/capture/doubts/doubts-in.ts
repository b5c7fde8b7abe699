/**
 * Doubts about the samples of a sweep: what a lost decimal point, a swallowed row, a dead sensor or a break in the
 * record leaves behind. Nothing is corrected or left out; what is in doubt is said, and judged by where it lies.
 */
import type { Quantity } from '../../base/quantities.ts';
import type { PullFile } from '../pull-file-types.ts';
import { gather } from '../pull-samples.ts';
import type { Sweep } from '../sweep.ts';
import { doubtAt, type Doubt, type SweepReadings } from './doubt.ts';
import { gapsIn } from './gaps.ts';
import { jumpsIn } from './jumps.ts';
import { apartIn } from './power-torque.ts';
import { stuckIn } from './stuck.ts';
import { writtenAs } from './written.ts';

/** Smallest change of engine speed from one sample to the next that can be a jump, rpm. */
const LEAST_JUMP_RPM = 60;

export function doubtsIn(file: PullFile, sweep: Sweep): Doubt[] {
  const readings = readingsOf(file, sweep);
  const { rpm, torque, power, time, columns } = readings;
  const gaps = time ? gapsIn(time, rpm) : [];
  // Where the record breaks off, everything jumps: that is said once.
  const notAtGap = (places: readonly number[]): number[] => places.filter((i) => !gaps.includes(i));
  const [torqueWritten, speedWritten] = [writtenAs(torque), writtenAs(rpm)];
  const ofTorque = jumpsIn(torque, 0, torqueWritten);
  const ofSpeed = jumpsIn(rpm, LEAST_JUMP_RPM, speedWritten);
  const speedJumps = notAtGap([...ofSpeed.outliers, ...ofSpeed.steps].sort((a, b) => a - b));
  const about: readonly (readonly [Doubt['code'], readonly number[], string, Said])[] = [
    ['OUTLIER', ofTorque.outliers, columns.torque, SAID.outlier],
    ['STEP', notAtGap(ofTorque.steps), columns.torque, SAID.step],
    ['SPEED_JUMP', speedJumps, columns.rpm, SAID.speedJump],
    ['STUCK', stuckIn(torque, torqueWritten), columns.torque, SAID.torqueStuck],
    ['STUCK', stuckIn(rpm, speedWritten), columns.rpm, SAID.speedStuck],
    ['TIME_GAP', gaps, columns.rpm, SAID.gap],
    ['POWER_TORQUE_APART', power ? apartIn(power, torque, rpm) : [], columns.power, SAID.apart],
  ];
  return about.flatMap(([code, places, column, said]) =>
    places.length > 0 ? [doubtAt(code, places, readings, column, said)] : [],
  );
}

type Said = (count: string, line: number) => string;
const ONE = 'One sample';
const SAID = {
  outlier: (n, line) =>
    `${n} of torque ${n === ONE ? 'stands' : 'stand'} far off the samples around, first on line ${line}.`,
  step: (_n, line) =>
    `Torque jumps from one sample to the next and does not come back, first on line ${line}.`,
  speedJump: (_n, line) => `Engine speed jumps from one sample to the next, first on line ${line}.`,
  torqueStuck: (n, line) =>
    `${n} of torque in a row do not move while the engine speeds up, first on line ${line}.`,
  speedStuck: (n, line) => `${n} of engine speed in a row do not move, first on line ${line}.`,
  gap: (_n, line) => `The record pauses while the engine speeds up; it goes on at line ${line}.`,
  apart: (n, line) =>
    `${n} ${n === ONE ? 'has' : 'have'} a power that is not torque times speed, first on line ${line}.`,
} satisfies Record<string, Said>;

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
    line: indices.map((i) => file.line[i]),
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
