import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  afrFromLambda,
  lambdaFromAfr,
  lp,
  NM_PER_LBFT,
  pctFromLp,
  powerW,
  toInternal,
  torqueNm,
  UNITS,
  WATTS_PER_HP,
} from './units.ts';

const ratio = (a: number, b: number): number => Math.abs(a / b - 1);

test.each([
  ['BIPM/NIST SP 811: 1 hp (550 ft·lbf/s) = 745.6999 W', UNITS.hp, 1, 745.6999, 1e-7],
  ['NIST SP 811: 1 metric horsepower = 735.4988 W', UNITS.PS, 1, 735.4988, 1e-7],
  ['NIST SP 811: 1 lbf·ft = 1.355818 N·m', UNITS['lb·ft'], 1, 1.355818, 1e-6],
  ['NIST SP 811: 1 psi = 6894.757 Pa', UNITS.psi, 1, 6894.757, 1e-7],
  ['NIST SP 811: 1 inHg (0 °C) = 3386.38 Pa', UNITS.inHg, 1, 3386.38, 1e-5],
  ['NIST SP 811: 212 °F = 100 °C', UNITS['°F'], 212, 100, 1e-12],
  ['definition: 60 mph = 26.8224 m/s', UNITS.mph, 60, 26.8224, 1e-12],
])('%s', (_source, unit, value, expected, tolerance) =>
  expect(ratio(toInternal(value, unit), expected)).toBeLessThan(tolerance),
);

test('hp = lbf·ft × rpm / 5252.113, from the factors above', () =>
  expect(ratio(powerW(NM_PER_LBFT, 5252.113122) / WATTS_PER_HP, 1)).toBeLessThan(1e-9));
test('kW = N·m × rpm / 9549.2966', () => expect(ratio(powerW(1, 9549.296585) / 1000, 1)).toBeLessThan(1e-9));
test('torque and power undo each other at every rpm', () =>
  fc.assert(
    fc.property(
      fc.double({ min: 1, max: 2000, noNaN: true }),
      fc.double({ min: 500, max: 12000, noNaN: true }),
      (t, n) => ratio(torqueNm(powerW(t, n), n), t) < 1e-12,
    ),
  ));
test('per cent of an lp difference is the ratio it came from', () =>
  fc.assert(
    fc.property(
      fc.double({ min: 10, max: 500, noNaN: true }),
      fc.double({ min: 0.7, max: 1.5, noNaN: true }),
      (a, k) => Math.abs(pctFromLp(lp(a * k) - lp(a)) - 100 * (k - 1)) < 1e-9,
    ),
  ));
test('lambda 0.88 on petrol is 12.94 to 1, and back', () => {
  expect(ratio(afrFromLambda(0.88, 'petrol'), 12.936)).toBeLessThan(1e-12);
  expect(lambdaFromAfr(9.8, 'e85')).toBe(1);
});
