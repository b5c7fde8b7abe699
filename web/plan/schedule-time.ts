import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';

/** Wall clock of a site, minutes since its midnight. */
export const minutesAt = (iso: string, timeZone: string): number => {
  const d = new TZDate(iso, timeZone);
  return d.getHours() * 60 + d.getMinutes();
};
export const dateAt = (iso: string, timeZone: string): string =>
  format(new TZDate(iso, timeZone), 'yyyy-MM-dd');
export const clockAt = (iso: string, timeZone: string): string => format(new TZDate(iso, timeZone), 'HH:mm');
/** The instant a wall clock shows a time on a day. */
export function instantAt(date: string, minutes: number, timeZone: string): string {
  const [y, m, d] = date.split('-').map(Number);
  return new Date(
    new TZDate(y, m - 1, d, Math.floor(minutes / 60), minutes % 60, timeZone).getTime(),
  ).toISOString();
}
export const addDays = (date: string, days: number): string => {
  const [y, m, d] = date.split('-').map(Number);
  return new Date(Date.UTC(y, m - 1, d + days)).toISOString().slice(0, 10);
};
/** Monday of the week a date lies in. */
export const mondayOf = (date: string): string => {
  const [y, m, d] = date.split('-').map(Number);
  const day = new Date(Date.UTC(y, m - 1, d)).getUTCDay();
  return addDays(date, day === 0 ? -6 : 1 - day);
};
export const dayName = (date: string): string => {
  const [y, m, d] = date.split('-').map(Number);
  return format(new Date(y, m - 1, d), 'EEE d MMM');
};
/** A moment as the site's clock shows it, with its year and zone. */
export const atSite = (iso: string, timeZone: string): string =>
  `${format(new TZDate(iso, timeZone), 'EEE d MMM yyyy, HH:mm')} (${timeZone})`;
/** Snaps to a quarter of an hour. */
export const snapped = (minutes: number): number => Math.round(minutes / 15) * 15;
