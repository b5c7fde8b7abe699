/** What the register has as another thing, and may be the same: another revision of a part, or a part much like it. */

export interface NearRevision {
  readonly id: string;
  readonly partId: string;
  readonly partName: string;
  readonly maker: string;
  readonly category: string;
  readonly revision: string;
  /** What has changed since the revision before. */
  readonly changeNote: string;
}
export type Near =
  | { readonly why: 'other revision'; readonly revision: string; readonly isChangeKnown: boolean }
  | { readonly why: 'like part'; readonly partId: string };

/** The note of a revision that came with a table, which says of no change. */
export const IMPORTED_NOTE = 'imported from a table';

/** All that such a note says, from its beginning to its end. */
const NO_CHANGE = [
  'n/?a',
  'none',
  'nothing.*',
  'no changes?',
  'no difference',
  'not? changed',
  'unchanged',
  'the same.*',
  'same( as .*)?',
  'identical.*',
  'as (?:revision )?\\w+',
];
const SAYS_NO_CHANGE = new RegExp(`^\\W*(?:${NO_CHANGE.join('|')})?\\W*$`, 'i');
/** Whether a note tells of something that has become different. */
export const tellsChange = (note: string): boolean => note !== IMPORTED_NOTE && !SAYS_NO_CHANGE.test(note);

/** Said of an article and not of what it is: numbers, editions, measures. */
const EDITION =
  /^(?:[ivx]+|mk|rev|revision|version|new|mm|cm|kg|in|inch|copy|of|the|a|an|and|with|for|stage)$/u;

/** The words that say what it is. */
const wordsOf = (name: string): ReadonlySet<string> =>
  new Set((name.toLowerCase().match(/\p{L}+/gu) ?? []).filter((word) => !EDITION.test(word)));

/** Whether all that one name says is in the other too; where one says nothing but numbers, neither says more. */
export function likeName(a: string, b: string): boolean {
  const [fewer, more] = [wordsOf(a), wordsOf(b)].sort((x, y) => x.size - y.size);
  if (fewer.size === 0) return more.size === 0;
  return [...fewer].every((word) => more.has(word));
}
const sameWords = (a: string, b: string): boolean => likeName(a, b) && wordsOf(a).size === wordsOf(b).size;

/** A maker however it is written: letters and digits, without what says only that it is a firm. */
const lettersOf = (maker: string): string =>
  (maker.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []).filter((word) => !FIRM.test(word)).join('');
const FIRM = /^(?:and|the|co|company|ltd|limited|inc|gmbh|ag|llc|group|brand)$/u;
export const sameMaker = (a: string, b: string): boolean => lettersOf(a) === lettersOf(b);

type Called = Pick<NearRevision, 'partName' | 'maker' | 'category'>;
/** Of one maker and called alike: in one category if the one name says all that the other does, else by the same words. */
export const likePart = (a: Called, b: Called): boolean =>
  sameMaker(a.maker, b.maker) &&
  (a.category === b.category ? likeName(a.partName, b.partName) : sameWords(a.partName, b.partName));

/**
 * @param revisions in the order in which they were registered; the own one among them, and all of its part
 * @returns by revision, why it is near to the own one; those that are not are left out
 */
export function nearTo(ownId: string, revisions: readonly NearRevision[]): Map<string, Near> {
  const own = revisions.find(({ id }) => id === ownId);
  const near = new Map<string, Near>();
  if (!own) return near;
  const series = revisions.filter(({ partId }) => partId === own.partId);
  for (const other of revisions) {
    if (other.id === ownId) continue;
    if (other.partId !== own.partId) {
      if (likePart(other, own)) near.set(other.id, { why: 'like part', partId: other.partId });
      continue;
    }
    const [from, to] = [series.indexOf(own), series.indexOf(other)].sort((x, y) => x - y);
    const isChangeKnown = series.slice(from + 1, to + 1).some(({ changeNote }) => tellsChange(changeNote));
    near.set(other.id, { why: 'other revision', revision: other.revision, isChangeKnown });
  }
  return near;
}
