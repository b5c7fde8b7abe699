import { describe, expect, it } from 'vitest';
import { COLUMN_KEYS } from '../../core/base/quantities.ts';
import { ColumnsSchema } from '../../contract/base/schemas.ts';
import { choicesOf, nameOf, twice, unitsOf, type Said } from './column-choices.ts';

const said: Said = {
  Moment: { key: 'torque', unit: 'N·m' },
  n: { key: 'rpm', unit: '' },
  Left: { key: '', unit: '' },
};

describe('what a person says of columns', () => {
  it('is sent by what the columns hold, with the unit where one was said', () => {
    expect(choicesOf(said)).toEqual({ torque: { column: 'Moment', unit: 'N·m' }, rpm: { column: 'n' } });
    expect(ColumnsSchema.parse(choicesOf(said))).toEqual(choicesOf(said));
  });
  it('two columns cannot both hold one thing', () => {
    expect(twice(said)).toBeUndefined();
    expect(twice({ ...said, Other: { key: 'torque', unit: '' } })).toBe('torque');
    expect(twice({ a: { key: '', unit: '' }, b: { key: '', unit: '' } })).toBeUndefined();
  });
  it('every kind of column has a name, and those that are measured a unit', () => {
    for (const key of COLUMN_KEYS) {
      expect(nameOf(key)).not.toBe('');
      expect(unitsOf(key).length > 0, key).toBe(key !== 'gear');
    }
    expect(unitsOf('rollerSpeed')).toEqual(expect.arrayContaining(['rpm', 'km/h']));
  });
});
