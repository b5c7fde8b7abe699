import type { DeviceChannel, DeviceMessage } from '../../contract/capture/device-protocol.ts';
import { channelOf } from '../../core/capture/session/channel-meaning.ts';

type Sample = Extract<DeviceMessage, { type: 'sample' }>;

/** Stretches of numbers below a count that are neither kept nor lost. */
export function missingRanges(
  count: number,
  have: ReadonlySet<number>,
  lost: ReadonlySet<number>,
): { from: number; to: number }[] {
  const ranges: { from: number; to: number }[] = [];
  for (let n = 0; n < count; n++) {
    if (have.has(n) || lost.has(n)) continue;
    const last = ranges.at(-1);
    if (last && last.to === n - 1) last.to = n;
    else ranges.push({ from: n, to: n });
  }
  return ranges;
}

const places = new WeakMap<readonly DeviceChannel[], readonly number[]>();
/** Time, engine speed and torque of a line, for who watches; null where a dyno has no such channel. */
export function speedTorqueOf(channels: readonly DeviceChannel[], line: string): (number | null)[] {
  let at = places.get(channels);
  if (!at) {
    at = (['time', 'engineSpeed', 'torque'] as const).map((quantity) => channelOf(channels, quantity));
    places.set(channels, at);
  }
  const { values } = JSON.parse(line) as Sample;
  return at.map((index) => (index < 0 ? null : (values[index] ?? null)));
}

/** Numbers of the samples in some lines. */
export const numbersIn = (lines: readonly string[] = []): number[] =>
  lines.map((line) => (JSON.parse(line) as Sample).n);
