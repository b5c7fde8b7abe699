import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, test, vi } from 'vitest';
import { bytes, number, rpm, signed, THIN } from './format.ts';
import { preferences, preferred, type Preferences } from './preferences.ts';

// The store reads the page's cookie as it loads; how numbers are written needs no page.
vi.mock('./store.ts', () => ({ useAppSelector: () => ({}) }));

describe('numbers as people read them', () => {
  test.each([
    [0, 1, '0.0'],
    [-0.04, 1, '0.0'],
    [-1.25, 1, '−1.3'],
    [1234.5, 0, `1${THIN}235`],
    [1234567, 0, `1${THIN}234${THIN}567`],
    [999, 0, '999'],
    [-12345.678, 2, `−12${THIN}345.68`],
  ])('%d with %d decimals is %s', (value, digits, text) => expect(number(value, digits)).toBe(text));
  test.each([
    [1.2, '+1.2'],
    [-1.2, '−1.2'],
    [0.04, '0.0'],
    [-0.04, '0.0'],
  ])('a gain of %d is written %s', (value, text) => expect(signed(value)).toBe(text));
  it('says the same number back', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -1e9, max: 1e9, noNaN: true }),
        fc.integer({ min: 0, max: 4 }),
        (value, digits) => {
          const read = Number(number(value, digits).replaceAll(THIN, '').replace('−', '-'));
          expect(Math.abs(read - value)).toBeLessThanOrEqual(0.5 * 10 ** -digits + 1e-6);
        },
      ),
    ));
  it('groups by three from the point, never behind it', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1e12, noNaN: true }), (value) => {
        const [whole, rest] = number(value, 3).split('.');
        expect(rest).toMatch(/^\d{3}$/);
        expect(whole).toMatch(new RegExp(`^\\d{1,3}(${THIN}\\d{3})*$`));
      }),
    ));
  test.each([
    [12, '12 B'],
    [2048, '2 kB'],
    [3 * 1048576, '3.0 MB'],
  ])('%d bytes are %s', (size, text) => expect(bytes(size)).toBe(text));
  it('engine speed has its unit', () => expect(rpm(5750)).toBe(`5${THIN}750 rpm`));
});

describe('preferences', () => {
  const kept = new Map<string, string>();
  beforeEach(() => {
    kept.clear();
    (globalThis as { localStorage?: unknown }).localStorage = {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    };
  });
  afterEach(() => {
    delete (globalThis as { localStorage?: unknown }).localStorage;
  });
  const initial = (): Preferences => preferences.getInitialState();
  it('are those of the house until somebody chooses', () =>
    expect(initial()).toMatchObject({
      power: 'kW',
      torque: 'N·m',
      temperature: '°C',
      pressure: 'hPa',
      theme: 'paper',
      keys: 'on',
    }));
  it('are read back, and what is no choice is left', () => {
    kept.set(
      'evidentia-preferences',
      JSON.stringify({ power: 'PS', torque: 'stone', theme: 'cell', other: 1 }),
    );
    expect(initial()).toEqual({
      power: 'PS',
      torque: 'N·m',
      temperature: '°C',
      pressure: 'hPa',
      theme: 'cell',
      keys: 'on',
    });
  });
  it('survive whatever stands in the browser', () =>
    fc.assert(
      fc.property(fc.string(), (text) => {
        kept.set('evidentia-preferences', text);
        expect(Object.keys(initial()).sort()).toEqual([
          'keys',
          'power',
          'pressure',
          'temperature',
          'theme',
          'torque',
        ]);
      }),
    ));
  it('change one at a time', () =>
    expect(
      preferences.reducer(
        { power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'hPa', theme: 'paper', keys: 'on' },
        preferred({ power: 'hp' }),
      ),
    ).toMatchObject({ power: 'hp', torque: 'N·m' }));
});
