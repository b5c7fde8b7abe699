import { TZDate } from '@date-fns/tz';
import type { Span } from './schedule.ts';

/** One weekly opening: 1 Monday to 7 Sunday, times as “08:30” on the wall clock of the site; “24:00” is the end of the day. */
export interface Opening {
  readonly day: number;
  readonly from: string;
  readonly to: string;
}

/**
 * When a dyno is open, as spans of time: the wall clock of the site decides, so the day on which
 * clocks change is an hour shorter or longer.
 * @param fromDate first day as 2026-11-24, in the site's own calendar
 */
export function openingSpans(
  openings: readonly Opening[],
  timeZone: string,
  fromDate: string,
  days: number,
): Span[] {
  const [year, month, day] = fromDate.split('-').map(Number);
  const spans: Span[] = [];
  for (let i = 0; i < days; i++) {
    const date = new Date(Date.UTC(year, month - 1, day + i));
    const weekday = date.getUTCDay() === 0 ? 7 : date.getUTCDay();
    const at = (clock: string): number => {
      const [hours, minutes] = clock.split(':').map(Number);
      return new TZDate(
        date.getUTCFullYear(),
        date.getUTCMonth(),
        date.getUTCDate(),
        hours,
        minutes,
        timeZone,
      ).getTime();
    };
    for (const opening of openings)
      if (opening.day === weekday) spans.push({ start: at(opening.from), end: at(opening.to) });
  }
  return spans.filter((span) => span.end > span.start).sort((a, b) => a.start - b.start);
}
