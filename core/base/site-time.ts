/** Days and clocks at a site: a day is the site's, wherever the person or the server is. */
import { TZDate } from '@date-fns/tz';

/** The day it is at a site. */
export const dayAt = (instant: number, timeZone: string): string => {
  const d = new TZDate(instant, timeZone);
  return `${d.getFullYear()}-${String(d.getMonth() + 1).padStart(2, '0')}-${String(d.getDate()).padStart(2, '0')}`;
};
/** The instant a day begins at a site. */
export const startOfDayAt = (date: string, timeZone: string): number => {
  const [y, m, d] = date.split('-').map(Number);
  return new TZDate(y, m - 1, d, 0, 0, timeZone).getTime();
};
/** The date after a date: the calendar's, so the day on which clocks change is one day too. */
export const nextDay = (date: string): string => {
  const [y, m, d] = date.split('-').map(Number) as [number, number, number];
  return new Date(Date.UTC(y, m - 1, d + 1)).toISOString().slice(0, 10);
};
