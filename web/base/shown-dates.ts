/** Dates and times as this application writes them, “24 Nov 2026” and “14:05”, without more code than that takes. */
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const two = (n: number): string => String(n).padStart(2, '0');

/** Midnight of a date in the zone of the person, for writing and for a calendar; never a moment in time. */
export const localDate = (iso: string): Date => {
  const [y, m, d] = iso.split('-').map(Number) as [number, number, number];
  return new Date(y, m - 1, d);
};
const written = (date: Date): string => `${date.getDate()} ${MONTHS[date.getMonth()]} ${date.getFullYear()}`;
export const shownDate = (iso: string): string => (iso ? written(localDate(iso)) : '');
/** A date as it is, or the day of a moment where the person is. */
export const day = (iso: string): string =>
  /^\d{4}-\d{2}-\d{2}$/.test(iso) ? shownDate(iso) : written(new Date(iso));
/** A moment where the person is. */
export const dayTime = (iso: string): string => {
  const date = new Date(iso);
  return `${written(date)}, ${two(date.getHours())}:${two(date.getMinutes())}`;
};
