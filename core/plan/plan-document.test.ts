import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { AMENDABLE } from './amendment.ts';
import { AMENDABLE_FIELDS, fieldChanges, type PlanFields } from './plan-document.ts';

const FIELDS: PlanFields = {
  question: 'What does it give?',
  fitmentId: 'f',
  vehicleId: 'v',
  partRevisionId: 'r',
  dynoId: 'd',
  standard: 'sae-j1349',
  band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
  smoothingRpm: 200,
  confidence: 0.95,
  guard: 'strict',
  startSensor: null,
  startSlope: null,
  boostedSchool: 'correct',
  driftBound: 0.3,
  metrics: ['upTo'],
  protocol: 'A-B-A',
  runOrder: ['stock', 'part', 'stock'],
  pullsPerRun: 3,
  warmUps: 3,
  remount: false,
  coolDownMinutes: 4,
  gear: '4th',
  fuel: '95 RON',
  calibration: 'unchanged, stock',
  tyres: '205/55 R16',
  controls: [],
  photographs: [],
  logs: [],
};

describe('what an amendment changes', () => {
  it('can be every field that may be amended, and the two that change the run sheet', () =>
    expect([...AMENDABLE_FIELDS, 'addedRun', 'repeatedPull'].sort()).toEqual([...AMENDABLE].sort()));

  it.each([
    [{ gear: '5th' }, 'gear', '4th', '5th'],
    [
      { metrics: ['bandAverage', 'upTo'] as const },
      'metrics',
      'largest gain, “up to”',
      'average over the rpm range; largest gain, “up to”',
    ],
    [
      { band: { fromRpm: 2600, toRpm: 6400, stepRpm: 100 } },
      'band',
      '2\u202f500 to 6\u202f500 rpm, every 50',
      '2\u202f600 to 6\u202f400 rpm, every 100',
    ],
    [{ coolDownMinutes: 6 }, 'coolDownMinutes', '4 min', '6 min'],
    [{ standard: 'iso-1585' as const }, 'standard', 'SAE J1349', 'ISO 1585'],
    [{ logs: ['lambda', 'knock'] }, 'logs', 'none', 'lambda, knock'],
    [
      {
        controls: [
          { quantity: 'oil', target: 95, tolerance: 5, unit: '°C' },
          { quantity: 'hood', target: null, tolerance: 1, unit: '' },
        ],
      },
      'controls',
      'none',
      'oil 95 ± 5 °C; hood equal ± 1 ',
    ],
  ])('reads in words, with units: %j', (changes, field, from, to) =>
    expect(fieldChanges(FIELDS, changes)).toEqual([{ field, from, to }]),
  );

  it('is nothing where the field reads the same after it, and names no field that was not given', () => {
    expect(fieldChanges(FIELDS, { gear: '4th', logs: [] })).toEqual([]);
    expect(fieldChanges(FIELDS, {})).toEqual([]);
  });

  it('is undone by the field as it was', () =>
    fc.assert(
      fc.property(
        fc.string({ minLength: 1 }),
        fc.string({ minLength: 1 }),
        fc.nat(60),
        (gear, fuel, coolDownMinutes) => {
          const there = fieldChanges(FIELDS, { gear, fuel, coolDownMinutes });
          const back = fieldChanges({ ...FIELDS, gear, fuel, coolDownMinutes }, FIELDS);
          expect(back.map(({ field, from, to }) => ({ field, from: to, to: from }))).toEqual(there);
        },
      ),
    ));
});
