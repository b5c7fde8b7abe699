import { describe, expect, test } from 'vitest';
import type { TestChannels } from '../../contract/capture/channels.ts';
import { nearestPoint } from './shared-cursor.ts';
import { meanSeconds, timedSweeps } from './sweep-time.ts';

const pull = (label: string, arm: string, time: (number | null)[] | null, excluded = false) => ({
  pullId: label,
  label,
  arm,
  excluded,
  reading: '1',
  channels: time ? { time: { unit: 's', values: time } } : {},
});
const of = (...pulls: ReturnType<typeof pull>[]): TestChannels => ({ rpm: [2000, 2100, 2200, 2300], pulls });

describe('sweeps over time', () => {
  test('every pull sets off where all have passed, so that a late start is no slower car', () => {
    const timed = timedSweeps(
      of(
        pull('p1', 'stock', [0, 1, 2, 3]),
        pull('p2', 'stock', [5, 6, 7, 8.2]),
        pull('p3', 'part', [null, 0, 0.8, 1.6]),
      ),
    )!;
    expect([timed.from, timed.to]).toEqual([1, 3]);
    expect(timed.pulls[1].seconds[1]).toBe(0);
    expect(meanSeconds(timed, 'stock', 3)).toBeCloseTo(2.1, 12);
    expect(meanSeconds(timed, 'part', 3)).toBeCloseTo(1.6, 12);
    expect(meanSeconds(timed, 'part', 0)).toBeNull();
    expect(meanSeconds(timed, 'nobody', 2)).toBeNull();
  });
  test('excluded pulls and pulls without a clock are left out; without any there is no drawing', () => {
    const timed = timedSweeps(
      of(
        pull('p1', 'stock', [0, 1, 2, 3]),
        pull('p2', 'stock', null),
        pull('p3', 'stock', [0, 9, 99, 999], true),
      ),
    )!;
    expect(timed.pulls.map((p) => p.label)).toEqual(['p1']);
    expect(timedSweeps(of(pull('p1', 'stock', null)))).toBeNull();
    expect(
      timedSweeps(of(pull('p1', 'stock', [0, 1, null, null]), pull('p2', 'part', [null, null, 0, 1]))),
    ).toBeNull();
  });
});

describe('the grid point under the cursor', () => {
  test('is the nearest, and none outside the grid', () => {
    const grid = [2000, 2050, 2100];
    expect(nearestPoint(grid, 2076)).toBe(2);
    expect(nearestPoint(grid, 2074)).toBe(1);
    expect(nearestPoint(grid, 1990)).toBe(0);
    expect(nearestPoint(grid, 1960)).toBeNull();
    expect(nearestPoint(grid, 2140)).toBeNull();
    expect(nearestPoint(grid, null)).toBeNull();
  });
});
