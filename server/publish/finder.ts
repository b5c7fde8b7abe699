import { asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { HOUSE } from '../../contract/base/roles.ts';
import type { Found } from '../../contract/overview.ts';
import { fitmentName } from '../../contract/register/register.ts';
import type { Needs } from '../base/needs.ts';
import { listTests, titleOf } from '../plan/repository.ts';
import { tests } from '../plan/tables.ts';
import { partShown, shownFoundBy, shownName } from '../register/embargo.ts';
import { likeness, matches } from '../register/found-by.ts';
import { fitments, parts, vehicles } from '../register/tables.ts';
import { firstClaims } from './claim-page.ts';
import { newestTests } from './test-page.ts';

/** Shown of each kind. */
const EACH = 6;

/** A few of everything that a person may see and that fits the words; without words the newest. */
export async function find(needs: Pick<Needs, 'db' | 'now'>, person: Person, q: string): Promise<Found> {
  const { db, now } = needs;
  const ids = await newestTests(needs, person, q, EACH);
  const foundTests = (ids.length ? await listTests(db, person, inArray(tests.id, ids)) : []).map((row) => ({
    id: row.test.id,
    number: row.test.number,
    title: titleOf(row),
    vehicle: row.vehicle.tag,
  }));
  const nothing = { tests: foundTests, claims: [], fitments: [], parts: [], vehicles: [] };
  if (!HOUSE.includes(person.role)) return nothing;
  const foundClaims = (await firstClaims(needs, person, q, EACH)).map(
    ({ id, wording, state, testTitle }) => ({ id, wording, state, testTitle }),
  );
  if (q === '') return { ...nothing, claims: foundClaims };
  const [foundFitments, foundParts, foundVehicles] = await Promise.all([
    db
      .select()
      .from(fitments)
      .where(matches(fitments.foundBy, q))
      .orderBy(desc(likeness(fitments.foundBy, q)), asc(fitments.maker), asc(fitments.model))
      .limit(EACH),
    db
      .select()
      .from(parts)
      .where(matches(shownFoundBy(person, now()), q))
      .orderBy(asc(shownName(person, now())))
      .limit(EACH),
    db
      .select({ vehicle: vehicles, fitment: fitments })
      .from(vehicles)
      .innerJoin(fitments, eq(fitments.id, vehicles.fitmentId))
      .where(sql`plain_words(${vehicles.tag}) like '%' || trim(plain_words(${q})) || '%'`)
      .orderBy(asc(vehicles.tag))
      .limit(EACH),
  ]);
  return {
    tests: foundTests,
    claims: foundClaims,
    fitments: foundFitments.map((row) => ({ id: row.id, name: fitmentName(row) })),
    parts: foundParts.map((row) => {
      const { id, name, sku } = partShown(row, person, now());
      return { id, name, sku };
    }),
    vehicles: foundVehicles.map(({ vehicle, fitment }) => ({
      id: vehicle.id,
      tag: vehicle.tag,
      fitment: fitmentName(fitment),
    })),
  };
}
