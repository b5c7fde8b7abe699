import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { AirError } from '../base/errors.ts';
import type { StationReading } from '../capture/air-file.ts';
import { airAt, FARTHEST_MS } from './station-air.ts';

const MINUTE = 60_000;
const reading = (minute: number, temperatureC: number, percent = 50): StationReading => ({
  at: minute * MINUTE,
  line: minute + 2,
  temperatureC,
  pressureHpa: 1000 + temperatureC,
  pressureKind: 'station',
  humidity: { kind: 'relative', percent },
});
const station = [reading(0, 20, 40), reading(10, 22, 60), reading(60, 30)];
const at = (minute: number) => airAt(station, minute * MINUTE);

describe('air of a pull from the station around it', () => {
  it('lies between the readings in proportion to the time', () => {
    expect(at(2.5)).toEqual({
      reading: {
        temperatureC: 20.5,
        pressureHpa: 1020.5,
        pressureKind: 'station',
        humidity: { kind: 'relative', percent: 45 },
      },
      lines: [2, 12],
      nearestS: 150,
    });
  });
  it('is the reading itself at its moment, and beside the last one for ten minutes', () => {
    expect(at(10)).toMatchObject({ reading: { temperatureC: 22 }, lines: [12], nearestS: 0 });
    expect(at(20)).toMatchObject({ reading: { temperatureC: 22 }, lines: [12], nearestS: 600 });
    expect(at(-10)).toMatchObject({ reading: { temperatureC: 20 }, lines: [2] });
    expect(at(70)).toMatchObject({ reading: { temperatureC: 30 }, lines: [62] });
  });
  it('is not carried further, nor across a pause of the station', () => {
    for (const minute of [-10.1, 20.1, 35, 49.9, 70.1]) {
      expect(() => at(minute)).toThrow(AirError);
      expect(() => at(minute)).toThrow(/minutes away from the pull/);
    }
    expect(() => airAt([], 0)).toThrow('The station has no readings.');
  });
  it('never leaves the readings beside it, and never reaches further than ten minutes', () => {
    const times = fc.uniqueArray(fc.integer({ min: 0, max: 600 }), { minLength: 1, maxLength: 20 });
    fc.assert(
      fc.property(times, fc.double({ min: -30, max: 630, noNaN: true }), (minutes, asked) => {
        const readings = minutes.sort((a, b) => a - b).map((m) => reading(m, 10 + (m % 17)));
        const nearest = Math.min(...readings.map((r) => Math.abs(r.at - asked * MINUTE)));
        if (nearest > FARTHEST_MS) {
          expect(() => airAt(readings, asked * MINUTE)).toThrow(AirError);
          return;
        }
        const { reading: air, lines } = airAt(readings, asked * MINUTE);
        const used = readings.filter((r) => lines.includes(r.line)).map((r) => r.temperatureC);
        expect(air.temperatureC).toBeGreaterThanOrEqual(Math.min(...used) - 1e-9);
        expect(air.temperatureC).toBeLessThanOrEqual(Math.max(...used) + 1e-9);
      }),
    );
  });
});
