import { z } from 'zod';
import { RefusalError } from './refusals.ts';

/** What the values of a cursor are, in the order of the list they lead through. */
const KINDS = {
  text: z.string().refine((text) => !text.includes('\0')),
  number: z.number(),
  integer: z.int32(),
  id: z.uuid(),
  time: z.string().refine((text) => !Number.isNaN(Date.parse(text))),
} as const;
export type CursorKind = keyof typeof KINDS;

/**
 * Where a page ended: the values of its last row in the order of the list, so the next page begins behind it
 * whatever was added meanwhile.
 */
export const cursorOf = (values: readonly (string | number)[]): string =>
  Buffer.from(JSON.stringify(values)).toString('base64url');

/** The values of a cursor, each of the kind the list expects there; undefined at the first page. */
export function readCursor(
  cursor: string | undefined,
  kinds: readonly CursorKind[],
): (string | number)[] | undefined {
  if (cursor === undefined) return undefined;
  try {
    const values: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    if (Array.isArray(values) && values.length === kinds.length)
      return values.map((value, i) => KINDS[kinds[i]].parse(value));
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
