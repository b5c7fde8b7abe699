import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factorDifference } from './factor-difference.ts';

const petrol = { ignition: 'spark', aspiration: 'natural' } as const;
const diesel = { ignition: 'compression', aspiration: 'turbo', fuelMgPerLitreCycle: 50 } as const;
const reading = (temperatureC: number, pressureHpa: number, percent = 40) => ({
  temperatureC,
  pressureHpa,
  humidity: { kind: 'relative', percent } as const,
});
const arms = (stock: ReturnType<typeof reading>, part: ReturnType<typeof reading>) => [
  { weight: -0.5, reading: stock },
  { weight: -0.5, reading: stock },
  { weight: 1, reading: part },
];
const by = (
  standard: 'din-70020' | 'sae-j1349' | 'none',
  engine = petrol as typeof petrol | typeof diesel,
) => ({
  standard,
  engine,
  school: 'correct' as const,
});

describe('what correcting for air leaves open', () => {
  it('DIN 70020 by hand: ½ ln(T2/T1) − ln(p2/p1), and offsets by the difference of its derivatives', () => {
    const [t1, t2, p1, p2] = [18, 27, 1004, 998];
    const known = { temperature: 0.5, pressure: 1 };
    const left = factorDifference(arms(reading(t1, p1), reading(t2, p2)), by('din-70020'), known);
    const [k1, k2] = [t1 + 273.15, t2 + 273.15];
    expect(left.difference).toBeCloseTo(100 * (Math.log(k2 / k1) / 2 - Math.log(p2 / p1)), 9);
    const ofT = (0.5 * 100 * (1 / k2 - 1 / k1)) / 2;
    const ofP = 1 * 100 * (1 / p1 - 1 / p2);
    expect(left.sensors).toBeCloseTo(Math.hypot(ofT, ofP), 6);
    expect(left.betweenStandards).toBeCloseTo((left.most - left.least) / Math.sqrt(12), 12);
    expect(left.least).toBe(left.difference);
    expect(left.most).toBeGreaterThan(left.difference);
  });
  it('what both arms share cancels: the same air leaves nothing open, whatever the sensors', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 38, noNaN: true }),
        fc.double({ min: 880, max: 1040, noNaN: true }),
        (t, p) => {
          const known = { temperature: 2, pressure: 5, humidity: 5 };
          const left = factorDifference(arms(reading(t, p), reading(t, p)), by('sae-j1349'), known);
          expect(Math.abs(left.difference)).toBeLessThan(1e-9);
          expect(left.betweenStandards).toBeLessThan(1e-9);
          expect(left.sensors!).toBeLessThan(1e-9);
        },
      ),
    );
  });
  it('without correction the rule is as uncertain as what it leaves in', () => {
    const [cold, hot] = [reading(12, 1000), reading(34, 1000)];
    const none = factorDifference(arms(cold, hot), by('none'), {});
    const sae = factorDifference(arms(cold, hot), by('sae-j1349'), {});
    expect(none.difference).toBe(0);
    expect(none.betweenStandards).toBeGreaterThan(2 * sae.betweenStandards);
    expect(none.sensors).toBeNull();
  });
  it('a boosted engine that the house does not correct is no better known for it', () => {
    const turbo = { ignition: 'spark', aspiration: 'turbo' } as const;
    const pulls = arms(reading(12, 1000), reading(34, 1000));
    const how = { standard: 'sae-j1349', engine: turbo } as const;
    const left = factorDifference(pulls, { ...how, school: 'do not correct' }, { temperature: 1 });
    expect(left.difference).toBe(0);
    const corrected = factorDifference(pulls, { ...how, school: 'correct' }, {});
    expect(left.most).toBeCloseTo(corrected.most, 12);
    expect(left.betweenStandards).toBeGreaterThan(corrected.betweenStandards);
  });
  it('a standard that does not cover the engine says nothing; a dew point is no reading of a hygrometer in per cent', () => {
    const pulls = arms(reading(15, 1000), reading(30, 990));
    expect(factorDifference(pulls, by('sae-j1349', diesel), {}).most).toBeGreaterThan(0);
    const dew = pulls.map((p) => ({
      ...p,
      reading: { ...p.reading, humidity: { kind: 'dew point', temperatureC: 6 } as const },
    }));
    expect(factorDifference(dew, by('sae-j1349'), { humidity: 3 }).sensors).toBeNull();
  });
});
