import Papa from 'papaparse';
import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { isEmbargoed } from './embargo.ts';
import { carryOver, servedTogether, type FamilyMember } from './family.ts';
import { nearestToDirect } from './gears.ts';
import { askedFor, foundBy, plainWords, yearsBetween } from './phrase.ts';
import {
  planImport,
  readDate,
  readNumber,
  MAX_TABLE_ROWS,
  readTable,
  writeTable,
  type ColumnSpec,
  type RowValues,
} from './spreadsheet.ts';
import { EVIDENCE_STATES, worthTesting } from './worth-testing.ts';

describe('embargo', () => {
  it('ends with the beginning of its day', () =>
    expect([
      isEmbargoed('2027-03-01', new Date('2027-02-28T23:59:59Z')),
      isEmbargoed('2027-03-01', new Date('2027-03-01T00:00:00Z')),
      isEmbargoed(null, new Date()),
    ]).toEqual([true, false, false]));
});

describe('families', () => {
  const base: FamilyMember = {
    id: 'a',
    family: 'F',
    engineCode: 'E',
    outputVariant: '100 kW',
    ratedPowerKw: 100,
    aspiration: 'turbo',
    ignition: 'spark',
    fuel: 'petrol',
    transmission: 'manual',
    drivenWheels: 'front',
  };
  it('one output is served together, whatever the gearbox; another output is not', () => {
    const members = [
      base,
      { ...base, id: 'b', transmission: 'automatic' },
      { ...base, id: 'c', ratedPowerKw: 85, outputVariant: '85 kW' },
      { ...base, id: 'd', ratedPowerKw: 100.5, outputVariant: '136 PS' },
    ];
    expect(servedTogether(members).map((g) => g.members.map((m) => m.id))).toEqual([['a', 'b', 'd'], ['c']]);
    expect(carryOver(base, members[1])).toEqual({
      state: 'serves',
      bars: [],
      differs: ['transmission: automatic, tested manual'],
    });
    expect(carryOver(base, members[2])).toMatchObject({ state: 'barred', bars: [{ code: 'OTHER_OUTPUT' }] });
  });
  it('what bars one way bars the other', () =>
    fc.assert(
      fc.property(
        fc.record({
          family: fc.constantFrom('F', 'G'),
          engineCode: fc.constantFrom('E', 'H'),
          ratedPowerKw: fc.constantFrom(100, 100.4, 120),
          aspiration: fc.constantFrom('turbo', 'natural'),
        }),
        (change) => {
          const other = { ...base, ...change, id: 'z' };
          expect(carryOver(base, other).bars.map((b) => b.code)).toEqual(
            carryOver(other, base).bars.map((b) => b.code),
          );
        },
      ),
    ));
});

describe('phrases', () => {
  test.each([
    ['2,2D Van', ['2.2', 'd', 'van']],
    ['Moor 4.2 V8 4×4', ['moor', '4.2', 'v', '8', '4x4']],
    ['Ménage-12', ['menage', '12']],
    ['  ', []],
  ])('plainWords(%s)', (text, words) => expect(plainWords(text)).toEqual(words));
  it('a phrase made of the words of a record always finds it', () =>
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[a-z]{3,8}$|^\d\.\d$|^\d{4}$/), { minLength: 1, maxLength: 8 }),
        (facts) => {
          const text = foundBy(...facts);
          for (const words of askedFor([...facts].reverse().join(' ')))
            expect(words.some((word) => text.includes(word))).toBe(true);
        },
      ),
    ));
  it('years stand one by one', () => expect(yearsBetween(2021, null, 2023)).toEqual([2021, 2022, 2023]));
});

describe('spreadsheets', () => {
  const specs: readonly ColumnSpec<'sku' | 'name' | 'hours' | 'units' | 'day' | 'markets' | 'kind'>[] = [
    { field: 'sku', header: 'SKU', kind: 'text', required: true, aliases: ['article'] },
    { field: 'name', header: 'Name', kind: 'text' },
    { field: 'hours', header: 'Hours', kind: 'number', min: 0, max: 100 },
    { field: 'units', header: 'Units', kind: 'whole' },
    { field: 'day', header: 'Day', kind: 'date' },
    { field: 'markets', header: 'Markets', kind: 'list' },
    { field: 'kind', header: 'Kind', kind: 'text', oneOf: ['road legal', 'unknown'] },
  ];
  const key = (v: RowValues): string => String((v as { sku?: string }).sku).toLowerCase();
  it.each([
    ['tab', 'Article\tHours\nA-1\t1.5\n'],
    ['semicolon and decimal comma', 'article;hours\r\nA-1;1,5\r\n'],
    ['comma', '\ufeffARTICLE,"Hours"\n"A-1","1.5"\n'],
    ['a blank line before', '\n\nArticle,Hours\nA-1,1.5'],
  ])('reads a table by %s', (_what, text) =>
    expect(readTable(text, specs)).toMatchObject({
      rows: [{ values: { sku: 'A-1', hours: 1.5 } }],
      problems: [],
      columns: ['sku', 'hours'],
    }),
  );
  it('tells a row that has more cells than columns, instead of reading it shifted', () => {
    const { rows, problems } = readTable('SKU,Hours,Units\nA-1,1,50,7\nA-2,1.5,7\nA-3,2,8,,\n', specs);
    expect(problems).toEqual([
      { line: 2, column: null, message: expect.stringContaining('has 4 cells under 3 columns') as string },
    ]);
    expect(problems[0].message).toContain('decimal comma');
    // Empty cells behind the last column are no cells.
    expect(rows.map((r) => r.values.sku)).toEqual(['A-2', 'A-3']);
  });
  it.each([
    ['"1,234"', 'could be'],
    ['"12,50"', undefined],
    ['"1,234.5"', undefined],
    ['1e5', 'is not a number'],
    ['101', 'lies outside'],
  ])('a number written %s', (cell, problem) => {
    const { problems } = readTable(`SKU,${problem === undefined ? 'Price' : 'Hours'}\nA-1,${cell}\n`, [
      ...specs,
      { field: 'price' as 'hours', header: 'Price', kind: 'number' },
    ]);
    expect(problems.map((p) => p.message).join()).toEqual(
      problem === undefined ? '' : expect.stringContaining(problem),
    );
  });
  it('refuses cells longer than anybody writes, and tables longer than are read at once', () => {
    expect(readTable(`SKU,Name\nA-1,${'x'.repeat(10_001)}\n`, specs).problems[0]).toMatchObject({
      line: 2,
      column: 'Name',
    });
    const long = readTable(`SKU,Name\n${'A-1,x\n'.repeat(MAX_TABLE_ROWS + 2)}`, specs);
    expect(long.problems[0].message).toContain(`more than ${MAX_TABLE_ROWS} rows`);
    expect(long.rows).toEqual([]);
  });
  it.each(['=1+1', '+1', '-cmd', '@sum', '\t=1', '=1\nsecond line', ' =1', '\n=1'])(
    'a text that a spreadsheet would run (%j) is written so that none does, and read again',
    (name) => {
      const written = writeTable(specs, [{ sku: 'A-1', name }]);
      const [, row] = Papa.parse<string[]>(written).data;
      expect(row[1].startsWith("'")).toBe(true);
      expect(readTable(written, specs).rows[0].values.name).toBe(name.trim());
    },
  );
  it('lists keep their parts, without the blanks and marks around them', () => {
    const { rows } = readTable('SKU\tMarkets\nA-1\t EU ;  US|; UK \n', specs);
    expect(rows[0].values.markets).toEqual(['EU', 'US', 'UK']);
  });
  it('lists every problem by line and column, and names unknown headers', () => {
    const { problems, rows, unknownHeaders } = readTable(
      'SKU;Hours;Units;Day;Kind;Colour\nA;-1;1,5;31.2.2026;nice;red\n;2;3;2026-02-28;Road-Legal;blue\nB;2;3;28.02.2026;ROAD LEGAL;x\n',
      specs,
    );
    expect(problems.map((p) => `${p.line} ${p.column}`)).toEqual([
      '2 Hours',
      '2 Units',
      '2 Day',
      '2 Kind',
      '3 SKU',
    ]);
    expect(rows).toEqual([
      { line: 4, values: { sku: 'B', hours: 2, units: 3, day: '2026-02-28', kind: 'road legal' } },
    ]);
    expect(unknownHeaders).toEqual(['Colour']);
  });
  it('what it writes it reads again', () =>
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc.record({
            sku: fc.stringMatching(/^[A-Z0-9=+@-]{1,8}$/),
            name: fc.option(
              fc
                .stringMatching(/^[ -~]{0,20}$/)
                .map((t) => t.replace(/^[' ]+/, '').trim())
                .filter((t) => t !== ''),
            ),
            hours: fc.option(fc.double({ min: 0, max: 100, noNaN: true }).map((v) => Number(v.toFixed(3)))),
            markets: fc.array(fc.stringMatching(/^[A-Z]{2}$/), { maxLength: 3 }),
          }),
          { selector: (r) => r.sku.toLowerCase(), minLength: 1, maxLength: 10 },
        ),
        (records) => {
          const read = readTable(writeTable(specs, records), specs);
          expect(read.problems).toEqual([]);
          const existing = new Map(records.map((r) => [r.sku.toLowerCase(), { id: r.sku, values: r }]));
          expect(planImport(read, key, existing).rows.map((row) => row.action)).toEqual(
            records.map(() => 'keep'),
          );
        },
      ),
    ));
  it('a key twice in one table is a problem, a column left out changes nothing', () => {
    const plan = planImport(
      readTable('SKU,Name\nA,new\na,other\nB,same\n', specs),
      key,
      new Map([
        ['a', { id: '1', values: { sku: 'A', name: 'old', hours: 4 } }],
        ['b', { id: '2', values: { sku: 'B', name: 'same', hours: 9 } }],
      ]),
    );
    expect(plan.problems).toMatchObject([{ line: 3 }]);
    expect(plan.rows).toMatchObject([
      { action: 'change', changes: [{ field: 'name', from: 'old', to: 'new' }] },
      { action: 'keep' },
    ]);
  });
  it('never throws, whatever is pasted', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        const read = readTable(text, specs);
        expect(read.rows.length === 0 || read.columns.length > 0).toBe(true);
      }),
    ));
  test.each([
    ['1 234,5', 1234.5],
    ['1.234,50', 1234.5],
    ['1,234.5', 1234.5],
    ['12.345.678', 12345678],
    ['−3', -3],
    ['1,5', 1.5],
    ['1.2.3', undefined],
    ['', undefined],
    ['12a', undefined],
    ['.', undefined],
  ])('readNumber(%s)', (text, value) => expect(readNumber(text)).toBe(value));
  test.each([
    ['2026-02-29', undefined],
    ['2028-02-29', '2028-02-29'],
    ['3/4/2026', '2026-04-03'],
    ['soon', undefined],
  ])('readDate(%s)', (text, value) => expect(readDate(text)).toBe(value));
});

describe('worth testing next', () => {
  const base = {
    state: 'untested' as const,
    familyServed: false,
    unitsPerYear: 1000,
    launchInDays: null,
    dynoHours: 4,
  };
  it('is demand by how little is known by hours', () => {
    expect(worthTesting(base)).toBe(250);
    expect(worthTesting({ ...base, dynoHours: 8 })).toBe(125);
    expect(worthTesting({ ...base, familyServed: true })).toBe(125);
    expect(worthTesting({ ...base, launchInDays: 0 })).toBeCloseTo(750, 9);
    expect(worthTesting({ ...base, launchInDays: -1 })).toBe(250);
    expect(worthTesting({ ...base, unitsPerYear: 0 })).toBe(0.25);
  });
  it('an untested part is never worth less than one that is known', () => {
    for (const state of EVIDENCE_STATES)
      expect(worthTesting({ ...base, state })).toBeLessThanOrEqual(worthTesting(base));
  });
});

test('the gear nearest 1:1 is nearest by ratio, not by difference', () => {
  expect(
    nearestToDirect([
      { name: '3', ratio: 1.36 },
      { name: '4', ratio: 1.03 },
      { name: '5', ratio: 0.84 },
    ])?.name,
  ).toBe('4');
  expect(
    nearestToDirect([
      { name: 'x', ratio: 0.8 },
      { name: 'y', ratio: 1.22 },
    ])?.name,
  ).toBe('y');
  expect(nearestToDirect([])).toBeUndefined();
});
