import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { AirError } from '../base/errors.ts';
import { readAirFile, type AirFileOptions } from './air-file.ts';
import { airCorpus } from './corpus/air-corpus.ts';
import { clockSeconds, momentRecorded, readMoment, slashedOrder } from './moments.ts';
import { readDate } from './recorded.ts';

const HERE: AirFileOptions = { timeZone: 'Europe/Oslo', file: 'air.csv' };
const read = (text: string, options: Partial<AirFileOptions> = {}) =>
  readAirFile(new TextEncoder().encode(text), { ...HERE, ...options });
const HEAD = 'Time,Air temperature (°C),Station pressure (hPa),Relative humidity (%)';
const ROWS = ['2026-11-26T10:00:00Z,20.1,1004.0,48', '2026-11-26T10:05:00Z,20.3,1003.8,49'];
const file = (head = HEAD, rows: readonly string[] = ROWS): string => [head, ...rows, ''].join('\n');
function refusal(text: string, options: Partial<AirFileOptions> = {}): AirError {
  try {
    read(text, options);
  } catch (error) {
    if (error instanceof AirError) return error;
    throw error;
  }
  throw new Error('the file was taken');
}

describe('the file of a station that cannot be told is asked about, never guessed', () => {
  test.each([
    [
      'no temperature',
      file(HEAD.replace('Air temperature (°C)', 'Wind')),
      /No column holds the air temperature/,
    ],
    [
      'two temperatures',
      file(
        `${HEAD},Cell temperature (°C)`,
        ROWS.map((r) => `${r},21`),
      ),
      /“Air temperature \(°C\)” and “Cell temperature \(°C\)” could each be/,
    ],
    [
      'a pressure that does not say which',
      file(HEAD.replace('Station p', 'P')),
      /read at the site or reduced/,
    ],
    ['a pressure without a unit', file(HEAD.replace(' (hPa)', '')), /The unit of the pressure is not stated/],
    ['no humidity', file(HEAD.replace('Relative humidity', 'Wind')), /No column holds the humidity/],
    [
      'a date either way round',
      file(HEAD, ['04/05/2026 10:00,20,1004,48', '04/05/2026 10:05,20,1004,48']),
      /line 2: In dates such as “04\/05\/2026 10:00” day and month could be either way round/,
    ],
    [
      'a clock without a day',
      file(HEAD, ['10:00,20,1004,48', '10:05,20,1004,48']),
      /on which day it was read/,
    ],
    [
      'a line that is no JSON',
      '{"time": "2026-11-26T10:00:00Z"}\n{"time"\n',
      /line 2: The line is not a JSON object/,
    ],
    ['no table at all', 'nothing to see\n', /No table of numbers was found/],
  ])('%s', (_what, text, message) => {
    const error = refusal(text);
    expect(error.code).toBe('AIR_FILE_UNREADABLE');
    expect(error.message).toMatch(message);
    expect(error.message).toContain('air.csv');
  });
  it('answers by a person are taken', () => {
    const unsaid = file(HEAD.replace('Station p', 'P'));
    expect(read(unsaid, { pressureKind: 'sea level' }).readings[0].pressureKind).toBe('sea level');
    const two = file(
      `${HEAD},Cell temperature (°C)`,
      ROWS.map((r) => `${r},21`),
    );
    expect(read(two, { temperature: 'Cell temperature (°C)' }).readings[0].temperatureC).toBe(21);
  });
  it('what the file says outranks what a person says of the pressure', () =>
    expect(read(file(), { pressureKind: 'sea level' }).pressureKind).toBe('station'));
  it('a clock that is ahead is put back', () =>
    expect(read(file(), { clockAheadS: 90 }).readings[0].at).toBe(Date.UTC(2026, 10, 26, 9, 58, 30)));
  it('a row without a value, and one at a moment that was there, are left out and told', () => {
    const { readings, findings } = read(file(HEAD, [...ROWS, '2026-11-26T10:10:00Z,--,1004,48', ROWS[0]]));
    expect(readings).toHaveLength(2);
    expect(findings.map((f) => [f.code, f.line])).toEqual([
      ['READINGS_LEFT_OUT', 4],
      ['TIME_NOT_RISING', 5],
    ]);
  });
  it('a clock goes on past midnight', () => {
    const { readings } = read(`Date: 2026-11-26\n${file(HEAD, ['23:58,20,1004,48', '00:03,20,1004,48'])}`);
    expect(readings[1].at - readings[0].at).toBe(300_000);
  });
  it('bytes with something wrong are read as before, refused, or leave rows out: never crash', () => {
    const corpus = airCorpus();
    fc.assert(
      fc.property(
        fc.nat(corpus.length - 1),
        fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 4 }),
        (which, changes) => {
          const bytes = Uint8Array.from(corpus[which].bytes);
          for (const [at, byte] of changes) bytes[at % bytes.length] = byte;
          try {
            const { readings } = readAirFile(bytes, corpus[which].options);
            for (let i = 1; i < readings.length; i++)
              expect(readings[i].at).toBeGreaterThan(readings[i - 1].at);
          } catch (error) {
            expect(error).toBeInstanceOf(AirError);
          }
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('moments', () => {
  const at = (text: string): string | undefined => {
    const moment = readMoment(text, 'Europe/Oslo', 'day first');
    return moment === undefined ? undefined : new Date(moment).toISOString();
  };
  test.each([
    ['2026-11-26T10:00:00+01:00', '2026-11-26T09:00:00.000Z'],
    ['2026-11-26 10:00', '2026-11-26T09:00:00.000Z'],
    ['26.11.2026 10:00:30,5', '2026-11-26T09:00:30.500Z'],
    ['26/11/2026 2:05 PM', '2026-11-26T13:05:00.000Z'],
    ['26 Nov 2026 10:00', '2026-11-26T09:00:00.000Z'],
    ['1795683600', '2026-11-26T09:00:00.000Z'],
    ['1795683600000', '2026-11-26T09:00:00.000Z'],
    // Summer time at the site, by its zone.
    ['2026-07-01 10:00', '2026-07-01T08:00:00.000Z'],
    ['2026-02-30 10:00', undefined],
    ['2026-11-26', undefined],
    ['26.11.2026 25:00', undefined],
    ['yesterday 10:00', undefined],
  ])('%s', (text, moment) => expect(at(text)).toBe(moment));
  it('a recording began at the moment its file says, by its own zone or the clock of the site', () => {
    const began = (text: string): string | undefined => {
      const moment = momentRecorded(readDate(text)!, 'Europe/Oslo');
      return moment === undefined ? undefined : new Date(moment).toISOString();
    };
    expect(began('2026-11-26T10:00:30+02:00')).toBe('2026-11-26T08:00:30.000Z');
    expect(began('2026-11-26 10:00')).toBe('2026-11-26T09:00:00.000Z');
    expect(began('26.11.2026')).toBeUndefined();
  });
  it('a column of slashed dates tells its order, or nobody can', () => {
    expect(slashedOrder(['04/05/2026', '13/05/2026'])).toBe('day first');
    expect(slashedOrder(['04/05/2026', '04/13/2026'])).toBe('month first');
    expect(slashedOrder(['04/05/2026'])).toBeUndefined();
    expect(slashedOrder(['13/05/2026', '04/13/2026'])).toBeUndefined();
    expect(slashedOrder(['2026-11-26'])).toBe('none');
  });
  it('midnight and noon of a clock with halves', () => {
    expect(clockSeconds('12:00 AM')).toBe(0);
    expect(clockSeconds('12:00 PM')).toBe(43_200);
    expect(clockSeconds('13:00 PM')).toBeUndefined();
  });
});
