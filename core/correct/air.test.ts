import psychrolib from 'psychrolib';
import { describe, expect, it, test } from 'vitest';
import { AirError } from '../base/errors.ts';
import { airState, densityAltitudeM, moistAirDensity, stationPressurePa } from './air.ts';
import { dewPointC, saturationPressurePa, vapourPressurePa } from './vapour-pressure.ts';

const ratio = (a: number, b: number): number => Math.abs(a / b - 1);

describe('saturation vapour pressure', () => {
  test.each([
    [300, 3536.58941],
    [500, 2638897.76],
    [600, 12344314.6],
  ])('IAPWS R7-97(2012) Table 35 (from memory) at %d K', (kelvin, pascal) =>
    expect(ratio(saturationPressurePa(kelvin - 273.15), pascal)).toBeLessThan(5e-9),
  );
  it('agrees with psychrolib (ASHRAE Fundamentals 2017, ch. 1) within 0.02 % from 1 to 45 °C', () => {
    psychrolib.SetUnitSystem(psychrolib.SI);
    for (let t = 1; t <= 45; t += 2)
      expect(ratio(saturationPressurePa(t), psychrolib.GetSatVapPres(t))).toBeLessThan(2e-4);
  });
  it('joins over water without a step at 0 °C', () =>
    expect(ratio(saturationPressurePa(-1e-9), saturationPressurePa(0))).toBeLessThan(1e-3));
});

describe('vapour pressure', () => {
  it('is half the saturation pressure at 50 %', () =>
    expect(vapourPressurePa({ kind: 'relative', percent: 50 }, 26.85, 1e5)).toBeCloseTo(3536.58941 / 2, 3));
  it('by dew point is saturation at that point, and inverts', () => {
    const e = vapourPressurePa({ kind: 'dew point', temperatureC: 12 }, 25, 1e5);
    expect(dewPointC(e)).toBeCloseTo(12, 8);
  });
  it('by wet bulb agrees with psychrolib within 1.5 % of vapour pressure at 25 °C over 18 °C', () => {
    psychrolib.SetUnitSystem(psychrolib.SI);
    const rh = psychrolib.GetRelHumFromTWetBulb(25, 18, 101325);
    expect(
      ratio(
        vapourPressurePa({ kind: 'wet bulb', temperatureC: 18 }, 25, 101325),
        rh * saturationPressurePa(25),
      ),
    ).toBeLessThan(0.015);
  });
});

describe('ISA (ICAO Doc 7488/3 table values, from memory)', () => {
  test.each([
    [1000, 89874.6, 1.11164],
    [2000, 79495.2, 1.00649],
    [3000, 70108.5, 0.909122],
  ])('at %d m', (height, pascal, density) => {
    expect(ratio(stationPressurePa(101325, height), pascal)).toBeLessThan(2e-4); // the tables use geopotential height
    expect(Math.abs(densityAltitudeM(density) - height)).toBeLessThan(3);
  });
  it('is zero at the sea-level density', () => expect(Math.abs(densityAltitudeM(1.225))).toBeLessThan(1e-9));
  it('has 1.225 kg/m³ in dry air at 15 °C and 1013.25 hPa', () =>
    expect(ratio(moistAirDensity(101325, 0, 288.15), 1.225)).toBeLessThan(1e-5));
});

test('moist air density agrees with psychrolib within 0.1 %', () => {
  psychrolib.SetUnitSystem(psychrolib.SI);
  const w = psychrolib.GetHumRatioFromRelHum(25, 0.6, 98000);
  const state = airState({ temperatureC: 25, pressureHpa: 980, humidity: { kind: 'relative', percent: 60 } });
  expect(ratio(state.densityKgM3, psychrolib.GetMoistAirDensity(25, w, 98000))).toBeLessThan(1e-3);
});

test('sea-level pressure is reduced to the site before it is used', () => {
  const state = airState({
    temperatureC: 15,
    pressureHpa: 1013.25,
    pressureKind: 'sea level',
    siteHeightM: 900,
    humidity: { kind: 'relative', percent: 0 },
  });
  expect(ratio(state.pressurePa, 90970.6)).toBeLessThan(1e-3); // ISA at 900 m
});

test.each([
  [
    'a barometer in kPa',
    { temperatureC: 20, pressureHpa: 100.4, humidity: { kind: 'relative', percent: 50 } },
    'pressureHpa',
  ],
  [
    'a barometer in inHg',
    { temperatureC: 20, pressureHpa: 29.9, humidity: { kind: 'relative', percent: 50 } },
    'pressureHpa',
  ],
  [
    'a thermometer in °F',
    { temperatureC: 71, pressureHpa: 1004, humidity: { kind: 'relative', percent: 50 } },
    'temperatureC',
  ],
  [
    'a dead sensor',
    { temperatureC: NaN, pressureHpa: 1004, humidity: { kind: 'relative', percent: 50 } },
    'temperatureC',
  ],
  [
    'humidity above saturation',
    { temperatureC: 20, pressureHpa: 1004, humidity: { kind: 'relative', percent: 130 } },
    'percent',
  ],
  [
    'a dew point above the air',
    { temperatureC: 20, pressureHpa: 1004, humidity: { kind: 'dew point', temperatureC: 24 } },
    'humidity',
  ],
] as const)('refuses %s', (_slip, reading, quantity) => {
  expect(() => airState(reading)).toThrow(AirError);
  try {
    airState(reading);
  } catch (error) {
    expect((error as AirError).details).toMatchObject({ quantity });
  }
});
test('refuses sea-level pressure without a height', () =>
  expect(() =>
    airState({
      temperatureC: 20,
      pressureHpa: 1004,
      pressureKind: 'sea level',
      humidity: { kind: 'relative', percent: 50 },
    }),
  ).toThrow(/height of the site/));
