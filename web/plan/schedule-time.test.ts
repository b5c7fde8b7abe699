import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addDays,
  clockAt,
  dateAt,
  dayName,
  instantAt,
  minutesAt,
  mondayOf,
  snapped,
} from './schedule-time.ts';

const ZONES = ['Europe/Oslo', 'America/New_York', 'Asia/Kolkata', 'Pacific/Auckland', 'UTC'];
const date = fc
  .date({ min: new Date('2020-01-01'), max: new Date('2040-01-01'), noInvalidDate: true })
  .map((d) => d.toISOString().slice(0, 10));

describe('the wall clock of a site', () => {
  it('shows the hour people there read, in summer and in winter', () => {
    // Clocks of Oslo: UTC+1 in winter, UTC+2 in summer (IANA time zone database).
    expect(clockAt('2026-01-15T08:30:00Z', 'Europe/Oslo')).toBe('09:30');
    expect(clockAt('2026-07-15T08:30:00Z', 'Europe/Oslo')).toBe('10:30');
    expect(dateAt('2026-01-15T23:30:00Z', 'Europe/Oslo')).toBe('2026-01-16');
    expect(minutesAt('2026-01-15T08:30:00Z', 'Europe/Oslo')).toBe(570);
  });
  it('a time on a day is one instant, and reads as that time', () => {
    fc.assert(
      fc.property(
        date,
        fc.integer({ min: 4 * 60, max: 23 * 60 }),
        fc.constantFrom(...ZONES),
        (day, minutes, zone) => {
          // After four in the morning no clock is put forward or back anywhere in the list.
          const instant = instantAt(day, minutes, zone);
          return dateAt(instant, zone) === day && minutesAt(instant, zone) === minutes;
        },
      ),
    );
  });
  it('a day of the change has an hour more or less', () => {
    const length = (day: string): number =>
      (Date.parse(instantAt(addDays(day, 1), 0, 'Europe/Oslo')) -
        Date.parse(instantAt(day, 0, 'Europe/Oslo'))) /
      3_600_000;
    // Last Sundays of March and October 2026.
    expect([length('2026-03-29'), length('2026-10-25'), length('2026-11-25')]).toEqual([23, 25, 24]);
  });
});

describe('days and weeks', () => {
  it('run over ends of months, years and leap days', () => {
    expect(addDays('2026-12-31', 1)).toBe('2027-01-01');
    expect(addDays('2028-02-28', 1)).toBe('2028-02-29');
    expect(addDays('2026-03-01', -1)).toBe('2026-02-28');
  });
  it('a week begins on Monday, Sunday being its last day', () => {
    expect(mondayOf('2026-11-25')).toBe('2026-11-23');
    expect(mondayOf('2026-11-23')).toBe('2026-11-23');
    expect(mondayOf('2026-11-29')).toBe('2026-11-23');
    expect(dayName('2026-11-23')).toBe('Mon 23 Nov');
  });
  it('every day lies in the week of its Monday', () => {
    fc.assert(
      fc.property(date, (day) => {
        const monday = mondayOf(day);
        const behind = (Date.parse(day) - Date.parse(monday)) / 86_400_000;
        return (
          new Date(monday).getUTCDay() === 1 && behind >= 0 && behind <= 6 && mondayOf(monday) === monday
        );
      }),
    );
  });
  it('a drag snaps to quarters of an hour', () => {
    expect([0, 7, 8, 22, 23, 541].map(snapped)).toEqual([0, 0, 15, 15, 30, 540]);
  });
});
