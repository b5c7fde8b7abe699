import { and, asc, count, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type { Glyph } from '../../contract/compare/glyph.ts';
import type { Coverage, CoverageQuery, NextQuery, WorthRow } from '../../contract/publish/coverage.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { carryOver, servedTogether } from '../../core/register/family.ts';
import { usualDynoHours } from '../../core/plan/hours.ts';
import {
  EVIDENCE_STATES,
  FAMILY_DISCOUNT,
  LAUNCH,
  OPEN_SHARE,
  type EvidenceState,
} from '../../core/register/worth-testing.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Needs } from '../base/needs.ts';
import { partShown, shownFoundBy, shownName, today } from '../register/embargo.ts';
import { fitmentFilter, fitmentPage } from '../register/fitments.ts';
import { matches } from '../register/found-by.ts';
import { applications, fitments, parts } from '../register/tables.ts';

export type CoverageService = ReturnType<typeof createCoverageService>;
type Query = z.output<typeof CoverageQuery>;
type Next = z.output<typeof NextQuery>;

const rankOf = (state: EvidenceState): SQL => sql.raw(String(EVIDENCE_STATES.indexOf(state)));
const MEASURED = EVIDENCE_STATES.indexOf('measured');
const IN_COMBINATION = rankOf('in combination');
/** Scopes in which an arm is about the part itself; rows from before scopes were kept are. */
const OWN_SCOPES = sql.raw("'', 'part alone', 'part with what it needs', 'part with its calibration'");

/**
 * How far the evidence of each part on each fitment has come, as an index into EVIDENCE_STATES, for
 * the fitments a condition picks. The furthest test of an arm speaks; its claims speak for the test.
 */
const evidence = (where: SQL): SQL => sql`
  select part_id, fitment_id, max(rank) as rank, count(distinct test_id)::int as tests,
    (array_agg(test_id order by rank desc, number desc))[1] as test_id, (array_agg(arm order by rank desc, number desc))[1] as arm
  from (select part_id, fitment_id, test_id, number, arm, case when own then rank else least(rank, ${IN_COMBINATION}) end as rank
    from (select r.part_id, t.fitment_id, t.id as test_id, t.number, a.key as arm, a.scope in (${OWN_SCOPES}) as own, coalesce(
        (select max(case c.state when 'published' then case when exists (select 1 from unanswered_changes u
          where u.claim_id = c.id) then ${rankOf('stale')}
            else ${rankOf('published')} end when 'stale' then ${rankOf('stale')} when 'withdrawn' then ${rankOf('measured')} else ${rankOf('claim drafted')} end)
          from claims c where c.test_id = t.id and c.arm = a.key and c.tells = 'gain'),
        (select case when n.verdict in ('no gain shown', 'loss', 'send back to design') then ${rankOf('no gain shown')} else ${rankOf('measured')} end
          from analyses n where n.id = t.current_analysis_id),
        case when exists (select 1 from pulls q join pull_files f on f.pull_id = q.id
          where q.test_id = t.id) then ${rankOf('capturing')} else ${rankOf('planned')} end) as rank
      from tests t join test_arms a on a.test_id = t.id join part_revisions r on r.id = a.part_revision_id where ${where}) every_arm) one
  group by part_id, fitment_id`;

interface EvidenceRow extends Record<string, unknown> {
  part_id: string;
  fitment_id: string;
  rank: number;
  tests: number;
  test_id: string;
  arm: string;
}

export function createCoverageService({ db, now }: Needs) {
  const partFilter = (
    person: Person,
    query: Pick<Query, 'part' | 'category' | 'launchFrom' | 'launchTo'>,
  ): SQL | undefined =>
    and(
      matches(shownFoundBy(person, now()), query.part),
      query.category ? eq(parts.category, query.category) : undefined,
      // A launch date would tell which part it is: without clearance an embargoed one has none.
      query.launchFrom || query.launchTo
        ? and(
            person.clearance
              ? undefined
              : sql`(${parts.embargoUntil} is null or ${parts.embargoUntil} <= ${today(now())})`,
            query.launchFrom ? sql`${parts.launchDate} >= ${query.launchFrom}` : undefined,
            query.launchTo ? sql`${parts.launchDate} <= ${query.launchTo}` : undefined,
          )
        : undefined,
    );

  return {
    /** A page of the grid: fitments down, parts across, a cell for every application. */
    async grid(person: Person, query: Query): Promise<Coverage> {
      const wantedParts = partFilter(person, query);
      const rowFilter = and(
        fitmentFilter({ q: query.q, family: query.family }),
        sql`exists (select 1 from ${applications} join ${parts} on ${parts.id} = ${applications.partId}
          where ${applications.fitmentId} = ${fitments.id}${wantedParts ? sql` and ${wantedParts}` : sql``})`,
        query.state ? stateFilter(query.state, wantedParts) : undefined,
      );
      const name = shownName(person, now());
      const first = query.after === undefined;
      const [{ rows, next }, [{ total }], columns, counted] = await Promise.all([
        fitmentPage(db, rowFilter, query, query.group === 'families'),
        db.select({ total: count() }).from(fitments).where(rowFilter),
        first
          ? db
              .select({ part: parts })
              .from(parts)
              .where(
                and(
                  wantedParts,
                  sql`exists (select 1 from ${applications}
                    join ${fitments} on ${fitments.id} = ${applications.fitmentId}
                    where ${applications.partId} = ${parts.id}${andSql(fitmentFilter({ q: query.q, family: query.family }))})`,
                ),
              )
              .orderBy(asc(parts.category), asc(name), asc(parts.id))
          : Promise.resolve([]),
        first
          ? db.execute<{
              rank: number;
              n: number;
            }>(sql`with evidence as (${evidence(sql`true`)}) select coalesce(e.rank, 0) as rank, count(*)::int as n
              from ${applications} join ${parts} on ${parts.id} = ${applications.partId}
              join ${fitments} on ${fitments.id} = ${applications.fitmentId}
          left join evidence e on e.part_id = ${applications.partId} and e.fitment_id = ${applications.fitmentId}
            where true${andSql(wantedParts)}${andSql(fitmentFilter({ q: query.q, family: query.family }))} group by 1`)
          : Promise.resolve({ rows: [] as { rank: number; n: number }[] }),
      ]);
      if (rows.length === 0)
        return {
          parts: columns.map(({ part }) => column(part, person)),
          rows: [],
          next: null,
          total,
          counts: countsOf(counted.rows),
        };
      const ids = rows.map((row) => row.id);
      const families = [...new Set(rows.map((row) => row.family))];
      const [cells, members, found] = await Promise.all([
        db
          .select({ partId: applications.partId, fitmentId: applications.fitmentId })
          .from(applications)
          .innerJoin(parts, eq(parts.id, applications.partId))
          .where(and(inArray(applications.fitmentId, ids), wantedParts)),
        db.select().from(fitments).where(inArray(fitments.family, families)),
        db
          .execute<EvidenceRow>(
            evidence(
              sql`t.fitment_id in (select id from fitments where family in (${sql.join(
                families.map((f) => sql`${f}`),
                sql`, `,
              )}))`,
            ),
          )
          .then((r) => r.rows),
      ]);
      const known = new Map(found.map((e) => [`${e.part_id} ${e.fitment_id}`, e]));
      const shownTests = cells.flatMap((cell) => {
        const e = known.get(`${cell.partId} ${cell.fitmentId}`);
        return e && e.rank >= MEASURED ? [e] : [];
      });
      const glyphs = await glyphsOf(shownTests);
      const byFitment = new Map<string, string[]>();
      for (const cell of cells)
        byFitment.set(cell.fitmentId, [...(byFitment.get(cell.fitmentId) ?? []), cell.partId]);
      const memberById = new Map(members.map((m) => [m.id, m]));
      const measured = new Map<string, string[]>();
      for (const e of found)
        if (e.rank >= MEASURED) measured.set(e.part_id, [...(measured.get(e.part_id) ?? []), e.fitment_id]);
      const groups = new Map<string, number>();
      for (const family of families)
        servedTogether(
          members
            .filter((m) => m.family === family)
            .sort((a, b) => a.ratedPowerKw - b.ratedPowerKw || (a.id < b.id ? -1 : 1)),
        ).forEach((group, i) => {
          for (const member of group.members) groups.set(member.id, i + 1);
        });
      return {
        parts: columns.map(({ part }) => column(part, person)),
        next,
        total,
        counts: countsOf(counted.rows),
        rows: rows.map((row) => ({
          id: row.id,
          name: fitmentName(row),
          family: row.family,
          outputVariant: row.outputVariant,
          unitsPerYear: row.unitsPerYear,
          group: groups.get(row.id) ?? null,
          cells: (byFitment.get(row.id) ?? []).map((partId) => {
            const e = known.get(`${partId} ${row.id}`);
            const served = (measured.get(partId) ?? []).some(
              (id) => id !== row.id && carryOver(memberById.get(id)!, row).state === 'serves',
            );
            return {
              partId,
              state: EVIDENCE_STATES[e?.rank ?? 0],
              testId: e?.test_id ?? null,
              tests: e?.tests ?? 0,
              glyph: e ? (glyphs.get(`${e.test_id} ${e.arm}`) ?? null) : null,
              familyServed: served,
            };
          }),
        })),
      };
    },

    /**
     * What is worth testing next: the score of core/register/worth-testing.ts, worked out where the rows are
     * (held against it by a test).
     */
    async next(person: Person, query: Next): Promise<{ items: WorthRow[]; next: string | null }> {
      const after = readCursor(query.after, 3);
      const day = today(now());
      // Without clearance an embargoed part has no launch, so that its place in the list does not tell one.
      const launch = person.clearance
        ? sql`p.launch_date`
        : sql`case when p.embargo_until > ${day} then null else p.launch_date end`;
      const { rows } = await db.execute<{
        fitment_id: string;
        part_id: string;
        rank: number;
        test_id: string | null;
        family_served: boolean;
        hours: number;
        score: number;
      }>(sql`
        with evidence as materialized (${evidence(sql`true`)}),
        measured as materialized (select e.part_id, f.* from evidence e join fitments f on f.id = e.fitment_id
          where e.rank >= ${rankOf('measured')}),
        served as materialized (select distinct m.part_id, o.id as fitment_id from measured m
          join fitments o on o.family = m.family and o.engine_code = m.engine_code and o.aspiration = m.aspiration and o.ignition = m.ignition and o.fuel = m.fuel and o.id <> m.id and abs(m.rated_power_kw / o.rated_power_kw - 1) <= 0.01),
        newest as materialized (select distinct on (part_id) part_id, install_hours, remove_hours from part_revisions
          order by part_id, created_at desc, revision desc),
        scored as (
          select a.fitment_id, a.part_id, coalesce(e.rank, 0) as rank, e.test_id, s.part_id is not null as family_served, ${usualDynoHours(0, 0)}::float8 + n.install_hours + n.remove_hours as hours,
            greatest(1, f.units_per_year) * case when ${launch} is null or ${launch} < ${day}::date then 1 else 1 + ${LAUNCH.most}::float8 * exp(-(${launch} - ${day}::date)::float8 / ${LAUNCH.daysToThird}::float8) end
              * (array[${sql.join(
                EVIDENCE_STATES.map((state) => sql`${OPEN_SHARE[state]}::float8`),
                sql`, `,
              )}])[coalesce(e.rank, 0) + 1] * case when s.part_id is not null then ${FAMILY_DISCOUNT}::float8 else 1 end
              / (${usualDynoHours(0, 0)}::float8 + n.install_hours + n.remove_hours) as score
          from applications a join (select ${fitments}.* from ${fitments}
            where true${andSql(fitmentFilter({ q: query.q, family: query.family }))}) f on f.id = a.fitment_id
            join (select ${parts}.* from ${parts}
              where ${parts.promise} = 'power'${andSql(partFilter(person, query))}) p on p.id = a.part_id
              join newest n on n.part_id = p.id
            left join evidence e on e.part_id = a.part_id and e.fitment_id = a.fitment_id
            left join served s on s.part_id = a.part_id and s.fitment_id = a.fitment_id)
        select *
          from scored ${after ? sql`where (-score, fitment_id, part_id) > (${-Number(after[0])}::float8, ${after[1]}::uuid, ${after[2]}::uuid)` : sql``}
          order by score desc, fitment_id, part_id limit ${query.limit + 1}`);
      const shown = rows.slice(0, query.limit);
      if (shown.length === 0) return { items: [], next: null };
      const [partRows, fitmentRows] = await Promise.all([
        db
          .select()
          .from(parts)
          .where(inArray(parts.id, [...new Set(shown.map((r) => r.part_id))])),
        db
          .select()
          .from(fitments)
          .where(inArray(fitments.id, [...new Set(shown.map((r) => r.fitment_id))])),
      ]);
      const siblings = await db
        .select({ fitment: fitments, partId: applications.partId })
        .from(fitments)
        .innerJoin(applications, eq(applications.fitmentId, fitments.id))
        .where(
          and(
            inArray(fitments.family, [...new Set(fitmentRows.map((f) => f.family))]),
            inArray(
              applications.partId,
              partRows.map((p) => p.id),
            ),
          ),
        );
      const partById = new Map(partRows.map((p) => [p.id, p]));
      const fitmentById = new Map(fitmentRows.map((f) => [f.id, f]));
      const last = shown.at(-1)!;
      return {
        items: shown.map((row) => {
          const fitment = fitmentById.get(row.fitment_id)!;
          const part = partShown(partById.get(row.part_id)!, person, now());
          return {
            fitmentId: fitment.id,
            fitment: fitmentName(fitment),
            partId: part.id,
            part: part.name,
            sku: part.sku,
            category: part.category,
            state: EVIDENCE_STATES[row.rank],
            testId: row.test_id,
            familyServed: row.family_served,
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
    },
  };

  function column(part: typeof parts.$inferSelect, person: Person): Coverage['parts'][number] {
    const shown = partShown(part, person, now());
    return {
      id: part.id,
      name: shown.name,
      sku: shown.sku,
      category: part.category,
      launchDate: shown.launchDate,
    };
  }
  async function glyphsOf(found: readonly EvidenceRow[]): Promise<Map<string, Glyph | null>> {
    if (found.length === 0) return new Map();
    const { rows } = await db.execute<{ test_id: string; glyphs: Record<string, Glyph | null> | null }>(
      sql`select t.id as test_id, n.glyphs from tests t join analyses n on n.id = t.current_analysis_id where t.id in (${sql.join(
        [...new Set(found.map((e) => e.test_id))].map((id) => sql`${id}::uuid`),
        sql`, `,
      )})`,
    );
    const byTest = new Map(rows.map((row) => [row.test_id, row.glyphs]));
    return new Map(found.map((e) => [`${e.test_id} ${e.arm}`, byTest.get(e.test_id)?.[e.arm] ?? null]));
  }
}

const andSql = (condition: SQL | undefined): SQL => (condition ? sql` and ${condition}` : sql``);
/** Fitments with a cell in this state. */
function stateFilter(state: EvidenceState, wantedParts: SQL | undefined): SQL {
  const rank = EVIDENCE_STATES.indexOf(state);
  const cells = sql`select ${applications.fitmentId} from ${applications}
    join ${parts} on ${parts.id} = ${applications.partId} left
    join (${evidence(sql`true`)}) e on e.part_id = ${applications.partId} and e.fitment_id = ${applications.fitmentId}
    where coalesce(e.rank, 0) = ${rank}${andSql(wantedParts)}`;
  return sql`${fitments.id} in (${cells})`;
}
function countsOf(rows: readonly { rank: number; n: number }[]): Record<string, number> {
  return Object.fromEntries(
    EVIDENCE_STATES.map((state, i) => [state, rows.find((row) => row.rank === i)?.n ?? 0]),
  );
}
