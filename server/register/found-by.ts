import { eq, sql, type SQL, type SQLWrapper } from 'drizzle-orm';
import { askedFor, foundBy, yearsBetween } from '../../core/register/phrase.ts';
import type { Db, Queryable } from '../base/db.ts';
import { fitments, parts } from './tables.ts';

type FitmentFacts = Pick<
  typeof fitments.$inferSelect,
  | 'maker'
  | 'model'
  | 'platformCode'
  | 'yearFrom'
  | 'yearTo'
  | 'engineCode'
  | 'displacementCc'
  | 'cylinders'
  | 'aspiration'
  | 'fuel'
  | 'transmission'
  | 'drivenWheels'
  | 'outputVariant'
  | 'market'
  | 'family'
>;
export const fitmentFoundBy = (f: FitmentFacts, now: Date): string =>
  foundBy(
    f.maker,
    f.model,
    f.platformCode,
    f.engineCode,
    (f.displacementCc / 1000).toFixed(1),
    `${f.cylinders}cyl`,
    f.aspiration,
    f.fuel,
    f.transmission,
    f.drivenWheels,
    f.outputVariant,
    f.market,
    f.family,
    ...yearsBetween(f.yearFrom, f.yearTo, now.getUTCFullYear()),
  );
export const partFoundBy = (
  p: Pick<typeof parts.$inferSelect, 'sku' | 'maker' | 'name' | 'category'>,
): string => foundBy(p.sku, p.maker, p.name, p.category);

/** Every word asked for stands in the text, or something close to it does. */
export function matches(column: SQLWrapper, phrase: string): SQL | undefined {
  const asked = askedFor(phrase);
  if (asked.length === 0) return undefined;
  const escaped = (word: string): string => word.replace(/[\\%_]/g, '\\$&');
  return sql.join(
    asked.map(
      (words) =>
        sql`(${sql.join(
          words.flatMap((word) => [
            // A word of one or two letters must begin a word; a longer one may stand anywhere or be mistyped.
            word.length < 3
              ? sql`${column} like ${`% ${escaped(word)}%`}`
              : sql`${column} like ${`%${escaped(word)}%`}`,
            // By the operator, which the index answers; how like is enough is a setting of the connection.
            ...(word.length >= 4 && !/\d/.test(word) ? [sql`${word} <% ${column}`] : []),
          ]),
          sql` or `,
        )})`,
    ),
    sql` and `,
  );
}
/** How well a text answers a phrase: higher first. */
export const likeness = (column: SQLWrapper, phrase: string): SQL<number> =>
  sql<number>`word_similarity(${foundBy(phrase).trim()}, ${column})`;

/** Gives rows that came before searching what they are found by. */
export async function fillFoundBy(db: Db, now: Date): Promise<void> {
  for (const row of await db.select().from(fitments).where(eq(fitments.foundBy, '')))
    await db
      .update(fitments)
      .set({ foundBy: fitmentFoundBy(row, now) })
      .where(eq(fitments.id, row.id));
  for (const row of await db.select().from(parts).where(eq(parts.foundBy, '')))
    await db
      .update(parts)
      .set({ foundBy: partFoundBy(row) })
      .where(eq(parts.id, row.id));
}

/** A short name for addresses, unused so far. */
export async function freeSlug(db: Queryable, wanted: string): Promise<string> {
  const base =
    wanted
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 80) || 'fitment';
  const taken = new Set(
    (
      await db
        .select({ slug: fitments.slug })
        .from(fitments)
        .where(sql`${fitments.slug} like ${`${base}%`}`)
    ).map((f) => f.slug),
  );
  if (!taken.has(base)) return base;
  for (let i = 2; ; i++) if (!taken.has(`${base}-${i}`)) return `${base}-${i}`;
}
