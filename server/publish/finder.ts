import { asc, desc, eq, inArray, or, sql, type SQL, type SQLWrapper } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { HOUSE } from '../../contract/base/roles.ts';
import type { Found } from '../../contract/overview.ts';
import { fitmentName } from '../../contract/register/register.ts';
import type { Needs } from '../base/needs.ts';
import { listTests, titleOf } from '../plan/repository.ts';
import { tests } from '../plan/tables.ts';
import { partShown, shownFoundBy, shownName } from '../register/embargo.ts';
import { likeness, matches } from '../register/found-by.ts';
import { calibrations, dynos, fitments, parts, vehicles } from '../register/tables.ts';
import { firstClaims } from './claim-page.ts';
import { newestTests } from './test-page.ts';

/** Shown of each kind. */
const EACH = 6;

/** Tests that fit the words, newest first; the one whose number was asked for before all. */
async function testsMeant(needs: Pick<Needs, 'db' | 'now'>, person: Person, q: string): Promise<string[]> {
  const newest = await newestTests(needs, person, q, EACH);
  if (!/^\d{1,9}$/.test(q)) return newest;
  const [exact] = await listTests(needs.db, person, eq(tests.number, Number(q)));
  return exact ? [exact.test.id, ...newest.filter((id) => id !== exact.test.id)].slice(0, EACH) : newest;
}

/** Every word stands in the text, wherever. */
const holdsWords = (column: SQLWrapper, q: string): SQL =>
  sql`plain_words(${column}) like all (select '%' || replace(replace(replace(w, '\\', '\\\\'), '%', '\\%'), '_', '\\_') || '%'
    from unnest(string_to_array(trim(plain_words(${q})), ' ')) w)`;

/** A few of everything that a person may see and that fits the words; without words the newest. */
// eslint-disable-next-line max-lines-per-function -- a few of each kind of record, one after the other
export async function find(needs: Pick<Needs, 'db' | 'now'>, person: Person, q: string): Promise<Found> {
  const { db, now } = needs;
  const ids = await testsMeant(needs, person, q);
  const rows = ids.length ? await listTests(db, person, inArray(tests.id, ids)) : [];
  const inOrder = ids.flatMap((id) => rows.find((row) => row.test.id === id) ?? []);
  const foundTests = inOrder.map((row) => ({
    id: row.test.id,
    number: row.test.number,
    title: titleOf(row),
    vehicle: row.vehicle.tag,
  }));
  const nothing = {
    tests: foundTests,
    claims: [],
    fitments: [],
    parts: [],
    vehicles: [],
    dynos: [],
    calibrations: [],
  };
  if (!HOUSE.includes(person.role)) return nothing;
  const foundClaims = (await firstClaims(needs, person, q, EACH)).map(
    ({ id, wording, state, testTitle }) => ({ id, wording, state, testTitle }),
  );
  if (q === '') return { ...nothing, claims: foundClaims };
  const [foundFitments, foundParts, foundVehicles, foundDynos, foundCalibrations] = await Promise.all([
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
      .orderBy(desc(likeness(shownFoundBy(person, now()), q)), asc(shownName(person, now())))
      .limit(EACH),
    db
      .select({ vehicle: vehicles, fitment: fitments })
      .from(vehicles)
      .innerJoin(fitments, eq(fitments.id, vehicles.fitmentId))
      // By its tag, or all cars of a fitment that is meant.
      .where(or(holdsWords(vehicles.tag, q), matches(fitments.foundBy, q)))
      .orderBy(sql`${holdsWords(vehicles.tag, q)} desc`, asc(vehicles.tag))
      .limit(EACH),
    db
      .select()
      .from(dynos)
      .where(holdsWords(sql`${dynos.name} || ' ' || ${dynos.site} || ' ' || ${dynos.kind}`, q))
      .orderBy(asc(dynos.name))
      .limit(EACH),
    db
      .select({ calibration: calibrations, fitment: fitments })
      .from(calibrations)
      .leftJoin(fitments, eq(fitments.id, calibrations.fitmentId))
      .where(holdsWords(sql`${calibrations.name} || ' ' || ${calibrations.revision}`, q))
      .orderBy(asc(calibrations.name), desc(calibrations.createdAt))
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
    dynos: foundDynos.map(({ id, name, site }) => ({ id, name, site })),
    calibrations: foundCalibrations.map(({ calibration, fitment }) => ({
      id: calibration.id,
      name: `${calibration.name}, revision ${calibration.revision}`,
      fitment: fitment ? fitmentName(fitment) : 'any fitment',
    })),
  };
}
