import { type Cell, type RowValues } from '../../core/register/spreadsheet.ts';

/** Rows of one insert: large enough to be quick, small enough for the limit on parameters. */
const BATCH = 500;

export const REVISION_FIELDS: readonly string[] = ['revision', 'installHours', 'removeHours', 'weightKg'];

const present = (values: RowValues): Record<string, Cell> =>
  Object.fromEntries(
    Object.entries(values as Record<string, Cell | undefined>).filter(
      (entry): entry is [string, Cell] => entry[1] !== null && entry[1] !== undefined,
    ),
  );

export const fitmentValues = (values: RowValues): Record<string, unknown> => ({ ...present(values) });

export const partValues = (values: RowValues): Record<string, unknown> => {
  const {
    price,
    legalMarkets,
    legalClass,
    revision: _r,
    installHours: _i,
    removeHours: _m,
    weightKg: _w,
    ...rest
  } = present(values);
  return {
    ...rest,
    ...(typeof price === 'number' ? { priceCents: Math.round(price * 100) } : {}),
    legal: Array.isArray(legalMarkets)
      ? (legalMarkets as string[]).map((market) => ({ market, class: legalClass ?? 'unknown' }))
      : [],
  };
};

export const revisionValues = (values: RowValues): Record<string, unknown> => {
  const { revision, installHours, removeHours, weightKg } = present(values);
  return {
    revision: revision ?? 'A',
    ...(installHours === undefined ? {} : { installHours }),
    ...(removeHours === undefined ? {} : { removeHours }),
    ...(weightKg === undefined ? {} : { weightKg }),
  };
};

/** The fields a row changes; one that it empties becomes null, or empty text where a text is always there. */
export const given = (values: Record<string, unknown>, fields: readonly string[]): Record<string, unknown> =>
  Object.fromEntries(
    fields.map((field) => [
      field,
      values[field] ??
        (['note', 'platformCode', 'transmission'].includes(field)
          ? ''
          : field === 'unitsPerYear'
            ? 0
            : field === 'promise'
              ? 'power'
              : field === 'currency'
                ? 'EUR'
                : null),
    ]),
  );

export const batches = <T>(list: readonly T[]): T[][] =>
  Array.from({ length: Math.ceil(list.length / BATCH) }, (_, i) => list.slice(i * BATCH, (i + 1) * BATCH));

/** Slugs were found free one by one, before any was kept: within one import they are parted here. */
export function distinctSlugs(rows: { slug: string }[]): void {
  const taken = new Set<string>();
  for (const row of rows) {
    const base = row.slug;
    for (let i = 2; taken.has(row.slug); i++) row.slug = `${base}-${i}`;
    taken.add(row.slug);
  }
}
