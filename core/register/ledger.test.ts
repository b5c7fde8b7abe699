import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import {
  AS_DELIVERED,
  configurationDifferences,
  configurationOn,
  fuelAgrees,
  isStock,
  odometerOn,
  standingEntries,
  type LedgerChange,
  type LedgerEntry,
  type Names,
} from './ledger.ts';
import { PART_CATEGORIES, type PartCategory } from './parts.ts';

const names: Names = {
  part: (id, settings) => [id, ...Object.values(settings)].join(' '),
  calibration: (id) => id,
};
let counter = 0;
const entry = (day: number, change: LedgerChange | null, more: Partial<LedgerEntry> = {}): LedgerEntry => ({
  id: `e${String(counter++).padStart(6, '0')}`,
  at: new Date(Date.UTC(2026, 0, day)).toISOString(),
  enteredAt: new Date(Date.UTC(2026, 0, day, 1)).toISOString(),
  odometerKm: null,
  supersedes: null,
  change,
  ...more,
});
const on = (day: number): string => new Date(Date.UTC(2026, 0, day, 12)).toISOString();
const fit = (
  category: PartCategory,
  partRevisionId: string,
  settings: Record<string, string> = {},
): LedgerChange => ({ kind: 'part fitted', category, partRevisionId, settings });

const anyChange = fc.oneof(
  fc.record({
    kind: fc.constant('part fitted' as const),
    category: fc.constantFrom(...PART_CATEGORIES.slice(0, 3)),
    partRevisionId: fc.constantFrom('a', 'b', 'c'),
    settings: fc.constantFrom<Record<string, string>>({}, { insert: 'in' }, { insert: 'out' }),
  }),
  fc.record({
    kind: fc.constant('returned to stock' as const),
    category: fc.constantFrom(...PART_CATEGORIES.slice(0, 3)),
  }),
  fc.record({
    kind: fc.constant('option set' as const),
    category: fc.constantFrom(...PART_CATEGORIES.slice(0, 3)),
    settings: fc.constantFrom<Record<string, string>>({ insert: 'in' }, { insert: 'out' }),
  }),
  fc.record({ kind: fc.constant('calibration' as const), calibrationId: fc.constantFrom(null, 'x', 'y') }),
  fc.record({ kind: fc.constant('fuel' as const), text: fc.constantFrom('95 RON', '98 RON') }),
  fc.record({ kind: fc.constant('other change' as const), text: fc.constantFrom('rev limit', 'hood off') }),
  fc.record({
    kind: fc.constant('other change undone' as const),
    text: fc.constantFrom('rev limit', 'hood off'),
  }),
);
const ledger = fc
  .array(fc.record({ day: fc.integer({ min: 1, max: 60 }), change: anyChange }), { maxLength: 25 })
  .map((list) => list.map(({ day, change }) => entry(day, change)));

describe('what was on the car', () => {
  it('does not depend on the order in which entries were written down', () =>
    fc.assert(
      fc.property(
        ledger,
        fc.integer({ min: 0, max: 61 }),
        fc.infiniteStream(fc.nat()),
        (entries, day, keys) => {
          const shuffled = entries
            .map((e) => [keys.next().value as number, e] as const)
            .sort((a, b) => a[0] - b[0])
            .map(([, e]) => e);
          expect(configurationOn(shuffled, on(day))).toEqual(configurationOn(entries, on(day)));
        },
      ),
    ));
  it('is not touched by what was done later', () =>
    fc.assert(
      fc.property(ledger, fc.integer({ min: 0, max: 60 }), anyChange, (entries, day, change) => {
        expect(configurationOn([...entries, entry(day + 1, change)], on(day))).toEqual(
          configurationOn(entries, on(day)),
        );
      }),
    ));
  it('an entry taken back leaves no trace of itself', () =>
    fc.assert(
      fc.property(ledger, fc.integer({ min: 1, max: 60 }), anyChange, (entries, day, change) => {
        const wrong = entry(day, change);
        expect(
          configurationOn([...entries, wrong, entry(70, null, { supersedes: wrong.id })], on(61)),
        ).toEqual(configurationOn(entries, on(61)));
      }),
    ));
  it('every fitted part is the last one fitted in its place that was not taken off since', () =>
    fc.assert(
      fc.property(ledger, fc.integer({ min: 0, max: 61 }), (entries, day) => {
        const { parts } = configurationOn(entries, on(day));
        for (const category of PART_CATEGORIES) {
          const last = standingEntries(entries)
            .filter(
              (e) =>
                Date.parse(e.at) <= Date.parse(on(day)) &&
                (e.change?.kind === 'part fitted' || e.change?.kind === 'returned to stock') &&
                e.change.category === category,
            )
            .at(-1);
          expect(parts[category]?.partRevisionId).toBe(
            last?.change?.kind === 'part fitted' ? last.change.partRevisionId : undefined,
          );
        }
      }),
    ));
  it('a day-long tie is decided by which entry was written later', () => {
    const first = entry(3, fit('intake', 'a'), { enteredAt: '2026-01-03T02:00:00Z' });
    const second = entry(3, fit('intake', 'b'), { enteredAt: '2026-01-03T03:00:00Z' });
    expect(configurationOn([second, first], on(3)).parts.intake?.partRevisionId).toBe('b');
  });
});

describe('differences', () => {
  it('are none between like configurations, and turn round with their sides', () =>
    fc.assert(
      fc.property(ledger, ledger, (one, other) => {
        const [a, b] = [configurationOn(one, on(61)), configurationOn(other, on(61))];
        expect(configurationDifferences(a, a, names)).toEqual([]);
        expect(
          configurationDifferences(a, b, names)
            .map((d) => d.subject)
            .sort(),
        ).toEqual(
          configurationDifferences(b, a, names)
            .map((d) => d.subject)
            .sort(),
        );
      }),
    ));
  it('name the setting of an option', () =>
    expect(
      configurationDifferences(
        configurationOn([entry(1, fit('exhaust section', 'x', { insert: 'in' }))], on(2)),
        configurationOn([entry(1, fit('exhaust section', 'x', { insert: 'out' }))], on(2)),
        names,
      ),
    ).toEqual([{ subject: 'exhaust section', from: 'x in', to: 'x out' }]));
});

describe('is this stock?', () => {
  const stock = { tyres: '205/55 R16', fuel: 'petrol 95 RON' };
  const fresh = [
    entry(1, { kind: 'service', item: 'air filter' }, { odometerKm: 10_000 }),
    entry(1, { kind: 'service', item: 'oil' }, { odometerKm: 10_000 }),
    entry(1, { kind: 'tyres', text: '205/55 r16 ' }),
    entry(1, { kind: 'fuel', text: '95 RON pump' }),
  ];
  const ask = (more: LedgerEntry[], day = 20, km: number | null = 11_000) =>
    isStock(configurationOn([...fresh, ...more], on(day)), stock, on(day), km, names);
  it('yes, when nothing says otherwise and what matters is on record', () =>
    expect(ask([])).toEqual({ stock: 'yes', notStock: [], worn: [], notRecorded: [] }));
  it('unknown, when what matters was never written down', () =>
    expect(isStock(AS_DELIVERED, stock, on(1), null, names)).toMatchObject({
      stock: 'unknown',
      notRecorded: [{ subject: 'air filter' }, { subject: 'oil' }, { subject: 'tyres' }],
    }));
  test.each<[string, LedgerChange, string]>([
    ['a part', fit('intake', 'ram'), 'PART_FITTED'],
    ['a calibration', { kind: 'calibration', calibrationId: 'touring' }, 'CALIBRATION'],
    ['winter tyres', { kind: 'tyres', text: '205/55 R16 winter' }, 'TYRES'],
    ['another fuel', { kind: 'fuel', text: 'E85' }, 'FUEL'],
    ['something else', { kind: 'other change', text: 'rev limit raised' }, 'OTHER_CHANGE'],
  ])('no, with %s', (_what, change, code) =>
    expect(ask([entry(2, change)])).toMatchObject({ stock: 'no', notStock: [{ code }] }),
  );
  it('a worn filter is told, by days and by kilometres', () => {
    expect(ask([], 400).worn.map((d) => d.subject)).toEqual(['air filter', 'oil']);
    expect(ask([], 20, 31_000).worn.map((d) => d.subject)).toEqual(['air filter', 'oil']);
    expect(ask([], 20, null).worn).toEqual([]);
  });
});

test.each([
  ['95 RON pump', 'petrol 95 RON', true],
  ['98 RON', 'petrol 95 RON', false],
  ['EN 590 diesel', 'diesel', true],
  ['E85', 'petrol 98 RON', false],
  ['petrol', '98 RON', true],
  ['diesel', 'petrol', false],
])('fuelAgrees: %s and %s: %s', (a, b, agrees) => {
  expect(fuelAgrees(a, b)).toBe(agrees);
  expect(fuelAgrees(b, a)).toBe(agrees);
});

test('the odometer on a day is the highest reading written down by then, or not known', () => {
  const at = (day: number) => `2026-03-${String(day).padStart(2, '0')}T00:00:00Z`;
  const entries = [
    [3, 11_000],
    [5, 10_500],
    [9, 12_000],
    [10, null],
  ].map(([day, odometerKm]) => ({
    id: `${day}`,
    at: at(day!),
    enteredAt: at(day!),
    odometerKm,
    supersedes: null,
    change: null,
  }));
  expect(odometerOn(entries, at(1))).toBeNull();
  expect(odometerOn(entries, at(6))).toBe(11_000);
  expect(odometerOn(entries, at(10))).toBe(12_000);
});
