/**
 * Names of parts in texts are kept as references, not as names: a text that people typed or that was worded from
 * the register reads `⟦part:…⟧` in the database, and whoever reads it is given the name they may know. Nothing is
 * looked for or replaced by likeness, so no other word, number, date or hash can be damaged.
 */
const REFERENCE = /⟦part:([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})⟧/g;

export const partReference = (partId: string): string => `⟦part:${partId}⟧`;

/** Ids of the parts a text refers to. */
export const referencesIn = (text: string): string[] => [
  ...new Set([...text.matchAll(REFERENCE)].map((match) => match[1])),
];

/** The text with every reference given its name. */
export const withNames = (text: string, nameOf: (partId: string) => string): string =>
  text.includes('⟦part:') ? text.replace(REFERENCE, (_, id: string) => nameOf(id)) : text;

export interface NamedPart {
  readonly id: string;
  readonly name: string;
  readonly sku: string;
  /** What else it is or was called: its code name, former names. */
  readonly also?: readonly string[];
}

/** Characters by which people part words of a name, however they type it. */
const GAP = '[\\s\\u00ad\\u200b-\\u200d\\u2060\\ufeff\\u2010-\\u2015\\u2212_./-]*';
const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** A name as people type it: in any case, with any dash or blank between its words; only as whole words. */
function pattern(name: string): string {
  const words = name
    .normalize('NFKC')
    .trim()
    .split(/[\s\u00ad\u200b-\u200d\u2060\ufeff\u2010-\u2015\u2212_./-]+/)
    .filter(Boolean)
    .map(escaped);
  return words.length ? `(?<![\\p{L}\\p{N}])${words.join(GAP)}(?![\\p{L}\\p{N}])` : '';
}

/** Letters and digits of a name; shorter ones are ordinary words and are left as they were typed. */
const LEAST_LETTERS = 6;
const length = (name: string): number => (name.match(/[\p{L}\p{N}]/gu) ?? []).length;
const mayStand = (name: string, sku: boolean): boolean =>
  length(name) >= (sku ? 4 : LEAST_LETTERS) && (sku ? /\d/.test(name) : true);

/** Every way of naming the parts that a text can be searched for, longest first so that a name inside another is not cut. */
function spellings(parts: readonly NamedPart[]): { id: string; source: string; length: number }[] {
  return parts
    .flatMap((part) => [
      ...[part.name, ...(part.also ?? [])]
        .filter((name) => mayStand(name, false))
        .map((name) => ({ id: part.id, source: pattern(name), length: name.length })),
      ...(mayStand(part.sku, true)
        ? [{ id: part.id, source: pattern(part.sku), length: part.sku.length }]
        : []),
    ])
    .filter(({ source }) => source !== '')
    .sort((a, b) => b.length - a.length);
}

/** A typed text with the names and SKUs of parts turned into references; references that stand in it already stay. */
export function keepReferences(text: string, parts: readonly NamedPart[]): string {
  const list = spellings(parts);
  if (list.length === 0 || text === '') return text;
  const any = new RegExp(`⟦part:[0-9a-f-]{36}⟧|${list.map(({ source }) => `(${source})`).join('|')}`, 'giu');
  return text.normalize('NFC').replace(any, (whole: string, ...groups: unknown[]) => {
    const found = groups.slice(0, list.length).findIndex((group) => group !== undefined);
    return found < 0 ? whole : partReference(list[found].id);
  });
}

/** Where a text names one of the parts in plain words; undefined where it does not. The tripwire of an embargo. */
export function namedIn(text: string, parts: readonly NamedPart[]): NamedPart | undefined {
  const list = spellings(parts);
  if (list.length === 0) return undefined;
  const normal = text.normalize('NFKC');
  const found = list.find(({ source }) => new RegExp(source, 'iu').test(normal));
  return found && parts.find((part) => part.id === found.id);
}
