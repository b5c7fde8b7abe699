import { describe, expect, it, test } from 'vitest';
import type { z } from 'zod';
import { AmendRequest, PlanRequest } from '../plan/test.ts';
import { ClosureRequest, ScheduleQuery } from '../plan/schedule.ts';
import { CoverageQuery } from '../publish/coverage.ts';
import { IMPORT_COLUMNS, IMPORT_KEYS, importLabel } from './import.ts';
import {
  CalibrationInput,
  DynoInput,
  FitmentInput,
  LedgerRequest,
  PartInput,
  RevisionInput,
  VehicleInput,
} from './register.ts';

const id = '00000000-0000-4000-8000-000000000001';
const issues = (schema: z.ZodType, value: unknown): string[] =>
  schema.safeParse(value).error?.issues.map((i) => `${i.path.join('.')}: ${i.message}`) ?? [];

const fitment = {
  maker: 'Oriel',
  model: 'Tern',
  yearFrom: 2017,
  engineCode: 'E',
  displacementCc: 1800,
  cylinders: 4,
  aspiration: 'natural',
  ignition: 'spark',
  fuel: 'petrol',
  drivenWheels: 'front',
  outputVariant: '100 kW',
  market: 'EU',
  ratedPowerKw: 100,
  ratedTorqueNm: 170,
  ratedStandard: 'ISO 1585',
  family: 'F',
};
const part = { sku: 'TM-118', maker: 'Lowmoss', name: 'Tubular manifold', category: 'header' };
const vehicle = { fitmentId: id, tag: 'SV-1', odometerKm: 1 };

describe('records are taken with their defaults and refused with words', () => {
  it('a fitment', () => {
    expect(FitmentInput.parse(fitment)).toMatchObject({
      yearTo: null,
      stockTyres: null,
      unitsPerYear: 0,
      transmission: '',
    });
    expect(issues(FitmentInput, { ...fitment, yearTo: 2010 })).toEqual([
      'yearTo: The last model year lies before the first.',
    ]);
    expect(issues(FitmentInput, { ...fitment, outputVariant: '  ' })).toEqual([
      'outputVariant: Give the output variant.',
    ]);
  });
  it('a fitment whose rated figures contradict each other, with what they would take', () => {
    expect(issues(FitmentInput, { ...fitment, ratedTorqueNm: 17 })).toEqual([
      expect.stringMatching(
        /^ratedTorqueNm: 100 kW from 17 N·m would take 56.?172 rpm: one of the two/,
      ) as string,
    ]);
  });
  it('a part: an embargo takes a code name that gives nothing away', () => {
    expect(PartInput.parse(part)).toMatchObject({ promise: 'power', currency: 'EUR', embargoUntil: null });
    expect(issues(PartInput, { ...part, embargoUntil: '2027-01-01' })[0]).toContain('needs a code name');
    expect(
      issues(PartInput, { ...part, embargoUntil: '2027-01-01', codeName: 'the tubular manifold' })[0],
    ).toContain('must not hold the name');
    expect(issues(PartInput, { ...part, embargoUntil: '2027-01-01', codeName: 'tm-118 x' })[0]).toContain(
      'must not hold the name',
    );
    expect(issues(PartInput, { ...part, embargoUntil: '2027-01-01', codeName: 'Project Corrie' })).toEqual(
      [],
    );
    expect(issues(PartInput, { ...part, embargoUntil: '1.1.2027', codeName: 'Project Corrie' })).toEqual([
      'embargoUntil: Write the date as 2026-03-31.',
    ]);
  });
  it('a revision: an option has at least two settings', () => {
    expect(RevisionInput.parse({ revision: 'A' })).toMatchObject({
      needs: { partIds: [], calibration: false, fuel: null },
      installHours: 1,
      removeHours: 0.5,
    });
    expect(issues(RevisionInput, { revision: 'A', options: [{ name: 'insert', settings: ['in'] }] })).toEqual(
      ['options.0.settings: An option has at least two settings.'],
    );
  });
  it('a vehicle does not leave before it comes', () => {
    expect(
      issues(VehicleInput, { ...vehicle, availableFrom: '2026-05-01', availableTo: '2026-04-01' }),
    ).toEqual(['availableTo: It would leave before it comes.']);
    expect(issues(VehicleInput, { ...vehicle, fitmentId: '' })).toEqual(['fitmentId: Choose the fitment.']);
  });
  it('a calibration is named by the hash of its file', () => {
    expect(CalibrationInput.parse({ name: 'x', revision: '1', fileHash: 'A'.repeat(64) }).fileHash).toBe(
      'a'.repeat(64),
    );
    expect(issues(CalibrationInput, { name: 'x', revision: '1', fileHash: '' })[0]).toContain(
      'Choose the file',
    );
  });
  it('a dyno does not close before it opens', () => {
    const dyno = {
      name: 'Cell',
      site: 'here',
      kind: 'hub',
      siteHeightM: 0,
      appliesStandard: 'none',
      repeatability: {},
    };
    expect(issues(DynoInput, { ...dyno, opening: [{ day: 1, from: '16:00', to: '08:00' }] })).toEqual([
      'opening.0.to: It would close before it opens.',
    ]);
    expect(issues(DynoInput, { ...dyno, opening: [{ day: 1, from: '08:00', to: '24:30' }] })).toEqual([
      'opening.0.to: Write the time as 08:30.',
    ]);
    expect(issues(DynoInput, { ...dyno, opening: [{ day: 8, from: '8', to: '24:00' }] }).slice(0, 2)).toEqual(
      [expect.stringContaining('opening.0.day'), 'opening.0.from: Write the time as 08:30.'],
    );
    expect(
      DynoInput.parse({ ...dyno, repeatability: { mount: { variance: 0.4, df: 9 } } }).repeatability.mount,
    ).toEqual({ variance: 0.4, df: 9 });
  });
  it('a ledger entry says what was done, and why when it puts another right', () => {
    const entry = { at: '2026-11-01T08:00:00Z', change: { kind: 'fuel', text: '98 RON' } };
    expect(LedgerRequest.parse(entry)).toMatchObject({ odometerKm: null, supersedes: null, note: '' });
    expect(issues(LedgerRequest, { ...entry, change: null })).toEqual(['change: Say what was changed.']);
    expect(issues(LedgerRequest, { ...entry, supersedes: id })).toEqual([
      'note: Say why the entry is put right.',
    ]);
    expect(issues(LedgerRequest, { ...entry, at: 'yesterday' })).toEqual(['at: Say when it was done.']);
    expect(issues(LedgerRequest, { ...entry, change: { kind: 'painted' } })).toHaveLength(1);
  });
});

describe('a plan', () => {
  const stock = { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] };
  const arm = (key: string, from: string | null = null) => ({
    key,
    label: key,
    role: 'part',
    from,
    changes: [],
  });
  const plan = {
    question: 'What does it give?',
    fitmentId: id,
    vehicleId: id,
    dynoId: id,
    band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
    metrics: ['upTo'],
    protocol: 'A-B-A',
    arms: [stock, arm('part')],
    order: ['stock', 'part', 'stock'],
    pullsPerRun: 3,
    warmUps: 3,
    remount: false,
    gear: '4th',
    fuel: '95',
  };
  it('has defaults for what is not said, but for the standard, which is policy’s to say', () => {
    const parsed = PlanRequest.parse(plan);
    expect(parsed).toMatchObject({
      coolDownMinutes: 4,
      priority: 5,
      series: [],
      controls: [],
      due: null,
    });
    expect(parsed.standard).toBeUndefined();
  });
  test.each([
    [
      'two baselines',
      { arms: [stock, { ...stock, key: 'stock-2' }, arm('part')], order: ['stock', 'stock-2', 'part'] },
      'Exactly one arm is the baseline.',
    ],
    ['an arm twice', { arms: [stock, arm('part'), arm('part')] }, 'Two arms have one key.'],
    [
      'a band too short',
      { band: { fromRpm: 2500, toRpm: 3000, stepRpm: 50 } },
      'The band must span at least 1 000 rpm.',
    ],
    ['a metric twice', { metrics: ['upTo', 'upTo'] }, 'A metric is named twice.'],
    [
      'an order that names nobody',
      { order: ['stock', 'part', 'nobody'] },
      'The order names “nobody”, which is no arm.',
    ],
    [
      'a stage that builds on a later one',
      {
        protocol: 'ladder',
        arms: [stock, arm('one', 'two'), arm('two')],
        order: ['stock', 'one', 'two', 'stock'],
      },
      '“one” builds on an arm that does not come before it.',
    ],
    ['one part in a ladder', { protocol: 'ladder' }, 'This protocol takes 2 to 6 part arms; there are 1.'],
    [
      'a due date before it may begin',
      { notBefore: '2026-12-02', due: '2026-12-01' },
      'It would be due before it may begin.',
    ],
    [
      'a series where there is none',
      { series: [{ vehicleId: id, dynoId: id }] },
      'This protocol makes one test.',
    ],
    ['one pull a run', { pullsPerRun: 1 }, 'Too small'],
  ])('is refused with %s', (_what, change, message) =>
    expect(issues(PlanRequest, { ...plan, ...change }).join(' ')).toContain(message),
  );
  it('is amended only in what may be amended, with a reason', () => {
    const reason = 'The limiter comes in earlier.';
    expect(AmendRequest.parse({ reason, changes: { gear: '5th' } })).toEqual({
      reason,
      changes: { gear: '5th' },
    });
    expect(issues(AmendRequest, { reason, changes: {} })).toEqual(['changes: Nothing is changed.']);
    expect(issues(AmendRequest, { reason, changes: { vehicleId: id } })[0]).toContain('vehicleId');
    expect(issues(AmendRequest, { reason: 'no', changes: { gear: '5th' } })).toEqual([
      'reason: Give the reason in a sentence.',
    ]);
  });
});

describe('questions asked of lists', () => {
  it('have bounds', () => {
    expect(CoverageQuery.parse({})).toMatchObject({ limit: 30, group: 'fitments', q: '' });
    expect(issues(CoverageQuery, { limit: '5000' })).toHaveLength(1);
    expect(issues(ScheduleQuery, { from: '2026-11-16', days: '400' })).toHaveLength(1);
    expect(
      issues(ClosureRequest, {
        dynoId: id,
        start: '2026-11-16T08:00:00Z',
        end: '2026-11-16T07:00:00Z',
        reason: 'service',
      }),
    ).toEqual(['end: It would end before it begins.']);
  });
});

describe('columns of tables', () => {
  it('are known by one name each', () => {
    for (const [kind, columns] of Object.entries(IMPORT_COLUMNS)) {
      const plain = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]+/g, '');
      const own = columns.map((c) => [c.header, c.field, ...(c.aliases ?? [])].map(plain));
      own.forEach((names, i) =>
        own.slice(i + 1).forEach((others) =>
          expect(
            names.filter((n) => others.includes(n)),
            kind,
          ).toEqual([]),
        ),
      );
    }
  });
  it('make a record’s key without case, and its label with it', () => {
    const row = { maker: 'Oriel', model: ' Tern ', outputVariant: '100 kW', market: 'EU' };
    expect(IMPORT_KEYS.fitments(row)).toBe('oriel · tern · 100 kw · eu');
    expect(importLabel('fitments', row)).toBe('Oriel · Tern · 100 kW · EU');
  });
});
