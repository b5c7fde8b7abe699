import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { numberReader } from './numbers.ts';

const read = numberReader({ decimal: '.', thousands: '' });

describe('plain decimal numbers', () => {
  it('are read to the very double that the language reads', () => {
    const decimal = fc
      .tuple(
        fc.constantFrom('', '-'),
        fc.integer({ min: 0, max: 99_999_999 }),
        fc.option(fc.tuple(fc.nat(9_999_999), fc.integer({ min: 1, max: 9 }))),
      )
      .map(
        ([sign, whole, rest]) => `${sign}${whole}${rest ? `.${String(rest[0]).padStart(rest[1], '0')}` : ''}`,
      );
    fc.assert(
      fc.property(decimal, (text) => {
        expect(Object.is(read(text), Number(text)), text).toBe(true);
      }),
      { numRuns: 2000 },
    );
  });
  it.each(['', '-', '.', '1.2.3', '1-2', '0x10', '1e400', 'Infinity', ' ', '--1'])('“%s” is none', (text) => {
    expect(read(text)).toBeNaN();
  });
  it.each([
    ['.5', 0.5],
    ['5.', 5],
    ['-0.25', -0.25],
    ['12345678901234567890', 12345678901234567000],
    ['0.1234567890123456789', 0.12345678901234568],
    ['1e3', 1000],
    ['+7', 7],
    [' 7.5 ', 7.5],
  ])('“%s” is %d', (text, value) => {
    expect(read(text)).toBe(value);
  });
});
