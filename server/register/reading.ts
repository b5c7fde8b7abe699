import { gt } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import { namedIn, withNames } from '../../core/register/references.ts';
import type { Needs } from '../base/needs.ts';
import { RefusalError } from '../base/refusals.ts';
import type { Reading } from '../base/routing.ts';
import { auditEntries } from '../base/tables.ts';
import { today } from './embargo.ts';
import { namesFor } from './references.ts';
import { parts } from './tables.ts';

/**
 * Values that the application words from the register; here a name can only stand by a fault. What people typed is
 * not looked at: whoever has clearance had the names in it turned into references when it was kept, and to hold a
 * guess of anybody else against the name would answer it.
 */
const WORDED = new Set([
  'name',
  'model',
  'title',
  'testTitle',
  'subject',
  'headline',
  'part',
  'partName',
  'sku',
  'maker',
  'wording',
  'conditions',
  'disclosures',
  'scopeText',
  'differences',
  'from',
  'to',
  'expects',
  'text',
  'message',
]);

/**
 * What stands in a file, and what a person's change of a field was, is theirs; cells of the grid and curves are ids,
 * states and numbers, thousands of them.
 */
const WITHOUT_OWN_WORDS = new Set(['found', 'file', 'changes', 'detail', 'result', 'cells', 'glyph']);
const SOME_WORD = /\p{L}{3}/u;
/** Texts of an answer that the application words itself. */
function worded(value: unknown, key: string, out: string[]): string[] {
  if (typeof value === 'string') {
    if (WORDED.has(key) && SOME_WORD.test(value)) out.push(value);
  } else if (Array.isArray(value)) {
    // Curves are long, and hold no words.
    if (typeof value[0] !== 'number') for (const item of value) worded(item, key, out);
  } else if (value !== null && typeof value === 'object')
    for (const [k, v] of Object.entries(value)) if (!WITHOUT_OWN_WORDS.has(k)) worded(v, k, out);
  return out;
}

const ORDINARY = new Set<string>(PART_CATEGORIES);

/** How each person reads names, and the wire behind it that nothing should ever touch. */
export const createReadingFor =
  ({ db, now, log }: Needs) =>
  (person: Person | undefined): Reading => ({
    async over(text) {
      if (!text.includes('⟦part:')) return (own) => own;
      const nameOf = await namesFor(db, text, person, now());
      // The same names stand in JSON and in plain text; a quote in one must not end a JSON string.
      const json = text.startsWith('{') || text.startsWith('[');
      return (own) => withNames(own, (id) => (json ? JSON.stringify(nameOf(id)).slice(1, -1) : nameOf(id)));
    },
    async tripwire(value, path) {
      if (person?.clearance) return;
      const hidden = await db
        .select({ id: parts.id, name: parts.name, sku: parts.sku })
        .from(parts)
        .where(gt(parts.embargoUntil, today(now())));
      const secret = hidden.filter((part) => !ORDINARY.has(part.name.trim().toLowerCase()));
      if (secret.length === 0) return;
      const found = namedIn(worded(value(), '', []).join('\n'), secret);
      if (!found) return;
      log.error(
        { path, part: found.id, person: person?.id ?? null },
        'an embargoed name would have been answered',
      );
      await db.insert(auditEntries).values({
        at: now(),
        personId: person?.id ?? null,
        personName: person?.name ?? 'somebody signed out',
        action: 'embargo tripwire',
        subjectKind: 'part',
        subjectId: found.id,
        detail: { path },
      });
      throw new RefusalError(
        409,
        'WITHHELD',
        'This page would name a part that is under embargo, so it is withheld.',
        'The test manager has been told; open it again later.',
      );
    },
  });
