import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { PullFileError } from '../base/errors.ts';
import { torqueNm } from '../base/units.ts';
import { readPullFile } from './pull-file.ts';
import { type PullFileOptions } from './pull-file-types.ts';

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
/** Forty samples of a pull: 2000 to 5900 rpm, torque 150 N·m with a slope that any mix-up would break. */
const samples = Array.from({ length: 40 }, (_, i) => ({
  t: i * 0.1,
  rpm: 2000 + i * 100,
  nm: 150 + i * 0.25,
}));
const table = (header: string, cells: (s: (typeof samples)[number]) => string, sep = '\n'): string =>
  [header, ...samples.map(cells)].join(sep) + sep;
const plain = table('Time (s),Engine speed (rpm),Torque (N·m)', (s) => `${s.t.toFixed(1)},${s.rpm},${s.nm}`);
const read = (text: string | Uint8Array, options?: PullFileOptions) =>
  readPullFile(typeof text === 'string' ? utf8(text) : text, { file: 'a.csv', ...options });
function refusal(text: string | Uint8Array, options?: PullFileOptions): PullFileError {
  try {
    read(text, options);
  } catch (error) {
    if (error instanceof PullFileError) return error;
    throw error;
  }
  throw new Error('the file was taken');
}
const agrees = (file: ReturnType<typeof read>, tolerance = 1e-9): void => {
  expect(file.samples).toBe(40);
  samples.forEach((s, i) => {
    expect(Math.abs(file.rpm[i] - s.rpm)).toBeLessThan(1e-6);
    expect(Math.abs(file.torqueNm[i] / s.nm - 1)).toBeLessThan(tolerance);
  });
};

describe('finds out by itself', () => {
  const de = (v: number): string => String(v).replace('.', ',');
  test.each([
    ['commas', plain],
    ['tabs', plain.replaceAll(',', '\t')],
    ['bars', plain.replaceAll(',', '|')],
    ['CRLF', plain.replaceAll('\n', '\r\n')],
    ['trailing delimiters', plain.replaceAll('\n', ',\n')],
    ['blank lines', plain.replaceAll('\n', '\n\n')],
    [
      'semicolons with decimal commas',
      table('Zeit;Motordrehzahl;Drehmoment (Nm)', (s) => `${de(s.t)};${s.rpm};${de(s.nm)}`),
    ],
    [
      'thousands marks',
      table(
        'Time (s);RPM;Torque (Nm)',
        (s) => `${de(s.t)};${String(s.rpm).replace(/(\d)(\d{3})/, '$1.$2')};${de(s.nm)}`,
      ),
    ],
    [
      'quoted cells with decimal commas',
      table('"Time","Engine speed","Torque [Nm]"', (s) => `"${de(s.t)}","${s.rpm}","${de(s.nm)}"`),
    ],
    ['units in a row below', table('Time,RPM,Torque\ns,1/min,Nm', (s) => `${s.t},${s.rpm},${s.nm}`)],
    ['units after the name', table('Time_s,Engine speed rpm,Torque Nm', (s) => `${s.t},${s.rpm},${s.nm}`)],
    [
      'columns in another order and unknown ones',
      table('Torque(Nm),Mystery,RPM,Time', (s) => `${s.nm},x${s.rpm},${s.rpm},${s.t}`),
    ],
  ])('%s', (_what, text) => agrees(read(text)));

  it('a preamble, kept as metadata', () => {
    const file = read(`# Dyno = Cell 1\nCar: Oriel Tern, grey\n\n${plain}`);
    agrees(file);
    expect(file.metadata).toEqual({ Dyno: 'Cell 1', Car: 'Oriel Tern, grey' });
    expect(file.headerLine).toBe(4);
  });
  it('UTF-16 either way, with and without mark, and Latin-1', () => {
    const le = Buffer.from(plain, 'utf16le');
    const be = Buffer.from(le).swap16();
    for (const [bytes, encoding] of [
      [Buffer.concat([Buffer.from([0xff, 0xfe]), le]), 'utf-16le'],
      [le, 'utf-16le'],
      [Buffer.concat([Buffer.from([0xfe, 0xff]), be]), 'utf-16be'],
      [be, 'utf-16be'],
      [Buffer.from(plain, 'latin1'), 'latin-1'],
      [Buffer.concat([Buffer.from([0xef, 0xbb, 0xbf]), Buffer.from(plain)]), 'utf-8'],
    ] as const) {
      const file = read(bytes);
      agrees(file);
      expect(file.encoding).toBe(encoding);
    }
  });
  it('torque from power, and from roller force with roller speed', () => {
    agrees(read(table('RPM,Power (kW)', (s) => `${s.rpm},${(s.nm * s.rpm) / 9549.296585513721}`)), 1e-9);
    const file = read(
      table(
        'RPM,Roller force (N),Roller speed (m/s)',
        (s) => `${s.rpm},${(s.nm * s.rpm * Math.PI) / 30 / 25},25`,
      ),
    );
    expect(file.torqueFrom).toBe('roller force');
    agrees(file, 1e-9);
  });
  it('other units', () =>
    agrees(
      read(table('Time (ms),RPM,Torque (lb-ft)', (s) => `${s.t * 1000},${s.rpm},${s.nm / 1.3558179483314}`)),
      1e-9,
    ));
  it('samples out of order by their time, as a finding', () => {
    const lines = plain.trim().split('\n');
    [lines[5], lines[6]] = [lines[6], lines[5]];
    const file = read(lines.join('\n') + '\n');
    agrees(file);
    expect(file.findings).toMatchObject([{ code: 'TIME_NOT_RISING', line: 7 }]);
  });
  it('power that does not fit the torque, as a finding', () =>
    expect(
      read(table('RPM,Torque (Nm),Power (kW)', (s) => `${s.rpm},${s.nm},${(1.03 * s.nm * s.rpm) / 9549.3}`))
        .findings,
    ).toMatchObject([{ code: 'POWER_TORQUE_MISMATCH' }]));
  it('a sample with text in it, left out and said', () => {
    const file = read(plain.replace(/\n0\.5,.*\n/, '\n0.5,2500,overrun\n'));
    expect(file.samples).toBe(39);
    expect(file.findings).toMatchObject([{ code: 'SAMPLES_DROPPED', line: 7, column: 'Torque (N·m)' }]);
  });
  it('lambda from an air-fuel ratio only when the fuel is known', () => {
    const text = table('RPM,Torque (Nm),AFR', (s) => `${s.rpm},${s.nm},12.9`);
    expect(read(text).channels.lambda).toBeUndefined();
    expect(read(text, { fuel: 'petrol' }).channels.lambda![0]).toBeCloseTo(12.9 / 14.7, 12);
  });
});

describe('a caller’s choice of columns', () => {
  const two = table('RPM,Torque observed,Torque corrected', (s) => `${s.rpm},${s.nm},${s.nm * 1.03}`);
  it('decides between two that look alike', () =>
    agrees(read(two, { columns: { torque: { column: 'Torque observed', unit: 'N·m' } } })));
  it('names the columns there are when it names none of them', () =>
    expect(refusal(two, { columns: { torque: { column: 'Moment', unit: 'N·m' } } }).message).toMatch(
      /no column “Moment”.*RPM, Torque observed, Torque corrected/,
    ));
  it('takes power alone when only power is named', () =>
    expect(
      read(
        table('RPM,Torque (Nm),Power (kW)', (s) => `${s.rpm},1,${(s.nm * s.rpm) / 9549.3}`),
        { columns: { power: { column: 'Power' } } },
      ).torqueFrom,
    ).toBe('power'));
});

describe('refuses, and says file, line, column and what to do', () => {
  test.each<[string, string | Uint8Array, string, RegExp]>([
    ['an empty file', '', 'EMPTY_FILE', /a\.csv: The file is empty\. Copy it/],
    ['blank lines only', '\n \n', 'EMPTY_FILE', /blank lines/],
    ['a ZIP (a workbook)', new Uint8Array([0x50, 0x4b, 3, 4, 0, 0]), 'NOT_TEXT', /Export the sheet as CSV/],
    ['a picture', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 13]), 'NOT_TEXT', /picture/],
    ['binary', new Uint8Array(400).map((_, i) => i % 7), 'NOT_TEXT', /control characters/],
    ['prose', 'Dear all,\nthe dyno was busy.\n', 'NO_TABLE', /one header line/],
    [
      'numbers without a header',
      samples.map((s) => `${s.rpm},${s.nm}`).join('\n'),
      'NO_TABLE',
      /header line/,
    ],
    [
      'no engine speed',
      table('Time (s),Torque (Nm)', (s) => `${s.t},${s.nm}`),
      'NO_ENGINE_SPEED',
      /line 1: No column holds engine speed.*Time \(s\), Torque \(Nm\)/,
    ],
    [
      'no torque nor power',
      table('Time (s),RPM', (s) => `${s.t},${s.rpm}`),
      'NO_TORQUE_NOR_POWER',
      /line 1: No column holds torque or power/,
    ],
    [
      'torque without a unit',
      table('RPM,Torque', (s) => `${s.rpm},${s.nm}`),
      'UNIT_UNKNOWN',
      /line 1, column “Torque”: The unit of torque is not stated\. Say which it is: N·m, daN·m, lb·ft/,
    ],
    [
      'two torque columns',
      table('RPM,Torque observed (Nm),Torque corrected (Nm)', (s) => `${s.rpm},${s.nm},${s.nm}`),
      'AMBIGUOUS_COLUMNS',
      /“Torque observed \(Nm\)” and “Torque corrected \(Nm\)”/,
    ],
    [
      'text in numbers',
      table('RPM,Torque (Nm)', (s) => `${s.rpm},${s.rpm % 300 === 0 ? 'high' : s.nm}`),
      'TEXT_IN_NUMBERS',
      /line 3, column “Torque \(Nm\)”: “high” stands where a number belongs/,
    ],
    [
      'a file cut off in a line',
      plain.slice(0, plain.lastIndexOf(',')),
      'TRUNCATED_FILE',
      /line 41, column “Torque \(N·m\)”: The last line stops after 2 of 3 columns/,
    ],
    [
      'a file cut off in a number',
      table('RPM,Torque (Nm)', (s) => `${s.rpm},${s.nm.toFixed(3)}`).slice(0, -3),
      'TRUNCATED_FILE',
      /line 41.*shorter than every one above it/,
    ],
    [
      'too few samples',
      plain.split('\n').slice(0, 15).join('\n') + '\n',
      'TOO_FEW_SAMPLES',
      /Only 14 usable samples/,
    ],
  ])('%s', (_what, text, code, message) => {
    const error = refusal(text);
    expect(error.code).toBe(code);
    expect(error.message).toMatch(message);
    expect(error.action).not.toBe('');
  });
  it('a file over the limit, before it is read', () =>
    expect(refusal(new Uint8Array(60 * 1024 * 1024).fill(49)).message).toMatch(
      /60\.0 MB; a pull file may have 50 MB/,
    ));
});

describe('properties', () => {
  it('whatever bytes come, it answers with a pull or a typed refusal', () =>
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
        try {
          read(bytes);
        } catch (error) {
          return error instanceof PullFileError;
        }
        return true;
      }),
      { numRuns: 300 },
    ));
  it('so does any text', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        try {
          read(text);
        } catch (error) {
          return error instanceof PullFileError;
        }
        return true;
      }),
      { numRuns: 300 },
    ));
  it('what is written in any style is read back', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ rpm: fc.integer({ min: 1000, max: 9000 }), nm: fc.integer({ min: 1, max: 90000 }) }),
          { minLength: 25, maxLength: 60 },
        ),
        fc.constantFrom(',', ';', '\t', '|'),
        fc.constantFrom('.', ','),
        fc.boolean(),
        (rows, delimiter, decimal, crlf) => {
          fc.pre(!(delimiter === ',' && decimal === ','));
          const text =
            ['RPM', ...['']].join('') +
            `${delimiter}Torque (Nm)\n` +
            rows
              .map((r) => `${r.rpm}${delimiter}${(r.nm / 100).toFixed(2).replace('.', decimal)}`)
              .join('\n') +
            '\n';
          const file = read(crlf ? text.replaceAll('\n', '\r\n') : text);
          return (
            file.samples === rows.length &&
            rows.every((r, i) => file.rpm[i] === r.rpm && Math.abs(file.torqueNm[i] - r.nm / 100) < 1e-9)
          );
        },
      ),
      { numRuns: 150 },
    ));
});

test('power and torque are tied by P = T·ω in what it reads', () => {
  const file = read(table('RPM,Power (hp)', (s) => `${s.rpm},${s.rpm / 50}`));
  expect(
    Math.abs(file.torqueNm[7] / torqueNm((samples[7].rpm / 50) * 745.6998715822702, samples[7].rpm) - 1),
  ).toBeLessThan(1e-12);
});

describe('a head whose name and unit cannot both be right', () => {
  const found = (header: string, options?: PullFileOptions) =>
    read(
      table(header, (s) => `${s.t.toFixed(1)},${s.rpm},${s.nm}`),
      options,
    ).findings.map(({ code, column }) => [code, column]);
  it.each([
    ['Time (s),Engine speed (Nm),Torque (N·m)', 'Engine speed (Nm)'],
    ['Time (kW),Engine speed (rpm),Torque (N·m)', 'Time (kW)'],
  ])('%j is told', (header, column) => expect(found(header)).toEqual([['UNIT_OF_ANOTHER_KIND', column]]));
  it('one that can be is not', () => expect(found('Time (s),Engine speed (rpm),Torque (lb-ft)')).toEqual([]));
  it('a column that somebody says holds something else than its name is told', () => {
    const said = (column: string) =>
      found('Target torque (Nm),Engine speed (rpm),Torque (N·m)', { columns: { torque: { column } } });
    expect(said('Target torque')).toEqual([['COLUMN_NOT_AS_NAMED', 'Target torque (Nm)']]);
    expect(said('Torque')).toEqual([]);
    expect(
      found('Channel 7,Engine speed (rpm),Power', {
        columns: { torque: { column: 'Power', unit: 'N·m' }, throttle: { column: 'Channel 7' } },
      }),
    ).toEqual([['COLUMN_NOT_AS_NAMED', 'Power']]);
  });
  it('a unit that somebody overrules is told, too', () =>
    expect(
      found('Time (s),Engine speed (rpm),Torque (lb-ft)', {
        columns: { torque: { column: 'Torque', unit: 'N·m' } },
      }),
    ).toEqual([['UNIT_NOT_AS_STATED', 'Torque (lb-ft)']]));
});
