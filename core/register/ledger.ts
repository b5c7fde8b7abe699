/**
 * A vehicle's ledger: dated entries of what was changed on it, so that what was on the car on any
 * day can be answered, and whether that is stock is computed, not remembered. Entries are never
 * edited: a wrong one is superseded by another. Pure: entries in, configuration out.
 */
import { differenceInCalendarDays } from 'date-fns';
import { grouped } from '../base/grouped.ts';
import type { PartCategory } from './parts.ts';

export const SERVICE_ITEMS = [
  'air filter',
  'spark plugs',
  'oil',
  'fuel filter',
  'coolant',
  'drive belt',
] as const;
export type ServiceItem = (typeof SERVICE_ITEMS)[number];

/** What one entry says. A category is a place on the car: fitting a part there replaces what was in it. */
export type LedgerChange =
  | {
      readonly kind: 'part fitted';
      readonly category: PartCategory;
      readonly partRevisionId: string;
      readonly settings: Readonly<Record<string, string>>;
    }
  | {
      readonly kind: 'option set';
      readonly category: PartCategory;
      readonly settings: Readonly<Record<string, string>>;
    }
  | { readonly kind: 'returned to stock'; readonly category: PartCategory }
  | { readonly kind: 'calibration'; readonly calibrationId: string | null }
  | { readonly kind: 'tyres'; readonly text: string }
  | { readonly kind: 'fuel'; readonly text: string }
  | { readonly kind: 'service'; readonly item: ServiceItem }
  | { readonly kind: 'other change'; readonly text: string }
  | { readonly kind: 'other change undone'; readonly text: string };
export type LedgerKind = LedgerChange['kind'];
export const LEDGER_KINDS: readonly LedgerKind[] = [
  'part fitted',
  'option set',
  'returned to stock',
  'calibration',
  'tyres',
  'fuel',
  'service',
  'other change',
  'other change undone',
];

export interface LedgerEntry {
  readonly id: string;
  /** When it was done on the car; ISO time. */
  readonly at: string;
  /** When it was written down; decides between entries of one moment. */
  readonly enteredAt: string;
  readonly odometerKm: number | null;
  /** The entry this one puts right; that one no longer counts. */
  readonly supersedes: string | null;
  /** Null for an entry that only takes another back. */
  readonly change: LedgerChange | null;
}

export interface FittedPart {
  readonly partRevisionId: string;
  readonly settings: Readonly<Record<string, string>>;
  readonly since: string;
}
export interface Serviced {
  readonly at: string;
  readonly odometerKm: number | null;
}

/** What is on a vehicle at one moment. `calibrationId` null is the stock calibration. */
export interface Configuration {
  readonly parts: Readonly<Partial<Record<PartCategory, FittedPart>>>;
  readonly calibrationId: string | null;
  readonly tyres: string | null;
  readonly fuel: string | null;
  readonly service: Readonly<Partial<Record<ServiceItem, Serviced>>>;
  readonly otherChanges: readonly string[];
}
export const AS_DELIVERED: Configuration = {
  parts: {},
  calibrationId: null,
  tyres: null,
  fuel: null,
  service: {},
  otherChanges: [],
};

/** Entries that count, in the order they were done: superseded ones are left out, and what superseded entries superseded stays out. */
export function standingEntries(entries: readonly LedgerEntry[]): LedgerEntry[] {
  const gone = new Set(entries.flatMap((entry) => (entry.supersedes ? [entry.supersedes] : [])));
  return entries
    .filter((entry) => !gone.has(entry.id) && entry.change !== null)
    .sort(
      (a, b) =>
        Date.parse(a.at) - Date.parse(b.at) ||
        Date.parse(a.enteredAt) - Date.parse(b.enteredAt) ||
        (a.id < b.id ? -1 : 1),
    );
}

/** What was on the vehicle at a moment (entries of that very moment included), having begun as `before`. */
export function configurationOn(
  entries: readonly LedgerEntry[],
  at: string,
  before: Configuration = AS_DELIVERED,
): Configuration {
  const until = Date.parse(at);
  return standingEntries(entries)
    .filter((entry) => Date.parse(entry.at) <= until)
    .reduce(applyEntry, before);
}

function applyEntry(before: Configuration, { at, odometerKm, change }: LedgerEntry): Configuration {
  switch (change?.kind) {
    case 'part fitted':
      return {
        ...before,
        parts: {
          ...before.parts,
          [change.category]: { partRevisionId: change.partRevisionId, settings: change.settings, since: at },
        },
      };
    case 'option set': {
      const fitted = before.parts[change.category];
      return fitted
        ? {
            ...before,
            parts: {
              ...before.parts,
              [change.category]: {
                ...fitted,
                settings: { ...fitted.settings, ...change.settings },
                since: at,
              },
            },
          }
        : before;
    }
    case 'returned to stock': {
      const { [change.category]: _, ...parts } = before.parts;
      return { ...before, parts };
    }
    case 'calibration':
      return { ...before, calibrationId: change.calibrationId };
    case 'tyres':
      return { ...before, tyres: change.text };
    case 'fuel':
      return { ...before, fuel: change.text };
    case 'service':
      return { ...before, service: { ...before.service, [change.item]: { at, odometerKm } } };
    case 'other change':
      return before.otherChanges.includes(change.text)
        ? before
        : { ...before, otherChanges: [...before.otherChanges, change.text] };
    case 'other change undone':
      return { ...before, otherChanges: before.otherChanges.filter((text) => text !== change.text) };
    case undefined:
      return before;
  }
}

/** The highest reading written down by a moment, km; null where there is none. */
export function odometerOn(entries: readonly LedgerEntry[], at: string): number | null {
  const known = entries.filter((e) => e.odometerKm !== null && Date.parse(e.at) <= Date.parse(at));
  return known.length > 0 ? Math.max(...known.map((e) => e.odometerKm!)) : null;
}

/** What a fitment has when it leaves the works, as far as a test needs it. */
export interface StockSpecification {
  readonly tyres: string | null;
  readonly fuel: string;
}

/** How old a service item may be before it is no fair baseline (common practice). */
export const SERVICE_LIMITS: Readonly<Record<ServiceItem, { readonly days: number; readonly km: number }>> = {
  'air filter': { days: 365, km: 20_000 },
  'spark plugs': { days: 1460, km: 60_000 },
  oil: { days: 365, km: 15_000 },
  'fuel filter': { days: 1095, km: 60_000 },
  coolant: { days: 1825, km: 150_000 },
  'drive belt': { days: 2190, km: 120_000 },
};

export interface Deviation {
  readonly code: 'PART_FITTED' | 'CALIBRATION' | 'TYRES' | 'FUEL' | 'OTHER_CHANGE' | 'WORN' | 'NOT_RECORDED';
  readonly subject: string;
  readonly text: string;
}

/** What the words for parts and calibrations are taken from. */
export interface Names {
  readonly part: (revisionId: string, settings: Readonly<Record<string, string>>) => string;
  readonly calibration: (id: string) => string;
}

/** `stock` is yes, no, or unknown where nothing says otherwise but something that matters was never written down. */
export interface StockAnswer {
  readonly stock: 'yes' | 'no' | 'unknown';
  readonly notStock: readonly Deviation[];
  readonly worn: readonly Deviation[];
  readonly notRecorded: readonly Deviation[];
}

/**
 * Is this stock, and fresh enough to be a baseline? Everything that is not is listed.
 * @param at the day the question is about; ages of service items are counted to it
 * @param odometerKm reading on that day; null leaves the check by distance out
 */
// eslint-disable-next-line max-lines-per-function -- a list of checks, each a few lines and apart from the others
export function isStock(
  configuration: Configuration,
  stock: StockSpecification,
  at: string,
  odometerKm: number | null,
  names: Names,
): StockAnswer {
  const notStock: Deviation[] = [];
  for (const [category, fitted] of Object.entries(configuration.parts))
    notStock.push({
      code: 'PART_FITTED',
      subject: category,
      text: names.part(fitted.partRevisionId, fitted.settings),
    });
  if (configuration.calibrationId !== null)
    notStock.push({
      code: 'CALIBRATION',
      subject: 'calibration',
      text: names.calibration(configuration.calibrationId),
    });
  if (configuration.tyres !== null && stock.tyres !== null && !sameText(configuration.tyres, stock.tyres))
    notStock.push({
      code: 'TYRES',
      subject: 'tyres',
      text: `${configuration.tyres}; stock is ${stock.tyres}`,
    });
  if (configuration.fuel !== null && !fuelAgrees(configuration.fuel, stock.fuel))
    notStock.push({
      code: 'FUEL',
      subject: 'fuel',
      text: `${configuration.fuel}; stock runs on ${stock.fuel}`,
    });
  for (const text of configuration.otherChanges)
    notStock.push({ code: 'OTHER_CHANGE', subject: 'other change', text });

  const worn: Deviation[] = [];
  const notRecorded: Deviation[] = [];
  for (const item of ['air filter', 'oil'] as const)
    if (!configuration.service[item])
      notRecorded.push({
        code: 'NOT_RECORDED',
        subject: item,
        text: `no service of the ${item} is on record`,
      });
  for (const [item, done] of Object.entries(configuration.service) as [ServiceItem, Serviced][]) {
    const limit = SERVICE_LIMITS[item];
    const days = differenceInCalendarDays(new Date(at), new Date(done.at));
    const km = odometerKm !== null && done.odometerKm !== null ? odometerKm - done.odometerKm : null;
    if (days > limit.days || (km !== null && km > limit.km))
      worn.push({
        code: 'WORN',
        subject: item,
        text:
          `${item} ${days > limit.days ? `${days} days old` : `run ${grouped(km!)} km`}; ` +
          `${limit.days} days or ${grouped(limit.km)} km are fresh enough`,
      });
  }
  if (configuration.tyres === null)
    notRecorded.push({ code: 'NOT_RECORDED', subject: 'tyres', text: 'tyres are not on record' });
  return {
    stock: notStock.length > 0 ? 'no' : notRecorded.length > 0 ? 'unknown' : 'yes',
    notStock,
    worn,
    notRecorded,
  };
}

const sameText = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();
/** “95 RON pump” agrees with “petrol 95 RON”: what counts is the fuel and its octane or ethanol number. */
export function fuelAgrees(a: string, b: string): boolean {
  const facts = (text: string): { kind: string; number: string | undefined } => {
    const lower = text.toLowerCase();
    const kind = /diesel|en ?590/.test(lower)
      ? 'diesel'
      : /e ?(85|5\d|[67]\d)\b|ethanol/.test(lower)
        ? 'ethanol'
        : 'petrol';
    return {
      kind,
      number: /(\d{2,3}) ?(?=ron|oct|aki|pump|e\d|$)|ron ?(\d{2,3})/.exec(lower)?.slice(1).find(Boolean),
    };
  };
  const [x, y] = [facts(a), facts(b)];
  return x.kind === y.kind && (x.number === undefined || y.number === undefined || x.number === y.number);
}

export interface Difference {
  readonly subject: string;
  readonly from: string;
  readonly to: string;
}

/**
 * Everything in which one configuration differs from another, in words; empty when they are alike. Service is
 * not a difference here: it is aged in `isStock`.
 */
export function configurationDifferences(from: Configuration, to: Configuration, names: Names): Difference[] {
  const out: Difference[] = [];
  const categories = [
    ...new Set([...Object.keys(from.parts), ...Object.keys(to.parts)]),
  ].sort() as PartCategory[];
  const part = (fitted: FittedPart | undefined): string =>
    fitted ? names.part(fitted.partRevisionId, fitted.settings) : 'stock';
  for (const category of categories) {
    const [a, b] = [from.parts[category], to.parts[category]];
    if (a?.partRevisionId !== b?.partRevisionId || !sameSettings(a?.settings, b?.settings))
      out.push({ subject: category, from: part(a), to: part(b) });
  }
  const calibration = (id: string | null): string => (id === null ? 'stock' : names.calibration(id));
  if (from.calibrationId !== to.calibrationId)
    out.push({
      subject: 'calibration',
      from: calibration(from.calibrationId),
      to: calibration(to.calibrationId),
    });
  for (const key of ['tyres', 'fuel'] as const)
    if ((from[key] ?? '') !== (to[key] ?? ''))
      out.push({ subject: key, from: from[key] ?? 'not recorded', to: to[key] ?? 'not recorded' });
  for (const text of from.otherChanges)
    if (!to.otherChanges.includes(text)) out.push({ subject: 'other change', from: text, to: 'undone' });
  for (const text of to.otherChanges)
    if (!from.otherChanges.includes(text)) out.push({ subject: 'other change', from: 'as it was', to: text });
  return out;
}

function sameSettings(
  a: Readonly<Record<string, string>> = {},
  b: Readonly<Record<string, string>> = {},
): boolean {
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...keys].every((key) => a[key] === b[key]);
}
