import { describe, expect, it, test } from 'vitest';
import { readAirFile } from '../air-file.ts';
import { readPullFile } from '../pull-file.ts';
import type { Quantity } from '../../base/quantities.ts';
import { airCorpus } from './air-corpus.ts';
import { pullCorpus } from './pull-corpus.ts';

const furthest = (found: ArrayLike<number>, wanted: readonly number[]): number =>
  Math.max(...wanted.map((v, i) => (Number.isNaN(found[i]) ? Infinity : Math.abs(found[i] - v))));

describe('files as operators of several countries send them are read right', () => {
  it('they are more than eighty, and no two alike', () => {
    const names = [...pullCorpus(), ...airCorpus()].map((f) => f.name);
    expect(names.length).toBeGreaterThanOrEqual(80);
    expect(new Set(names).size).toBe(names.length);
  });
  test.each(pullCorpus().map((f) => [f.name, f] as const))('pull file, %s', (_name, file) => {
    const read = readPullFile(file.bytes, file.options);
    expect(read.samples).toBe(file.torque.values.length);
    expect(furthest(read.torqueNm, file.torque.values)).toBeLessThan(file.torque.within);
    for (const [quantity, { values, within }] of Object.entries(file.expected)) {
      const channel = read.channels[quantity as Quantity];
      expect(channel, quantity).toBeDefined();
      expect(furthest(channel!, values), quantity).toBeLessThan(within);
    }
  });
  test.each(airCorpus().map((f) => [f.name, f] as const))('air file, %s', (_name, file) => {
    const read = readAirFile(file.bytes, file.options);
    expect(read.pressureKind).toBe(file.pressureKind);
    expect(read.readings).toHaveLength(file.expected.length);
    read.readings.forEach((reading, i) => {
      const wanted = file.expected[i];
      expect(reading.at).toBe(wanted.at);
      expect(reading.temperatureC).toBeCloseTo(wanted.temperatureC, 1);
      expect(reading.pressureHpa).toBeCloseTo(wanted.pressureHpa, 1);
      expect(reading.humidity.kind).toBe(wanted.humidity.kind);
      const [found, right] = [reading.humidity, wanted.humidity].map((h) =>
        h.kind === 'relative' ? h.percent : h.temperatureC,
      );
      expect(found).toBeCloseTo(right, 1);
    });
  });
});
