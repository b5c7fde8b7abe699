import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import '../__tests__/rendered.tsx';
import { number, unitsFor } from './format.ts';
import { retold } from './retold.ts';

const SI = unitsFor({ power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'hPa' });
const US = unitsFor({ power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'inHg' });
const PSI = unitsFor({ power: 'PS', torque: 'N·m', temperature: '°C', pressure: 'psi' });

describe('a text in the units of whoever reads it', () => {
  // Conversion factors: NIST SP 811, appendix B (hp 745.6999 W, lbf·ft 1.355818 N·m, inHg 3386.389 Pa, psi 6894.757 Pa).
  it.each([
    ['the intake air was 21.4 °C.', 'the intake air was 70.5 °F.'],
    ['holds from 10 to 40 °C; it was hotter', 'holds from 50 to 104 °F; it was hotter'],
    ['coolant at start 88 ± 4 °C', 'coolant at start 190 ± 7 °F'],
    ['equal ± 3 °C', 'equal ± 5 °F'],
    ['103 kW and 172 N·m at the crank, ISO 1585', '138 hp and 127 lb·ft at the crank, ISO 1585'],
    ['the dry pressure was 1013.2 hPa.', 'the dry pressure was 29.92 inHg.'],
    ['−5.0 °C, 1 004.0 hPa at sea level', '23.0 °F, 29.65 inHg at sea level'],
  ])('%s', (written, told) => {
    expect(retold(written, US)).toBe(told);
  });
  it('a pressure in psi keeps what it was read to', () => {
    expect(retold('1013.25 hPa', PSI)).toBe('14.6959 psi');
    expect(retold('100 kW', PSI)).toBe('136 PS');
  });
  it.each([
    'p3: peak at 5800 rpm, 3 of 12 pulls',
    'A value near 70 or above may be in °F, near 290 in K.',
    'kW stands in the head; 12 kWh and 5 N·m/s are no power or torque',
    'the 103 Kw, 20 C',
    'Oriel Tern 1.8 estate, 103 kW, is in the register already.',
  ])('leaves alone what is no measure of these: %s', (text) => {
    expect(retold(text, US)).toBe(text);
  });
  it('changes nothing for whoever reads in SI', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -40, max: 2000, noNaN: true }),
        fc.constantFrom('kW', 'N·m', '°C', 'hPa'),
        (value, unit) => {
          const text = `It was ${number(value, 2)} ${unit}, as read.`;
          expect(retold(text, SI)).toBe(text);
        },
      ),
    );
  });
  it('tells the same quantity in every unit', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 900, noNaN: true }), (kw) => {
        const told = retold(`${number(kw, 3)} kW`, US)
          .replace(' hp', '')
          .replace(/\u202f/g, '');
        expect(Number(told) * 0.745699872).toBeCloseTo(kw, 2);
      }),
    );
  });
});
