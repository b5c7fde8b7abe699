import { and, eq, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type { CoverageQuery } from '../../contract/publish/coverage.ts';
import { shownFoundBy, today } from '../register/embargo.ts';
import { matches } from '../register/found-by.ts';
import { parts } from '../register/tables.ts';

/** Parts that a question about coverage means, as this person may know them; undefined where it means all. */
export const partFilter = (
  person: Person,
  query: Pick<z.output<typeof CoverageQuery>, 'part' | 'category' | 'launchFrom' | 'launchTo'>,
  now: Date,
): SQL | undefined =>
  and(
    matches(shownFoundBy(person, now), query.part),
    query.category ? eq(parts.category, query.category) : undefined,
    // A launch date would tell which part it is: without clearance an embargoed one has none.
    query.launchFrom || query.launchTo
      ? and(
          person.clearance
            ? undefined
            : sql`(${parts.embargoUntil} is null or ${parts.embargoUntil} <= ${today(now)})`,
          query.launchFrom ? sql`${parts.launchDate} >= ${query.launchFrom}` : undefined,
          query.launchTo ? sql`${parts.launchDate} <= ${query.launchTo}` : undefined,
        )
      : undefined,
  );
