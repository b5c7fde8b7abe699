import { describe, expect, it, test } from 'vitest';
import { BOOSTED_SCHOOLS, STANDARDS, type BoostedSchool, type Engine } from '../base/standards.ts';
import { airState, type AirState } from './air.ts';
import { appliedFactor, correctionFactor, engineFactor } from './standards.ts';

const ratio = (a: number, b: number): number => Math.abs(a / b - 1);
const petrol: Engine = { ignition: 'spark', aspiration: 'natural' };
const diesel: Engine = {
  ignition: 'compression',
  aspiration: 'turbo-intercooled',
  fuelMgPerLitreCycle: 100,
  boostRatio: 2,
};
/** Air given by its dry pressure, vapour added on top. */
const air = (dryHpa: number, temperatureC: number, vapourHpa = 0): AirState => ({
  ...airState({ temperatureC, pressureHpa: dryHpa + vapourHpa, humidity: { kind: 'relative', percent: 0 } }),
  dryPressurePa: dryHpa * 100,
  vapourPressurePa: vapourHpa * 100,
});
const factor = (standard: (typeof STANDARDS)[number], state: AirState, engine = petrol): number =>
  correctionFactor(standard, state, engine).factor;

describe('each standard is one at its own reference', () => {
  test.each([
    ['sae-j1349', air(990, 25)],
    ['iso-1585', air(990, 25)],
    ['jis-d1001', air(990, 25)],
    ['din-70020', air(1013, 20)],
    ['sae-j607', air(29.92 * 33.86389, 288.705556 - 273.15)],
    ['none', air(950, 33)],
  ] as const)('%s', (standard, state) => expect(ratio(factor(standard, state), 1)).toBeLessThan(1e-12));
  it('compression ignition too, whatever the engine factor', () =>
    expect(ratio(factor('iso-1585', air(990, 25), diesel), 1)).toBeLessThan(1e-12));
});

describe('away from the reference', () => {
  it('SAE J607 over SAE J1349 at 25 °C and 990 hPa dry is about 4 % (common practice)', () =>
    expect(Math.abs(factor('sae-j607', air(990, 25)) - 1.04)).toBeLessThan(0.0015));
  it('SAE J1349: 1.176·(990/940)·√(308.15/298.15) − 0.176, by hand', () =>
    expect(ratio(factor('sae-j1349', air(940, 35)), 1.176 * 1.0531914894 * 1.0166313 - 0.176)).toBeLessThan(
      1e-6,
    ));
  it('ISO 1585 pressure term: 1.1^1.2 by logarithms', () =>
    expect(ratio(factor('iso-1585', air(900, 25)), 1.1211693)).toBeLessThan(1e-6));
  it('ISO 1585 temperature term: (313.15/298.15)^0.6 by logarithms', () =>
    expect(ratio(factor('iso-1585', air(990, 40)), Math.exp(0.6 * Math.log(313.15 / 298.15)))).toBeLessThan(
      1e-12,
    ));
  it('DIN 70020 uses total pressure, the others dry', () => {
    const wet = air(980, 20, 20);
    expect(ratio(factor('din-70020', wet), 1013 / 1000)).toBeLessThan(1e-12);
    expect(factor('sae-j607', wet)).toBeGreaterThan(factor('din-70020', wet));
  });
  it('turbo diesel: fa^fm with fm from the fuel per litre and cycle', () => {
    const fa = (990 / 950) ** 0.7 * (303.15 / 298.15) ** 1.5;
    expect(ratio(factor('iso-1585', air(950, 30), diesel), fa ** (0.036 * 50 - 1.14))).toBeLessThan(1e-12);
  });
  it('the engine factor is held at 0.3 below 40 and 1.2 above 65 mg/(L·cycle)', () => {
    expect(engineFactor(39.9)).toBe(0.3);
    expect(engineFactor(65.1)).toBe(1.2);
    expect(ratio(engineFactor(50), 0.66)).toBeLessThan(1e-12);
  });
});

describe('range checks', () => {
  const codes = (standard: (typeof STANDARDS)[number], state: AirState, engine = petrol): string[] =>
    correctionFactor(standard, state, engine).remarks.map((r) => r.code);
  it('passes inside', () => expect(codes('sae-j1349', air(990, 24))).toEqual([]));
  it('names temperature, pressure and factor outside', () => {
    expect(codes('sae-j1349', air(990, 12))).toEqual(['TEMPERATURE_OUT_OF_RANGE']);
    expect(codes('sae-j1349', air(880, 25))).toEqual(['PRESSURE_OUT_OF_RANGE', 'FACTOR_OUT_OF_RANGE']);
    expect(codes('iso-1585', air(880, 25))).toEqual(['FACTOR_OUT_OF_RANGE']);
  });
  it('says when a diesel’s fuel rate is not known', () =>
    expect(codes('iso-1585', air(990, 24), { ignition: 'compression', aspiration: 'turbo' })).toEqual([
      'FUEL_RATE_UNKNOWN',
    ]));
  it('refuses JIS D 1001 for a diesel', () =>
    expect(() => factor('jis-d1001', air(990, 25), diesel)).toThrow(/spark ignition only/));
});

describe('undoing what the dyno applied', () => {
  it('takes the stated factor', () =>
    expect(appliedFactor({ standard: 'sae-j607', factor: 1.032 }, air(960, 20), petrol)).toBe(1.032));
  it('else works it out from the standard and the dyno’s own air', () =>
    expect(appliedFactor({ standard: 'din-70020', air: air(1000, 20) }, air(900, 30), petrol)).toBe(
      factor('din-70020', air(1000, 20)),
    ));
  it('refuses a factor that cannot be one', () =>
    expect(() => appliedFactor({ standard: 'none', factor: 103.2 }, air(990, 25), petrol)).toThrow(/near 1/));
});

describe('schools of boosted engines', () => {
  const turbo: Engine = { ignition: 'spark', aspiration: 'turbo' };
  const hot = air(930, 35);
  const by = (
    standard: (typeof STANDARDS)[number],
    school: BoostedSchool,
    engine = turbo,
    state = hot,
  ): number => correctionFactor(standard, state, engine, school).factor;
  test.each([
    ['sae-j1349', 1.176 * Math.sqrt(308.15 / 298.15) - 0.176],
    ['sae-j607', Math.sqrt(308.15 / 288.705556)],
    ['din-70020', Math.sqrt(308.15 / 293.15)],
    ['iso-1585', (308.15 / 298.15) ** 0.6],
  ] as const)('for temperature only, %s takes the pressure for its own', (standard, wanted) => {
    expect(ratio(by(standard, 'temperature only'), wanted)).toBeLessThan(1e-12);
    expect(by(standard, 'temperature only', turbo, air(1020, 35))).toBe(by(standard, 'temperature only'));
  });
  it('a diesel for temperature only: (T/298.15)^1.5 to the engine factor', () =>
    expect(ratio(by('iso-1585', 'temperature only', diesel), (308.15 / 298.15) ** (1.5 * 0.66))).toBeLessThan(
      1e-12,
    ));
  it('not corrected is one, and is still named by its standard', () => {
    expect(correctionFactor('sae-j1349', hot, turbo, 'do not correct')).toMatchObject({
      factor: 1,
      standard: 'sae-j1349',
      remarks: [],
    });
  });
  it('do not touch a naturally aspirated engine', () => {
    for (const school of BOOSTED_SCHOOLS)
      for (const standard of STANDARDS)
        expect(by(standard, school, petrol)).toBe(factor(standard, hot, petrol));
  });
});
