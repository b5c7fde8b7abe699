import { sql, type SQL } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { askedFor } from '../../core/register/phrase.ts';
import { shownFoundBy } from '../register/embargo.ts';
import { parts } from '../register/tables.ts';
import { testPlaces } from './places-tables.ts';

const like = (word: string): string => {
  const escaped = word.replace(/[\\%_]/g, '\\$&');
  // A word of one or two letters must begin a word; a longer one may stand anywhere.
  return word.length < 3 ? `% ${escaped}%` : `%${escaped}%`;
};

/**
 * Tests in whose words every word asked for stands: fitment, vehicle, dyno, number, arms, and the parts in them by the
 * name this person may know. Undefined where nothing is asked for.
 */
export function testsByWords(person: Person, phrase: string, now: Date): SQL | undefined {
  const asked = askedFor(phrase);
  if (asked.length === 0) return undefined;
  const partName = shownFoundBy(person, now);
  return sql.join(
    asked.map(
      (words) =>
        sql`(${sql.join(
          words.map(
            (word) =>
              sql`${testPlaces.foundBy} like ${like(word)} or ${testPlaces.partIds} && array(select ${parts.id}
                from ${parts} where ${partName} like ${like(word)})`,
          ),
          sql` or `,
        )})`,
    ),
    sql` and `,
  );
}
