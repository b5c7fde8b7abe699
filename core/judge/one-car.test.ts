import { describe, expect, it } from 'vitest';
import { told } from './finding.ts';
import { maybeOneCar, oneCarFindings } from './one-car.ts';

const car = (tag: string, odometerKm: number) => ({ tag, odometerKm });

describe('one car under two tags', () => {
  it('is asked for where two have run as far as each other, whatever stands between them in the list', () => {
    const pairs = maybeOneCar([car('SV-1', 44_900), car('SV-2', 90_000), car('SV-3', 45_399)]);
    expect(pairs.map((pair) => pair.map(({ tag }) => tag))).toEqual([['SV-1', 'SV-3']]);
  });
  it('is not asked for of new cars, of cars further apart, nor of a car and itself', () => {
    expect(oneCarFindings([car('SV-1', 10), car('SV-2', 12)])).toEqual([]);
    expect(oneCarFindings([car('SV-1', 44_900), car('SV-2', 45_400)])).toEqual([]);
    expect(oneCarFindings([car('SV-1', 44_900), car('SV-1', 44_900)])).toEqual([]);
  });
  it('names both with what they have run', () => {
    const [finding] = oneCarFindings([car('SV-1', 44_900), car('SV-2', 45_100)]).map((f) => told(f));
    expect(finding).toMatchObject({ gate: 'every test counts', state: 'caution', code: 'MAYBE_ONE_CAR' });
    expect(finding.message).toMatch(/SV-1 and SV-2 .*44.900 km, 45.100 km/);
  });
});
