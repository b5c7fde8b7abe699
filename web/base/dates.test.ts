import { describe, expect, it, test, vi } from 'vitest';
import { isoOf, readTypedDate, readTypedTime } from './dates.ts';
import { localDate, shownDate } from './shown-dates.ts';

// How dates are written beside numbers needs no page; the store reads its cookie as it loads.
vi.mock('./store.ts', () => ({ useAppSelector: () => ({}) }));
const { day } = await import('./format.ts');

describe('a date without a time', () => {
  it('is the same date in every time zone', () => {
    const zone = process.env.TZ;
    try {
      for (const tz of ['America/Los_Angeles', 'UTC', 'Pacific/Kiritimati', 'Asia/Kolkata']) {
        process.env.TZ = tz;
        expect([tz, shownDate('2026-11-24'), day('2026-11-24'), isoOf(localDate('2026-11-24'))]).toEqual([
          tz,
          '24 Nov 2026',
          '24 Nov 2026',
          '2026-11-24',
        ]);
      }
    } finally {
      process.env.TZ = zone;
    }
  });
  test.each([
    ['24 Nov 2026', '2026-11-24'],
    [' 4 november  2026', '2026-11-04'],
    ['24.11.2026', '2026-11-24'],
    ['24/11/2026', '2026-11-24'],
    ['2026-11-24', '2026-11-24'],
    ['31 Feb 2026', undefined],
    ['24 Nov', undefined],
    ['tomorrow', undefined],
  ])('is read from “%s”', (text, iso) => expect(readTypedDate(text)).toBe(iso));
  it('reads back what it writes', () => expect(readTypedDate(shownDate('2026-03-01'))).toBe('2026-03-01'));
});
test.each([
  ['14:05', '14:05'],
  ['9.30', '09:30'],
  ['0930', '09:30'],
  ['24:00', undefined],
  ['9', undefined],
])('a time of day is read from “%s”', (text, time) => expect(readTypedTime(text)).toBe(time));
