import { RefusalError } from './refusals.ts';

/** A zero character, or half of a pair of characters: no database keeps them as text, and nobody types them. */
const UNKEEPABLE = /\0|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;
/** Deeper than anything the contract knows. */
const MOST_DEPTH = 40;

/** Refuses a request that has characters in it which cannot be kept, wherever they stand. */
export function refuseUnkeepable(value: unknown, path = '', depth = 0): void {
  if (typeof value === 'string') {
    if (UNKEEPABLE.test(value)) throw unkeepable(path);
    return;
  }
  if (typeof value !== 'object' || value === null) return;
  if (depth > MOST_DEPTH) throw unkeepable(path);
  for (const [key, inner] of Object.entries(value)) {
    if (UNKEEPABLE.test(key)) throw unkeepable(path);
    refuseUnkeepable(inner, path ? `${path}.${key}` : key, depth + 1);
  }
}
const unkeepable = (path: string): RefusalError =>
  new RefusalError(
    400,
    'TEXT_UNREADABLE',
    `${path || 'The request'} has characters in it that are no text.`,
    'Type the text again, or paste it as plain text.',
  );
