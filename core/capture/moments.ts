/** Moments as weather stations and loggers write them: a date with a time, in one cell or in two, or a bare count. */
import { TZDate } from '@date-fns/tz';
import { readDate, type Recorded } from './recorded.ts';

/** Slashed dates say day and month in either order; a whole column tells which, or nobody can. */
export type SlashedOrder = 'day first' | 'month first';

const SLASHED = /^(\d{1,2})\/(\d{1,2})\/(\d{4})\b/;
const CLOCK = /\b(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,](\d+))?)?\s*([ap])?\.?m?\.?\s*$/i;
const COUNT = /^\d{9,13}(\.\d+)?$/;
const NEWER_MS = 1e11;

/** The order of day and month in slashed dates; `undefined` when no date says, `'none'` when none is slashed. */
export function slashedOrder(cells: readonly string[]): SlashedOrder | 'none' | undefined {
  let [day, month, any] = [false, false, false];
  for (const cell of cells) {
    const parts = SLASHED.exec(cell.trim());
    if (!parts) continue;
    any = true;
    if (Number(parts[1]) > 12) day = true;
    if (Number(parts[2]) > 12) month = true;
  }
  if (!any) return 'none';
  return day === month ? undefined : day ? 'day first' : 'month first';
}

/** Seconds of the day in a text that ends in a clock, “14:02”, “2:02:03.5 PM”. */
export function clockSeconds(text: string): number | undefined {
  const clock = CLOCK.exec(text);
  if (!clock) return undefined;
  let hour = Number(clock[1]);
  const half = clock[5]?.toLowerCase();
  if (half && (hour < 1 || hour > 12)) return undefined;
  if (half) hour = (hour % 12) + (half === 'p' ? 12 : 0);
  const [minute, second] = [Number(clock[2]), Number(clock[3] ?? 0)];
  if (hour > 23 || minute > 59 || second > 60) return undefined;
  return hour * 3600 + minute * 60 + second + (clock[4] ? Number(`0.${clock[4]}`) : 0);
}

/** The day a text names, as 2026-11-26; slashed dates by `order`. */
export function dayIn(text: string, order?: SlashedOrder): string | undefined {
  const slashed = SLASHED.exec(text.trim());
  if (!slashed) return readDate(text)?.day;
  if (!order) return undefined;
  const [first, second, year] = slashed.slice(1) as [string, string, string];
  const [day, month] = order === 'day first' ? [first, second] : [second, first];
  return readDate(`${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`)?.day;
}

/** A moment at a site, ms since 1970: its day and the seconds of its clock. */
export function momentAt(day: string, seconds: number, timeZone: string): number {
  const [y, m, d] = day.split('-').map(Number) as [number, number, number];
  const whole = Math.floor(seconds);
  return new TZDate(y, m - 1, d, 0, 0, whole, timeZone).getTime() + Math.round((seconds - whole) * 1000);
}

/** The moment a recording began at a site, ms since 1970; undefined where only its day is known. */
export function momentRecorded(
  { day, seconds, offsetMinutes }: Recorded,
  timeZone: string,
): number | undefined {
  if (seconds === null) return undefined;
  if (offsetMinutes === null) return momentAt(day, seconds, timeZone);
  return Date.parse(`${day}T00:00:00Z`) + 1000 * seconds - 60_000 * offsetMinutes;
}

/**
 * The moment in one cell, ms since 1970; undefined where it names none. Without a zone the site's clock is meant; a
 * bare count is seconds or milliseconds since 1970.
 */
export function readMoment(text: string, timeZone: string, order?: SlashedOrder): number | undefined {
  const cell = text.trim();
  if (COUNT.test(cell)) return Math.round(Number(cell) * (Number(cell) > NEWER_MS ? 1 : 1000));
  const stamped = readDate(cell);
  if (stamped?.offsetMinutes != null) {
    const exact = Date.parse(cell.replace(' ', 'T').replace(',', '.'));
    return Number.isNaN(exact) ? undefined : exact;
  }
  const day = dayIn(cell, order);
  const seconds = clockSeconds(cell);
  return day === undefined || seconds === undefined ? undefined : momentAt(day, seconds, timeZone);
}
