import { describe, expect, it, test } from 'vitest';
import { TestDefinitionError } from '../../core/base/errors.ts';
import { readTestFile } from './test-file.ts';

const whole = {
  format: 'evidentia-test/1',
  title: 'T',
  standard: 'sae-j1349',
  engine: { ignition: 'spark', aspiration: 'natural' },
  band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
  arms: [
    { id: 'stock', role: 'baseline' },
    { id: 'part', role: 'part' },
  ],
  pulls: [
    {
      id: 'p1',
      arm: 'stock',
      order: 4,
      mount: 1,
      counted: true,
      file: 'pulls/p1.csv',
      columns: { rpm: 'Engine speed', torque: { column: 'Torque', unit: 'N·m' } },
      air: { temperatureC: 21.4, pressureHpa: 1004.2, humidityPct: 48 },
      applied: { standard: 'none' },
    },
  ],
};
const withAir = (air: object) => ({ ...whole, pulls: [{ ...whole.pulls[0], air }] });

describe('evidentia-test/1', () => {
  it('reads the layout of docs/formats.md', () => {
    const test = readTestFile(whole);
    expect(test.pulls[0]).toMatchObject({
      columns: { rpm: { column: 'Engine speed' }, torque: { column: 'Torque', unit: 'N·m' } },
      air: { humidity: { kind: 'relative', percent: 48 } },
    });
  });
  it('takes a dew point or a wet bulb for humidity', () => {
    expect(
      readTestFile(withAir({ temperatureC: 21, pressureHpa: 1004, dewPointC: 9 })).pulls[0].air!.humidity,
    ).toEqual({ kind: 'dew point', temperatureC: 9 });
    expect(
      readTestFile(withAir({ temperatureC: 21, pressureHpa: 1004, wetBulbC: 14 })).pulls[0].air!.humidity,
    ).toEqual({ kind: 'wet bulb', temperatureC: 14 });
  });
  it('a pull counts, on mounting 1, unless it says otherwise', () => {
    const { mount: _m, counted: _c, ...bare } = whole.pulls[0];
    expect(readTestFile({ ...whole, pulls: [bare] }).pulls[0]).toMatchObject({ mount: 1, counted: true });
  });
});

test.each([
  ['another format', { ...whole, format: 'other/1' }, 'format'],
  ['an unknown standard', { ...whole, standard: 'best' }, 'standard'],
  ['no engine', { ...whole, engine: undefined }, 'engine'],
  [
    'two humidities',
    withAir({ temperatureC: 21, pressureHpa: 1004, humidityPct: 40, dewPointC: 9 }),
    'pulls.0.air',
  ],
  [
    'a pull without an order',
    { ...whole, pulls: [{ ...whole.pulls[0], order: undefined }] },
    'pulls.0.order',
  ],
  ['one arm', { ...whole, arms: [whole.arms[0]] }, 'arms'],
  ['nothing', null, 'the whole file'],
])('refuses %s and names the place', (_what, value, path) => {
  try {
    readTestFile(value, 'test.json');
    expect.unreachable();
  } catch (error) {
    expect(error).toBeInstanceOf(TestDefinitionError);
    expect((error as TestDefinitionError).where).toEqual({ file: 'test.json', path });
  }
});
