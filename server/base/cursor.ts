import { RefusalError } from './refusals.ts';

/**
 * Where a page ended: the values of its last row in the order of the list, so the next page begins behind it
 * whatever was added meanwhile.
 */
export const cursorOf = (values: readonly (string | number)[]): string =>
  Buffer.from(JSON.stringify(values)).toString('base64url');
export function readCursor(cursor: string | undefined, length: number): (string | number)[] | undefined {
  if (cursor === undefined) return undefined;
  try {
    const values: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    if (
      Array.isArray(values) &&
      values.length === length &&
      values.every((v): v is string | number => typeof v === 'string' || typeof v === 'number')
    )
      return values;
  } catch {
    /* refused below */
  }
  throw new RefusalError(
    400,
    'BAD_CURSOR',
    'This page of the list cannot be found.',
    'Begin at the first page.',
  );
}
