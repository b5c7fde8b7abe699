/** Files as loggers and spreadsheets really write them: each of these must be read, and read right. */
import { describe, expect, it, test } from 'vitest';
import { PullFileError } from '../base/errors.ts';
import { seededRng } from '../base/rng.ts';
import { rpmPerKmh, fuelOf, tyreRadiusM } from './reading-options.ts';
import { latestMoment, readDate, recordedIn } from './recorded.ts';
import { readPullFile } from './pull-file.ts';
import { type PullFileOptions } from './pull-file-types.ts';
import { findSweep, speedNoiseRpm } from './sweep.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (text: string, options: PullFileOptions = {}) => readPullFile(bytes(text), options);
/** Forty samples of a flat 150 N·m engine, as rows of cells. */
const samples = (row: (i: number) => string): string =>
  Array.from({ length: 40 }, (_, i) => row(i)).join('\n');
const rpmAt = (i: number): number => 2000 + 100 * i;

describe('the end of a file without a line end', () => {
  it('a last column that is empty in every row is not missing from the last one', () => {
    const file = read(`Time (s),RPM,Torque (Nm),Remark\n${samples((i) => `${i / 10},${rpmAt(i)},150`)}`);
    expect(file.samples).toBe(40);
  });
  it('a shorter last number is no cut where numbers drop their zeros', () => {
    const file = read(`RPM,Torque (Nm)\n${samples((i) => `${rpmAt(i)},${150 + (i % 4) / 4}`)}\n6100,151.5`);
    expect(file.torqueNm.at(-1)).toBe(151.5);
    expect(file.findings.map((f) => f.code)).toContain('NO_FINAL_LINE_END');
  });
  it('is still a cut where every number has its decimals', () =>
    expect(() =>
      read(`RPM,Torque (Nm)\n${samples((i) => `${rpmAt(i)},${(150 + i / 7).toFixed(3)}`)}\n6100,151.2`),
    ).toThrow(PullFileError));
});

describe('numbers', () => {
  it('“210,5” in a file with decimal points is 210.5, and said', () => {
    const file = read(
      `RPM;Torque (Nm)\n${samples((i) => `${rpmAt(i)};${i === 7 ? '210,5' : (150.25 + i / 2).toFixed(2)}`)}\n`,
    );
    expect(file.torqueNm[7]).toBe(210.5);
    expect(file.findings).toContainEqual(expect.objectContaining({ code: 'MIXED_DECIMALS', line: 9 }));
  });
  it('thousands marks stay thousands marks', () => {
    const file = read(
      `RPM;Torque (Nm)\n${samples((i) => `${rpmAt(i).toLocaleString('en')};${(150.25 + i / 2).toFixed(2)}`)}\n`,
    );
    expect(file.rpm[5]).toBe(2500);
    expect(file.findings.map((f) => f.code)).not.toContain('MIXED_DECIMALS');
  });
  it('humidity as a share is per cent inside', () => {
    const file = read(`RPM,Torque (Nm),Humidity\n${samples((i) => `${rpmAt(i)},150,0.48`)}\n`);
    expect(file.channels.humidity![3]).toBeCloseTo(48, 12);
    const percent = read(`RPM,Torque (Nm),Humidity\n${samples((i) => `${rpmAt(i)},150,48`)}\n`);
    expect(percent.channels.humidity![3]).toBe(48);
  });
});

describe('time', () => {
  const withTime = (stamp: (i: number) => string) =>
    read(`Time,RPM,Torque (Nm)\n${samples((i) => `${stamp(i)},${rpmAt(i)},150`)}\n`);
  const steps = (time: Float64Array): number => (time.at(-1)! - time[0]) / (time.length - 1);
  const two = (n: number): string => String(n).padStart(2, '0');
  test.each<[string, (i: number) => string]>([
    ['a time of day', (i) => `14:07:${two(i)}.500`],
    ['an ISO time stamp', (i) => `2026-11-24T14:07:${two(i)}.500`],
    ['an ISO time stamp with its zone', (i) => `2026-11-24 14:07:${two(i)}.5+01:00`],
    ['a session clock over 1 000 s', (i) => `${5231.5 + i}`],
    ['milliseconds', (i) => `${5_231_500 + 1000 * i}`],
  ])('%s is in seconds', (_what, stamp) => expect(steps(withTime(stamp).channels.time!)).toBeCloseTo(1, 9));
});

describe('lines and headers', () => {
  it('a preamble of CRLF above rows of LF', () => {
    const file = read(
      `# Logger: made up\r\n# Date: 2026-11-24\r\nRPM,Torque (Nm)\n${samples((i) => `${rpmAt(i)},150`)}\n`,
    );
    expect(file).toMatchObject({ samples: 40, headerLine: 3, metadata: { Logger: 'made up' } });
  });
  it('a single comment line', () =>
    expect(
      read(`# third pull of the morning\nRPM,Torque (Nm)\n${samples((i) => `${rpmAt(i)},150`)}\n`),
    ).toMatchObject({
      samples: 40,
      headerLine: 2,
    }));
  test.each([
    ['units after a comma', 'Engine speed, 1/min;Torque, Nm'],
    ['German', 'Motordrehzahl [1/min];Drehmoment [Nm]'],
    ['French', 'Régime moteur (tr/min);Couple (Nm)'],
    ['Spanish', 'Régimen del motor (rpm);Par motor (Nm)'],
    ['Italian', 'Giri motore (rpm);Coppia (Nm)'],
    ['Dutch', 'Toerental (rpm);Koppel (Nm)'],
    ['Swedish', 'Varvtal (rpm);Vridmoment (Nm)'],
    ['a units row alone', 'Drehzahl;Drehmoment\n1/min;Nm'],
    ['a units row in brackets', 'Engine speed;Torque\n[rpm];[Nm]'],
  ])('%s', (_what, header) => {
    const file = read(`${header}\n${samples((i) => `${rpmAt(i)};150`)}\n`);
    expect([file.rpm[1], file.torqueNm[1]]).toEqual([2100, 150]);
    expect(file.columns.map((c) => c.unit)).toEqual(['rpm', 'N·m']);
  });
});

it('power logged more slowly than torque costs no samples of torque', () => {
  const file = read(
    `RPM,Torque (Nm),Power (kW)\n${samples((i) => `${rpmAt(i)},150,${i % 5 ? '' : (150 * rpmAt(i)) / 9549.2966}`)}\n`,
  );
  expect(file).toMatchObject({ samples: 40, torqueFrom: 'torque' });
  expect(file.findings).toEqual([]);
});

describe('a noisy speed signal', () => {
  const rng = seededRng(5);
  // 300 rpm/s at 100 Hz with an SD of 30 rpm, as a bad ignition pick-up gives it.
  const rpm = Float64Array.from({ length: 1500 }, (_, i) => 2000 + 3 * i + 30 * rng.normal());
  it('is measured', () => expect(Math.abs(speedNoiseRpm(rpm) / 30 - 1)).toBeLessThan(0.15));
  it('does not cut a sweep in two', () => {
    const sweep = findSweep({ rpm, timeS: Float64Array.from(rpm, (_, i) => i / 100) });
    expect(sweep.toRpm - sweep.beganRpm).toBeGreaterThan(4300);
    expect(sweep.secondRiseRpm).toBeLessThan(400);
  });
  it('a quiet one still ends where it falls, and a second rise is told', () => {
    const two = Float64Array.from({ length: 600 }, (_, i) =>
      i < 300 ? 2000 + 10 * i : 2500 + 8 * (i - 300),
    );
    const sweep = findSweep({ rpm: two });
    expect(sweep.toRpm).toBeCloseTo(4990, 0);
    expect(sweep.secondRiseRpm).toBeGreaterThan(2000);
  });
});

describe('what the register knows', () => {
  it('turns vehicle speed into engine speed', () => {
    // 205/55 R16: 0.5·16·25.4 + 0.55·205 = 315.95 mm; one turn 1.9852 m, 503.7 turns a km.
    const radius = tyreRadiusM('205/55 R16 91V')!;
    expect(radius).toBeCloseTo(0.31595, 10);
    const ratio = rpmPerKmh(1, 4, radius);
    expect(ratio).toBeCloseTo((4 * 503.734) / 60, 3);
    const file = read(`Vehicle speed (km/h),Torque (Nm)\n${samples((i) => `${60 + 2 * i},150`)}\n`, {
      rpmPerKmh: ratio,
    });
    expect(file.rpm[0]).toBeCloseTo(60 * ratio, 9);
  });
  it('turns roller force and turns into power', () => {
    const file = read(
      `RPM,Roller force (N),Roller speed (rpm)\n${samples((i) => `${rpmAt(i)},1000,${500 + i}`)}\n`,
      { rollerRadiusM: 0.25 },
    );
    expect(file.torqueFrom).toBe('roller force');
    expect(file.torqueNm[0]).toBeCloseTo((1000 * 500 * 0.25) / 2000, 9);
  });
  test.each([
    ['95 RON pump', 'petrol'],
    ['petrol E10', 'e10'],
    ['E85', 'e85'],
    ['diesel EN 590', 'diesel'],
    ['unknown brew', undefined],
  ])('reads %s as %s', (text, fuel) => expect(fuelOf(text)).toBe(fuel));
});

describe('when a file says it was recorded', () => {
  test.each([
    ['2026-11-24', '2026-11-24', null],
    ['2026-11-24T14:07:30', '2026-11-24', 14 * 3600 + 7 * 60 + 30],
    ['24.11.2026, 14:07', '2026-11-24', 14 * 3600 + 7 * 60],
    ['24 November 2026', '2026-11-24', null],
  ])('reads %s', (text, day, seconds) => expect(readDate(text)).toMatchObject({ day, seconds }));
  test.each(['11/10/2026', '31.2.2026', 'pull 3', ''])('takes “%s” for no date', (text) =>
    expect(readDate(text)).toBeUndefined(),
  );
  it('takes the preamble before the time stamps', () => {
    expect(recordedIn({ Title: '2020-01-01', Date: '2026-11-24' }, '2026-11-25T08:00:00')).toMatchObject({
      day: '2026-11-24',
    });
    expect(recordedIn({}, '2026-11-25T08:00:00')).toMatchObject({ day: '2026-11-25' });
    expect(recordedIn({}, '12:00:00')).toBeUndefined();
  });
  it('a date is the whole day at the site: it ends when the day ends there', () => {
    const recorded = readDate('2026-11-24')!;
    expect(new Date(latestMoment(recorded, 'Pacific/Auckland')).toISOString()).toBe(
      '2026-11-24T10:59:59.999Z',
    );
    expect(new Date(latestMoment(recorded, 'UTC')).toISOString()).toBe('2026-11-24T23:59:59.999Z');
    expect(new Date(latestMoment(readDate('2026-11-24T10:00:00+01:00')!, 'UTC')).toISOString()).toBe(
      '2026-11-24T09:00:00.000Z',
    );
  });
});
