import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import '../__tests__/rendered.tsx';
import type { AirRequest } from '../../contract/capture/capture.ts';
import { unitsFor, type Units } from '../base/format.ts';
import { AIR_COLUMNS } from './air-columns.ts';
import { cellsOf, pastedRows } from './air-paste.ts';
import { alike, cellIn, isOfKind, requestOf, stored, type Cell } from './use-air-draft.ts';

const METRIC: Units = unitsFor({ power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'hPa' });
const OTHER: Units = unitsFor({ power: 'kW', torque: 'N·m', temperature: '°F', pressure: 'inHg' });
const KINDS = { pressureKind: 'station', humidityKind: 'relative' } as const;
const reading = {
  temperatureC: 21.4,
  pressureHpa: 1004.2,
  pressureKind: 'station',
  humidityKind: 'relative',
  humidityValue: 48,
  enteredAt: '',
  enteredBy: '',
  source: 'typed',
  sourceFile: null,
} as const;

/** What is sent for cells that are a reading. */
function sent(...asked: Parameters<typeof requestOf>): AirRequest {
  const air = requestOf(...asked);
  if ('why' in air) throw new Error(air.why);
  return air;
}

describe('a reading as it is typed', () => {
  it('is sent in °C and hPa, whatever the person reads in', () => {
    expect(requestOf(['21.4', '1004.2', '48'], KINDS, METRIC)).toEqual({
      ...KINDS,
      temperatureC: 21.4,
      pressureHpa: 1004.2,
      humidityValue: 48,
    });
    const other = sent(['70.5', '29.65', '48'], KINDS, OTHER);
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
    [['', '1004', '48'], 'A reading has all three; temperature is missing.'],
    [['21', '', ''], 'A reading has all three; pressure and humidity is missing.'],
    [['21', '1004', 'damp'], '“damp” is no number: “damp” does not belong. Write it in %.'],
    [['21 psi', '1004', '50'], '“21 psi” is no number: “psi” does not belong. Write it in °C, °F, K.'],
    [['21', '10o4', '50'], '“10o4” is no number: “o” does not belong.'],
  ])('%j is no reading, and says why', (cells, why) =>
    expect(requestOf(cells, KINDS, METRIC)).toEqual({ why }),
  );
  it('takes thin blanks, and another unit after the number', () => {
    expect(sent(['70,52 °F', '1\u202f004.2', '48 %'], KINDS, METRIC)).toMatchObject({ pressureHpa: 1004.2 });
    expect(sent(['70,52 °F', '100.42 kPa', '48'], KINDS, METRIC).temperatureC).toBeCloseTo(21.4, 9);
    expect(sent(['294.55 K', '100.42 kPa', '48'], KINDS, OTHER).pressureHpa).toBeCloseTo(1004.2, 6);
  });
  it('a dew point is a temperature, a relative humidity is not', () => {
    const dew = { pressureKind: 'station', humidityKind: 'dew point' } as const;
    expect(sent(['70', '29.6', '50'], dew, OTHER).humidityValue).toBeCloseTo(10, 6);
    expect(sent(['70', '29.6', '50'], KINDS, OTHER).humidityValue).toBe(50);
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
          const again = sent(
            AIR_COLUMNS.map((column) => stored(air, column, units)),
            KINDS,
            units,
          );
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

describe('what is typed when the units are switched', () => {
  const cell = (text: string, unit: string): Cell => ({ text, unit });
  it('is turned into the new unit, and back', () => {
    expect(cellIn(cell('21,5', '°C'), 'temperature', KINDS, OTHER)).toBe('70.7');
    expect(cellIn(cell('70.7', '°F'), 'temperature', KINDS, METRIC)).toBe('21.5');
    expect(cellIn(cell('1 004,2', 'hPa'), 'pressure', KINDS, OTHER)).toBe('29.654');
    expect(cellIn(cell('−4', '°F'), 'temperature', KINDS, METRIC)).toBe('−20');
  });
  it('stays as it is in its own unit, when it is no number, or when its unit stands after it', () => {
    expect(cellIn(cell('21,5', '°C'), 'temperature', KINDS, METRIC)).toBe('21,5');
    expect(cellIn(cell('about 21', '°C'), 'temperature', KINDS, OTHER)).toBe('about 21');
    expect(cellIn(cell('70 °F', '°C'), 'temperature', KINDS, OTHER)).toBe('70 °F');
    expect(cellIn(cell('48', '%'), 'humidity', { ...KINDS, humidityKind: 'dew point' }, OTHER)).toBe('48 %');
  });
});

describe('when what humidity or pressure is, is changed', () => {
  const dew = { pressureKind: 'station', humidityKind: 'dew point' } as const;
  const sea = { pressureKind: 'sea level', humidityKind: 'relative' } as const;
  it('a share that was typed is refused as a dew point, not taken for one', () => {
    const humidity = cellIn({ text: '48', unit: '%' }, 'humidity', dew, METRIC);
    expect(requestOf(['21', '1004', humidity], dew, METRIC)).toEqual({
      why: '“48 %” is no number: “%” does not belong. Write it in °C, °F, K.',
    });
  });
  it('a stored reading of another kind does not stand in the cell', () => {
    expect(isOfKind(reading, 'humidity', KINDS)).toBe(true);
    expect(isOfKind(reading, 'humidity', dew)).toBe(false);
    expect(isOfKind(reading, 'pressure', dew)).toBe(true);
    expect(isOfKind(reading, 'pressure', sea)).toBe(false);
    expect(isOfKind(reading, 'temperature', { ...dew, ...sea })).toBe(true);
  });
});

it('stored readings of a column have the same decimals', () => {
  expect(alike(['1006', '1005.9', '−3'])).toEqual(['1006.0', '1005.9', '−3.0']);
  expect(alike(['52', '51'])).toEqual(['52', '51']);
  expect(alike([])).toEqual([]);
});

describe('rows that are pasted', () => {
  const labels = ['p1', 'p2', 'p3'];
  const put = (text: string, row = 0, column = 0) =>
    pastedRows(text, row, column, labels)?.map((c) => [c.row, c.column, c.text]);
  it('one value is pasted as usual', () => {
    for (const text of ['21.5', '21,5', '21,5\n', '']) expect(put(text)).toBeUndefined();
  });
  it.each(['21.5\t1004\t48', '21.5;1004;48', '21.5,1004,48', '21.5, 1004, 48', '"21.5","1004","48"'])(
    '%j is a row',
    (text) =>
      expect(put(text, 1)).toEqual([
        [1, 'temperature', '21.5'],
        [1, 'pressure', '1004'],
        [1, 'humidity', '48'],
      ]),
  );
  it('a column fills downwards, with decimal commas too, and ends with the table', () =>
    expect(put('1004,2\n1004,1\n1004,0', 1, 1)).toEqual([
      [1, 'pressure', '1004,2'],
      [2, 'pressure', '1004,1'],
    ]));
  it('decimal commas between tabs stay with their numbers', () =>
    expect(cellsOf('21,5\t1004,2\t48,0')).toEqual(['21,5', '1004,2', '48,0']));
  it('names in the first column lead to their pulls, whatever their order', () =>
    expect(put('P3\t20\t1000\t40\np1\t21\t1001\t41')).toEqual([
      [2, 'temperature', '20'],
      [2, 'pressure', '1000'],
      [2, 'humidity', '40'],
      [0, 'temperature', '21'],
      [0, 'pressure', '1001'],
      [0, 'humidity', '41'],
    ]));
});
