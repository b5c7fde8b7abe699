import { describe, expect, it } from 'vitest';
import type { TestChannels } from '../../contract/capture/channels.ts';
import '../__tests__/rendered.tsx';
import { unitsFor } from '../base/format.ts';
import { armMeans, drawnChannels } from './log-drawing.ts';

const METRIC = unitsFor({ power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'hPa' });
const OTHER = unitsFor({ power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi' });
const pull = (
  label: string,
  arm: string,
  oil: (number | null)[],
  excluded = false,
): TestChannels['pulls'][number] => ({
  pullId: label,
  label,
  arm,
  excluded,
  reading: '1',
  channels: {
    oilTemperature: { unit: '°C', values: oil },
    manifoldPressure: { unit: 'Pa', values: [100_000, 101_000] },
    torque: { unit: 'N·m', values: [1, 2] },
  },
});
const data: TestChannels = {
  rpm: [2000, 2100],
  pulls: [
    pull('p1', 'stock', [90, 92]),
    pull('p2', 'stock', [94, null]),
    pull('p3', 'part', [null, 100]),
    pull('p4', 'part', [300, 300], true),
  ],
};

describe('channels as they are drawn', () => {
  it('in the units of the person, without excluded pulls, torque left to its own page', () => {
    const [pressure, oil] = drawnChannels(data, METRIC);
    expect([pressure.name, pressure.unit, pressure.pulls[0].values]).toEqual([
      'manifold pressure',
      'hPa',
      [1000, 1010],
    ]);
    expect(oil.pulls.map((p) => p.label)).toEqual(['p1', 'p2', 'p3']);
    expect(oil.high).toBeLessThan(110);
    const [psi, degrees] = drawnChannels(data, OTHER);
    expect(psi.pulls[0].values[0]).toBeCloseTo(14.5038, 3);
    expect(degrees.pulls[0].values).toEqual([194, expect.closeTo(197.6, 9)]);
  });
  it('the read-out is the mean of each arm at that speed, or says that there is none', () => {
    const oil = drawnChannels(data, METRIC)[1];
    expect([...armMeans(oil, 0)]).toEqual([
      ['stock', 92],
      ['part', null],
    ]);
    expect([...armMeans(oil, 1)]).toEqual([
      ['stock', 92],
      ['part', 100],
    ]);
  });
  it('a channel at rest is drawn flat', () => {
    const still: TestChannels = { rpm: [1, 2], pulls: [pull('p1', 'stock', [90, 90.001])] };
    const oil = drawnChannels(still, METRIC)[1];
    expect(oil.high - oil.low).toBeGreaterThan(3);
  });
});
