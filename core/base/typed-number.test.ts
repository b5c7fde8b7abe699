import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { typedNumber, type TypedUnit } from './typed-number.ts';

const KW: TypedUnit[] = [{ names: ['kW'] }, { names: ['hp', 'bhp'], toField: (v) => v * 0.7457 }];
const TEMPERATURE: TypedUnit[] = [
  { names: ['°C', 'C'] },
  { names: ['°F', 'F'], toField: (v) => (v - 32) / 1.8 },
];
const value = (text: string, units?: TypedUnit[]): number | string => {
  const read = typedNumber(text, units);
  return read.is === 'number' ? read.value : read.is === 'wrong' ? read.why : 'empty';
};

describe('a number as it is typed', () => {
  it.each([
    ['92.5', 92.5],
    ['92,5', 92.5],
    ['1,8', 1.8],
    [' 1004,2 ', 1004.2],
    ['1 234', 1234],
    ['1\u202f234.5', 1234.5],
    ['12\u00a0345\u00a0678', 12345678],
    ["1'234,5", 1234.5],
    ['1,234.5', 1234.5],
    ['1.234,5', 1234.5],
    ['1,234,567', 1234567],
    ['1.234.567', 1234567],
    ['1.234', 1.234],
    ['0,125', 0.125],
    ['12,3456', 12.3456],
    ['-3', -3],
    ['−3,5', -3.5],
    ['– 3', -3],
    ['+4', 4],
    ['.5', 0.5],
    [',5', 0.5],
    ['5.', 5],
    ['-0', 0],
    ['00012', 12],
  ])('%j is %d', (text, expected) => expect(value(text)).toBe(expected));
  it.each([
    ['92.5 kW', KW, 92.5],
    ['92,5kw', KW, 92.5],
    ['1 234 KW', KW, 1234],
    ['100 hp', KW, 74.57],
    ['100 bhp', KW, 74.57],
    ['70 °F', TEMPERATURE, 21.11],
    ['−4f', TEMPERATURE, -20],
    ['21,5 °C', TEMPERATURE, 21.5],
  ])('%j has its unit after it', (text, units, expected) =>
    expect(value(text, units)).toBeCloseTo(expected, 2),
  );
  it('nothing is nothing', () => {
    expect(typedNumber('')).toEqual({ is: 'empty' });
    expect(typedNumber(' \u202f ')).toEqual({ is: 'empty' });
  });
  it.each([
    ['92,5 PS', '“92,5 PS” is no number: “PS” does not belong. Write it in kW, hp.', KW],
    ['abc', '“abc” is no number: “abc” does not belong.', undefined],
    ['1o4', '“1o4” is no number: “o” does not belong.', undefined],
    ['1,234', '“1,234” may be read in two ways: write 1234 or 1.234.', undefined],
    ['1 23', '“1 23” is no number: write it as 1234.5.', undefined],
    ['1.2.3', '“1.2.3” is no number: write it as 1234.5.', undefined],
    ['1,2,3', '“1,2,3” is no number: write it as 1234.5.', undefined],
    ['5-3', '“5-3” is no number: “-” does not belong.', undefined],
    ['-', '“-” is no number: write it as 1234.5.', undefined],
    ['kW', '“kW” is no number: write it as 1234.5.', KW],
    ['Infinity', '“Infinity” is no number: “Infinity” does not belong.', undefined],
  ])('%j is refused with a word', (text, why, units) => expect(value(text, units)).toBe(why));
  it('an endless one is refused', () => expect(value('9'.repeat(400))).toMatch(/longer than any number/));

  const PLAIN = fc.double({ min: -1e9, max: 1e9, noNaN: true }).map((v) => Number(v.toFixed(4)));
  const grouped = (text: string, by: string): string => text.replace(/\B(?=(\d{3})+(?!\d))/g, by);
  it('whatever way the application writes it, it is read back', () =>
    fc.assert(
      fc.property(
        PLAIN,
        fc.constantFrom('', ' ', '\u202f', '’'),
        fc.constantFrom('.', ','),
        (v, by, mark) => {
          const [whole, rest] = Math.abs(v).toString().split('.');
          const text = `${v < 0 ? '−' : ''}${grouped(whole, by)}${rest ? mark + rest : ''}`;
          const read = value(text);
          // A lone comma before three digits is asked about; everything else is the number.
          if (typeof read === 'string')
            return mark === ',' && rest?.length === 3 && read.includes('two ways');
          return read === v || (v === 0 && read === 0);
        },
      ),
    ));
  it('no character is dropped to make a number', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 12 }), (text) => {
        const read = typedNumber(text);
        if (read.is !== 'number') return true;
        const digits = text.normalize('NFKC').replace(/\D/g, '').replace(/^0+/, '');
        const told = Math.abs(read.value).toString();
        return (
          /^[\d.,'’+\-\u2212\u2012\u2013\s\u00a0\u2009\u202f\u2007]+$/.test(text) &&
          (told.includes('e') || digits.startsWith(told.replace('.', '').replace(/^0+/, '')))
        );
      }),
    ));
});
