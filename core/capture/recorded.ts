/** When a pull was recorded, as far as the file itself says so: in its preamble, or in time stamps that carry a date. */
import { TZDate } from '@date-fns/tz';

export interface Recorded {
  /** As it stands in the file. */
  readonly text: string;
  /** Day as 2026-11-24. */
  readonly day: string;
  /** Time of day as seconds, where the file says it. */
  readonly seconds: number | null;
  /** Offset from UTC in minutes, where the stamp carries one. */
  readonly offsetMinutes: number | null;
}

const KEYS =
  'date|recorded|recorded on|recorded at|created|logged|log date|start time|time stamp|timestamp|datum|' +
  'aufgenommen|test date|run date';
const KEY = new RegExp(`^(?:.* )?(?:${KEYS})$`, 'i');
const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');
const ISO =
  /\b(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(?:[.,]\d+)?)?\s*(Z|[+-]\d{2}:?\d{2})?)?/;
const DOTTED = /\b(\d{1,2})\.(\d{1,2})\.(\d{4})(?:,?\s+(\d{1,2}):(\d{2})(?::(\d{2}))?)?/;
const NAMED = /\b(\d{1,2})\.?\s+([a-z]{3})[a-z]*\.?\s+(\d{4})(?:,?\s+(\d{1,2}):(\d{2})(?::(\d{2}))?)?/i;

const two = (n: number): string => String(n).padStart(2, '0');
function dayOf(year: number, month: number, day: number): string | undefined {
  const date = new Date(Date.UTC(year, month - 1, day));
  return year >= 1990 && year <= 2100 && date.getUTCMonth() === month - 1 && date.getUTCDate() === day
    ? `${year}-${two(month)}-${two(day)}`
    : undefined;
}
const secondsOf = (h: string | undefined, m: string | undefined, s: string | undefined): number | null =>
  h === undefined || m === undefined ? null : Number(h) * 3600 + Number(m) * 60 + Number(s ?? 0);

/**
 * A date in a text, or undefined. Day and month separated by slashes could be either way round: they are no
 * date here, because a wrong one would be worse than none.
 */
export function readDate(text: string): Recorded | undefined {
  const iso = ISO.exec(text);
  if (iso) {
    const day = dayOf(Number(iso[1]), Number(iso[2]), Number(iso[3]));
    const zone = iso[7];
    const offset =
      zone === undefined
        ? null
        : zone === 'Z'
          ? 0
          : (zone[0] === '-' ? -1 : 1) * (Number(zone.slice(1, 3)) * 60 + Number(zone.slice(-2)));
    return day === undefined
      ? undefined
      : { text: iso[0].trim(), day, seconds: secondsOf(iso[4], iso[5], iso[6]), offsetMinutes: offset };
  }
  const dotted = DOTTED.exec(text);
  if (dotted) {
    const day = dayOf(Number(dotted[3]), Number(dotted[2]), Number(dotted[1]));
    return day === undefined
      ? undefined
      : { text: dotted[0], day, seconds: secondsOf(dotted[4], dotted[5], dotted[6]), offsetMinutes: null };
  }
  const named = NAMED.exec(text);
  const month = named ? MONTHS.indexOf(named[2].toLowerCase()) + 1 : 0;
  if (!named || month === 0) return undefined;
  const day = dayOf(Number(named[3]), month, Number(named[1]));
  return day === undefined
    ? undefined
    : { text: named[0], day, seconds: secondsOf(named[4], named[5], named[6]), offsetMinutes: null };
}

/**
 * When the file says it was recorded; undefined when it does not. The first dated line of the preamble
 * counts, else the first time stamp.
 */
export function recordedIn(
  metadata: Readonly<Record<string, string>>,
  firstStamp: string | undefined,
): Recorded | undefined {
  for (const [key, value] of Object.entries(metadata)) {
    if (!KEY.test(key.trim())) continue;
    const date = readDate(value);
    if (date) return date;
  }
  return firstStamp === undefined ? undefined : readDate(firstStamp);
}

/**
 * The latest moment that can be meant, ms: a date without a time is the whole day at the site, so its end. What
 * was recorded before a lock by this was recorded before it for certain.
 */
export function latestMoment(recorded: Recorded, timeZone: string): number {
  const [y, m, d] = recorded.day.split('-').map(Number) as [number, number, number];
  if (recorded.offsetMinutes !== null && recorded.seconds !== null)
    return Date.UTC(y, m - 1, d, 0, 0, recorded.seconds) - recorded.offsetMinutes * 60_000;
  if (recorded.seconds === null) return new TZDate(y, m - 1, d + 1, 0, 0, timeZone).getTime() - 1;
  return new TZDate(y, m - 1, d, 0, 0, recorded.seconds, timeZone).getTime() + 59_999;
}
