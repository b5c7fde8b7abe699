import { describe, expect, it } from 'vitest';
import { pullCorpus } from '../capture/corpus/pull-corpus.ts';
import { readPullFile } from '../capture/pull-file.ts';
import { findSweep } from '../capture/sweep.ts';
import { channelCurves, channelUnit } from './channel-curves.ts';
import { curveReader, rpmGrid } from './torque-curve.ts';

const file = readPullFile(pullCorpus()[0].bytes, { fuel: 'petrol' });
const sweep = findSweep({ timeS: file.channels.time, rpm: file.rpm });
const curves = (fromRpm: number, toRpm: number) =>
  channelCurves(file.channels, curveReader(file.rpm, sweep, rpmGrid(fromRpm, toRpm, 100), 100));

describe('channels of a log on the grid', () => {
  it('a channel that is straight over engine speed is read back at every grid point', () => {
    const { channels, rpm } = file;
    const straight = { ...channels, throttle: rpm.map((n) => 10 + n / 500) };
    const grid = rpmGrid(3000, 5500, 100);
    const { throttle } = channelCurves(straight, curveReader(rpm, sweep, grid, 100));
    throttle!.forEach((v, i) => expect(v).toBeCloseTo(10 + grid[i] / 500, 9));
  });
  it('every channel of the file is there but the engine speed it is drawn over', () => {
    const there = Object.keys(file.channels).filter((q) => q !== 'engineSpeed');
    expect(Object.keys(curves(3000, 5500)).sort()).toEqual(there.sort());
  });
  it('nothing is made up beyond the sweep, or where a reading is missing', () => {
    const wide = curves(1000, 9000).torque!;
    expect(wide[0]).toBeNull();
    expect(wide.at(-1)).toBeNull();
    const dead = { lambda: file.rpm.map((n) => (n > 4000 ? NaN : 0.9)) };
    const grid = rpmGrid(3000, 5500, 100);
    const { lambda } = channelCurves(dead, curveReader(file.rpm, sweep, grid, 100));
    expect(lambda![0]).toBeCloseTo(0.9, 9);
    expect(lambda!.at(-1)).toBeNull();
  });
  it('is in the units of the core', () => {
    expect(channelUnit('lambda')).toBe('λ');
    expect(channelUnit('manifoldPressure')).toBe('Pa');
    expect(channelUnit('throttle')).toBe('%');
    expect(channelUnit('massAirFlow')).toBe('kg/s');
  });
});
