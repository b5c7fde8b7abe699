import { inArray, eq, and, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type { NextQuery, WorthRow } from '../../contract/publish/coverage.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { usualDynoHours } from '../../core/plan/hours.ts';
import { carryOver } from '../../core/register/family.ts';
import { EVIDENCE_STATES, LAUNCH } from '../../core/register/worth-testing.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { partShown, today } from '../register/embargo.ts';
import { fitmentFilter } from '../register/fitments.ts';
import { applications, fitments, parts } from '../register/tables.ts';
import { partFilter } from './part-filter.ts';
import { refreshPlaces } from './places.ts';

type Next = z.output<typeof NextQuery>;
interface ScoredRow extends Record<string, unknown> {
  fitment_id: string;
  part_id: string;
  rank: number;
  test_id: string | null;
  served: boolean;
  hours: number;
  score: number;
}

/** Room for what rounding does to a product and its quotient. */
const ROUNDING = 1 + 1e-9;

/** Parts asked for that promise power, with dyno hours and what one unit of worth of a cell of theirs scores. */
function factors(person: Person, query: Next, now: Date): SQL {
  const day = today(now);
  // Without clearance an embargoed part has no launch, so that its place in the list does not tell one.
  const launch = person.clearance
    ? sql`p.launch_date`
    : sql`case when p.embargo_until > ${day} then null else p.launch_date end`;
  const wanted = partFilter(person, query, now);
  return sql`select f.id, f.hours, f.urgency / f.hours as factor from (
      select p.id, ${usualDynoHours(0, 0)}::float8 + n.install_hours + n.remove_hours as hours,
        case when ${launch} is null or ${launch} < ${day}::date then 1
          else 1 + ${LAUNCH.most}::float8 * exp(-(${launch} - ${day}::date)::float8 / ${LAUNCH.daysToThird}::float8) end as urgency
      from (select ${parts}.* from ${parts} where ${parts.promise} = 'power'${wanted ? sql` and ${wanted}` : sql``}) p
      join lateral (select install_hours, remove_hours from part_revisions r where r.part_id = p.id
        order by r.created_at desc, r.revision desc limit 1) n on true) f`;
}

/**
 * The cells with the highest score behind a cursor. Each part gives its own best by index, so that the time does not
 * grow with the register; where fitments are filtered, the cells of those are scored.
 */
async function scored(db: Db, person: Person, query: Next, now: Date): Promise<ScoredRow[]> {
  const after = readCursor(query.after, ['number', 'id', 'id']);
  const limit = query.limit + 1;
  const wantedFitments = fitmentFilter({ q: query.q, family: query.family });
  const behind = after
    ? sql` and c.worth <= ${Number(after[0])}::float8 / p.factor * ${ROUNDING}::float8
        and (-(c.worth * p.factor), c.fitment_id, c.part_id) > (${-Number(after[0])}::float8, ${after[1]}::uuid, ${after[2]}::uuid)`
    : sql``;
  const cells = wantedFitments
    ? sql`coverage_cells c on c.part_id = p.id${behind} join (select id from ${fitments} where ${wantedFitments}) f on f.id = c.fitment_id`
    : sql`lateral (select * from coverage_cells c where c.part_id = p.id${behind}
        order by c.worth desc, c.fitment_id limit ${limit}) c on true`;
  const { rows } = await db.execute<ScoredRow>(sql`
    with p as materialized (${factors(person, query, now)})
    select c.fitment_id, c.part_id, c.rank, c.test_id, c.served, p.hours, c.worth * p.factor as score
      from p join ${cells} order by score desc, c.fitment_id, c.part_id limit ${limit}`);
  return rows;
}

/** Siblings a test on a fitment would serve, by part. */
async function siblingsOf(db: Db, families: readonly string[], partIds: readonly string[]) {
  return db
    .select({ fitment: fitments, partId: applications.partId })
    .from(fitments)
    .innerJoin(applications, eq(applications.fitmentId, fitments.id))
    .where(and(inArray(fitments.family, [...families]), inArray(applications.partId, [...partIds])));
}

/** What is worth testing next: the score of core/register/worth-testing.ts, held against it by a test. */
export async function worthNext(
  { db, now }: Pick<Needs, 'db' | 'now'>,
  person: Person,
  query: Next,
): Promise<{ items: WorthRow[]; next: string | null }> {
  await refreshPlaces(db);
  const today = now();
  const rows = await scored(db, person, query, today);
  const shown = rows.slice(0, query.limit);
  if (shown.length === 0) return { items: [], next: null };
  const ids = (key: 'part_id' | 'fitment_id'): string[] => [...new Set(shown.map((r) => r[key]))];
  const [partRows, fitmentRows] = await Promise.all([
    db
      .select()
      .from(parts)
      .where(inArray(parts.id, ids('part_id'))),
    db
      .select()
      .from(fitments)
      .where(inArray(fitments.id, ids('fitment_id'))),
  ]);
  const siblings = await siblingsOf(db, [...new Set(fitmentRows.map((f) => f.family))], ids('part_id'));
  const partById = new Map(partRows.map((p) => [p.id, p]));
  const fitmentById = new Map(fitmentRows.map((f) => [f.id, f]));
  const last = shown.at(-1)!;
  return {
    items: shown.map((row): WorthRow => {
      const fitment = fitmentById.get(row.fitment_id)!;
      const part = partShown(partById.get(row.part_id)!, person, today);
      return {
        fitmentId: fitment.id,
        fitment: fitmentName(fitment),
        partId: part.id,
        part: part.name,
        sku: part.sku,
        category: part.category,
        state: EVIDENCE_STATES[row.rank],
        testId: row.test_id,
        familyServed: row.served,
        unitsPerYear: fitment.unitsPerYear,
        launchDate: part.launchDate,
        dynoHours: row.hours,
        score: row.score,
        alsoServes: siblings
          .filter((s) => s.partId === part.id && carryOver(fitment, s.fitment).state === 'serves')
          .map((s) => fitmentName(s.fitment))
          .slice(0, 8),
      };
    }),
    next: rows.length > query.limit ? cursorOf([last.score, last.fitment_id, last.part_id]) : null,
  };
}
