import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import '../__tests__/rendered.tsx';
import type { Units } from '../base/format.ts';
import { AIR_COLUMNS, requestOf, stored } from './use-air-draft.ts';

const METRIC: Units = {
  power: { unit: 'kW', of: (v) => v },
  torque: { unit: 'N·m', of: (v) => v },
  temperature: { unit: '°C', of: (c) => c, toC: (v) => v },
  pressure: { unit: 'hPa', of: (v) => v, toHpa: (v) => v, digits: 1 },
};
/** Fahrenheit and inches of mercury at 0 °C (3386.389 Pa, NIST SP 811 table of conversion factors; from memory). */
const OTHER: Units = {
  ...METRIC,
  temperature: { unit: '°F', of: (c) => c * 1.8 + 32, toC: (v) => (v - 32) / 1.8 },
  pressure: { unit: 'inHg', of: (v) => v / 33.86389, toHpa: (v) => v * 33.86389, digits: 2 },
};
const KINDS = { pressureKind: 'station', humidityKind: 'relative' } as const;
const reading = {
  temperatureC: 21.4,
  pressureHpa: 1004.2,
  pressureKind: 'station',
  humidityKind: 'relative',
  humidityValue: 48,
  enteredAt: '',
  enteredBy: '',
} as const;

describe('a reading as it is typed', () => {
  it('is sent in °C and hPa, whatever the person reads in', () => {
    expect(requestOf(['21.4', '1004.2', '48'], KINDS, METRIC)).toEqual({
      ...KINDS,
      temperatureC: 21.4,
      pressureHpa: 1004.2,
      humidityValue: 48,
    });
    const other = requestOf(['70.5', '29.65', '48'], KINDS, OTHER)!;
    expect(other.temperatureC).toBeCloseTo(21.39, 2);
    expect(other.pressureHpa).toBeCloseTo(1004.06, 1);
    expect(other.humidityValue).toBe(48);
  });
  it('takes a decimal comma, and blanks around', () => {
    expect(requestOf([' 21,4', '1004,2 ', '48'], KINDS, METRIC)).toMatchObject({
      temperatureC: 21.4,
      pressureHpa: 1004.2,
    });
  });
  it.each([
    ['', '1004', '48'],
    ['21', '', '48'],
    ['21', '1004', 'damp'],
    ['21', '1 004', '48'],
  ])('%j is no reading', (...cells) => expect(requestOf(cells, KINDS, METRIC)).toBeUndefined());
  it('a dew point is a temperature, a relative humidity is not', () => {
    const dew = { pressureKind: 'station', humidityKind: 'dew point' } as const;
    expect(requestOf(['70', '29.6', '50'], dew, OTHER)!.humidityValue).toBeCloseTo(10, 6);
    expect(requestOf(['70', '29.6', '50'], KINDS, OTHER)!.humidityValue).toBe(50);
  });
});

describe('a stored reading in the cells', () => {
  it('reads in the units of the person', () => {
    expect(AIR_COLUMNS.map((column) => stored(reading, column, METRIC))).toEqual(['21.4', '1004.2', '48']);
    expect(AIR_COLUMNS.map((column) => stored(reading, column, OTHER))).toEqual(['70.52', '29.654', '48']);
  });
  it('sent again as it stands it is the same, to what the cells show', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -30, max: 50, noNaN: true }),
        fc.double({ min: 700, max: 1080, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        fc.constantFrom(METRIC, OTHER),
        (temperatureC, pressureHpa, humidityValue, units) => {
          const air = { ...reading, temperatureC, pressureHpa, humidityValue };
          const again = requestOf(
            AIR_COLUMNS.map((column) => stored(air, column, units)),
            KINDS,
            units,
          )!;
          return (
            Math.abs(again.temperatureC - temperatureC) <= 0.0051 &&
            Math.abs(again.pressureHpa - pressureHpa) <= 0.018 &&
            Math.abs(again.humidityValue - humidityValue) <= 0.0051
          );
        },
      ),
    );
  });
});
