/** Dates and times as this application writes and reads them: “24 Nov 2026”, “14:05”. A date is a date in every time zone. */
import { format, isValid, parse } from 'date-fns';

/** Formats that a person may type a date in; the first is the application's own. */
const TYPED = ['d MMM yyyy', 'd MMMM yyyy', 'yyyy-MM-dd', 'd.M.yyyy', 'd/M/yyyy'];

export const isoOf = (date: Date): string => format(date, 'yyyy-MM-dd');

/** A typed date as 2026-11-24; undefined where it cannot be told. */
export function readTypedDate(text: string): string | undefined {
  const bare = text.trim().replace(/\s+/g, ' ');
  for (const pattern of TYPED) {
    const date = parse(bare, pattern, new Date(2000, 0, 1));
    if (isValid(date) && date.getFullYear() >= 1950 && date.getFullYear() <= 2200) return isoOf(date);
  }
  return undefined;
}

/** A typed time of day as 14:05; undefined where it cannot be told. */
export function readTypedTime(text: string): string | undefined {
  const match = /^(\d{1,2})[:.h ]?(\d{2})$/.exec(text.trim());
  if (!match) return undefined;
  const [hours, minutes] = [Number(match[1]), Number(match[2])];
  return hours < 24 && minutes < 60
    ? `${String(hours).padStart(2, '0')}:${String(minutes).padStart(2, '0')}`
    : undefined;
}
