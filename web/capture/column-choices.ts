/** What a person says of the columns of a file, and what of it is sent. */
import { DIMENSION_OF, QUANTITY_NAMES, quantityOfKey, type ColumnKey } from '../../core/base/quantities.ts';
import { UNITS } from '../../core/base/units.ts';
import type { ColumnChoices } from '../../core/capture/pull-file-types.ts';

/** By header of the column. */
export type Said = Readonly<Record<string, { readonly key: ColumnKey | ''; readonly unit: string }>>;

export const nameOf = (key: ColumnKey): string => QUANTITY_NAMES[quantityOfKey(key)];

/** Units a column of this kind can be in, the usual ones first; none for a count. */
export const unitsOf = (key: ColumnKey): string[] =>
  Object.values(UNITS)
    .filter((unit) => unit.id !== '' && DIMENSION_OF[quantityOfKey(key)].includes(unit.dimension))
    .map((unit) => unit.id);

/** What two columns are both said to hold. */
export function twice(said: Said): ColumnKey | undefined {
  const keys = Object.values(said).flatMap(({ key }) => (key ? [key] : []));
  return keys.find((key, i) => keys.indexOf(key) !== i);
}

/** What is sent: columns somebody has said something of. */
export const choicesOf = (said: Said): ColumnChoices =>
  Object.fromEntries(
    Object.entries(said).flatMap(([column, { key, unit }]) =>
      key ? [[key, { column, ...(unit ? { unit } : {}) }]] : [],
    ),
  );
