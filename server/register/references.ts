import { inArray, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { keepReferences, referencesIn, withNames, type NamedPart } from '../../core/register/references.ts';
import type { Queryable } from '../base/db.ts';
import { partShown } from './embargo.ts';
import { parts } from './tables.ts';

/** Letters and digits of a text run together, as names are looked for whatever parts their words. */
const squeezed = (value: string) => sql`regexp_replace(lower(${value}), '[^[:alnum:]]+', '', 'g')`;

/** Parts whose name or SKU may stand in a text; the core decides. */
async function candidates(tx: Queryable, text: string, person: Person): Promise<NamedPart[]> {
  if (!/[\p{L}\p{N}]{3}/u.test(text)) return [];
  const plain = text.normalize('NFKC');
  const squeeze = (column: unknown) =>
    sql`nullif(regexp_replace(lower(${column}), '[^[:alnum:]]+', '', 'g'), '')`;
  return tx
    .select({ id: parts.id, name: parts.name, sku: parts.sku })
    .from(parts)
    .where(
      // Who may not know a name gets no answer to a guess: what they type stays as they typed it.
      // A single ordinary word is a name only where a code name stands for it: “the charger” is any charger.
      sql`(${parts.name} ~ '[^[:alnum:]]' or ${parts.codeName} is not null)
        and (${person.clearance} or ${parts.embargoUntil} is null or ${parts.embargoUntil} <= current_date)
        and (position(${squeeze(parts.name)} in ${squeezed(plain)}) > 0
          or position(${squeeze(parts.sku)} in ${squeezed(plain)}) > 0)`,
    );
}

/** A text that a person typed, as it is kept: names of parts as references. */
export async function kept(tx: Queryable, text: string, person: Person): Promise<string> {
  return keepReferences(text, await candidates(tx, text, person));
}

/** Whether a text is people's words: not an id, a hash, a date or a number. */
const isFreeText = (text: string): boolean =>
  /\p{L}/u.test(text) && !/^[0-9a-f-]{32,}$/i.test(text) && !/^\d{4}-\d{2}-\d{2}(T[\d:.Z+-]+)?$/.test(text);

/** The same for every string in a value; keys stay. */
export async function keptDeep<T>(tx: Queryable, value: T, person: Person): Promise<T> {
  const texts: string[] = [];
  const collect = (v: unknown): void => {
    if (typeof v === 'string') texts.push(v);
    else if (Array.isArray(v)) v.forEach(collect);
    else if (v !== null && typeof v === 'object') Object.values(v).forEach(collect);
  };
  collect(value);
  const named = await candidates(tx, texts.join('\n'), person);
  if (named.length === 0) return value;
  const walk = (v: unknown): unknown =>
    typeof v === 'string'
      ? isFreeText(v)
        ? keepReferences(v, named)
        : v
      : Array.isArray(v)
        ? v.map(walk)
        : v !== null && typeof v === 'object' && Object.getPrototypeOf(v) === Object.prototype
          ? Object.fromEntries(Object.entries(v).map(([k, inner]) => [k, walk(inner)]))
          : v;
  return walk(value) as T;
}

/** Names of the parts that a text refers to, as this person may read them; a signed-out reader knows no embargoed name. */
export async function namesFor(
  tx: Queryable,
  text: string,
  person: Person | undefined,
  now: Date,
): Promise<(id: string) => string> {
  const ids = referencesIn(text);
  const rows = ids.length ? await tx.select().from(parts).where(inArray(parts.id, ids)) : [];
  const names = new Map(rows.map((part) => [part.id, partShown(part, person, now).name]));
  return (id) => names.get(id) ?? 'a part';
}

/** A value with every reference resolved to the part's own name. For what becomes public, when no embargo holds it back. */
export async function resolveReferences<T>(tx: Queryable, value: T): Promise<T> {
  const text = JSON.stringify(value);
  const ids = referencesIn(text);
  if (ids.length === 0) return value;
  const rows = await tx.select({ id: parts.id, name: parts.name }).from(parts).where(inArray(parts.id, ids));
  const names = new Map(rows.map((part) => [part.id, JSON.stringify(part.name).slice(1, -1)]));
  return JSON.parse(withNames(text, (id) => names.get(id) ?? 'a part')) as T;
}
