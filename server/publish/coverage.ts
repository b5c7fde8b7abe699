import { and, asc, count, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type { Glyph } from '../../contract/compare/glyph.ts';
import type { Coverage, CoverageQuery, CoverageRow, NextQuery } from '../../contract/publish/coverage.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { servedTogether } from '../../core/register/family.ts';
import { EVIDENCE_STATES } from '../../core/register/worth-testing.ts';
import type { Db } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { analyses } from '../judge/tables.ts';
import { tests } from '../plan/tables.ts';
import { partShown, shownName } from '../register/embargo.ts';
import { fitmentFilter, fitmentPage } from '../register/fitments.ts';
import { fitments, parts } from '../register/tables.ts';
import { partFilter } from './part-filter.ts';
import { coverageCells, coverageCounts, coverageRows } from './places-tables.ts';
import { refreshPlaces } from './places.ts';
import { worthNext } from './worth-next.ts';

export type CoverageService = ReturnType<typeof createCoverageService>;
type Query = z.output<typeof CoverageQuery>;
type FitmentRow = typeof fitments.$inferSelect;

const MEASURED = EVIDENCE_STATES.indexOf('measured');

/** What a question narrows the grid to; undefined where it does not. */
interface Narrowed {
  readonly fitments: SQL | undefined;
  readonly partIds: readonly string[] | undefined;
  readonly rank: number | undefined;
}

async function narrowed(db: Db, person: Person, query: Query, now: Date): Promise<Narrowed> {
  const wanted = partFilter(person, query, now);
  return {
    fitments: fitmentFilter({ q: query.q, family: query.family }),
    partIds: wanted && (await db.select({ id: parts.id }).from(parts).where(wanted)).map((p) => p.id),
    rank: query.state === undefined ? undefined : EVIDENCE_STATES.indexOf(query.state),
  };
}
const ofParts = (column: AnyPgColumn, { partIds }: Narrowed): SQL | undefined =>
  partIds && (partIds.length ? inArray(column, [...partIds]) : sql`false`);

/** Fitments with a row in the narrowed grid. */
function rowFilter(by: Narrowed): SQL | undefined {
  const cells = and(
    ofParts(coverageCells.partId, by),
    by.rank === undefined ? undefined : eq(coverageCells.rank, by.rank),
  );
  return and(
    by.fitments,
    cells
      ? sql`exists (select 1 from ${coverageCells} where ${coverageCells.fitmentId} = ${fitments.id} and ${cells})`
      : sql`exists (select 1 from ${coverageRows} where ${coverageRows.fitmentId} = ${fitments.id})`,
  );
}

/** Number of rows, of cells by state, and the parts across: what only the first page needs. */
const totalOf = async (db: Db, by: Narrowed): Promise<number> => {
  const [{ total }] =
    by.fitments || by.partIds || by.rank !== undefined
      ? await db.select({ total: count() }).from(fitments).where(rowFilter(by))
      : await db.select({ total: count() }).from(coverageRows);
  return total;
};
async function countsOf(db: Db, by: Narrowed): Promise<Record<string, number>> {
  const rows = by.fitments
    ? await db
        .select({ rank: coverageCells.rank, n: count() })
        .from(coverageCells)
        .innerJoin(fitments, eq(fitments.id, coverageCells.fitmentId))
        .where(and(by.fitments, ofParts(coverageCells.partId, by)))
        .groupBy(coverageCells.rank)
    : await db
        .select({ rank: coverageCounts.rank, n: sql<number>`sum(${coverageCounts.cells})::int` })
        .from(coverageCounts)
        .where(ofParts(coverageCounts.partId, by))
        .groupBy(coverageCounts.rank);
  return Object.fromEntries(
    EVIDENCE_STATES.map((state, i) => [state, rows.find((row) => row.rank === i)?.n ?? 0]),
  );
}
const columnsOf = (db: Db, by: Narrowed, name: SQL<string>) =>
  db
    .select({ part: parts })
    .from(parts)
    .where(
      and(
        by.partIds && (by.partIds.length ? inArray(parts.id, [...by.partIds]) : sql`false`),
        by.fitments
          ? sql`${parts.id} in (select ${coverageCells.partId} from ${coverageCells}
              join ${fitments} on ${fitments.id} = ${coverageCells.fitmentId} where ${by.fitments})`
          : sql`exists (select 1 from ${coverageCounts} where ${coverageCounts.partId} = ${parts.id})`,
      ),
    )
    .orderBy(asc(parts.category), asc(name), asc(parts.id));

/** Cells of some fitments, with the curve of what was measured. */
async function cellsOf(db: Db, rows: readonly FitmentRow[], by: Narrowed) {
  const cells = await db
    .select()
    .from(coverageCells)
    .where(
      and(
        inArray(
          coverageCells.fitmentId,
          rows.map((row) => row.id),
        ),
        ofParts(coverageCells.partId, by),
      ),
    );
  const glyphs = await glyphsOf(
    db,
    cells.flatMap((cell) => (cell.rank >= MEASURED && cell.testId ? [cell.testId] : [])),
  );
  return { cells, glyphs };
}
async function glyphsOf(
  db: Db,
  testIds: readonly string[],
): Promise<Map<string, Record<string, Glyph | null> | null>> {
  if (testIds.length === 0) return new Map();
  const rows = await db
    .select({ testId: tests.id, glyphs: analyses.glyphs })
    .from(tests)
    .innerJoin(analyses, eq(analyses.id, tests.currentAnalysisId))
    .where(inArray(tests.id, [...new Set(testIds)]));
  return new Map(rows.map((row) => [row.testId, row.glyphs]));
}

/** By fitment, the number of the group of its family that one test serves. */
async function groupsOf(db: Db, rows: readonly FitmentRow[]): Promise<Map<string, number>> {
  const families = [...new Set(rows.map((row) => row.family))];
  const members = await db.select().from(fitments).where(inArray(fitments.family, families));
  const groups = new Map<string, number>();
  for (const family of families)
    servedTogether(
      members
        .filter((m) => m.family === family)
        .sort((a, b) => a.ratedPowerKw - b.ratedPowerKw || (a.id < b.id ? -1 : 1)),
    ).forEach((group, i) => {
      for (const member of group.members) groups.set(member.id, i + 1);
    });
  return groups;
}

async function rowsShown(db: Db, rows: readonly FitmentRow[], by: Narrowed): Promise<CoverageRow[]> {
  if (rows.length === 0) return [];
  const [{ cells, glyphs }, groups] = await Promise.all([cellsOf(db, rows, by), groupsOf(db, rows)]);
  const byFitment = new Map<string, typeof cells>(rows.map((row) => [row.id, []]));
  for (const cell of cells) byFitment.get(cell.fitmentId)!.push(cell);
  return rows.map((row) => ({
    id: row.id,
    name: fitmentName(row),
    family: row.family,
    outputVariant: row.outputVariant,
    unitsPerYear: row.unitsPerYear,
    group: groups.get(row.id) ?? null,
    cells: byFitment.get(row.id)!.map((cell) => ({
      partId: cell.partId,
      state: EVIDENCE_STATES[cell.rank],
      testId: cell.testId,
      tests: cell.tests,
      glyph: (cell.testId && cell.arm && glyphs.get(cell.testId)?.[cell.arm]) || null,
      familyServed: cell.served,
    })),
  }));
}

export function createCoverageService({ db, now }: Pick<Needs, 'db' | 'now'>) {
  const column = (part: typeof parts.$inferSelect, person: Person): Coverage['parts'][number] => {
    const { id, name, sku, category, launchDate } = partShown(part, person, now());
    return { id, name, sku, category, launchDate };
  };
  return {
    /** A page of the grid: fitments down, parts across, a cell for every application. */
    async grid(person: Person, query: Query): Promise<Coverage> {
      await refreshPlaces(db);
      const by = await narrowed(db, person, query, now());
      const first = query.after === undefined;
      const [{ rows, next }, total, columns, counts] = await Promise.all([
        fitmentPage(db, rowFilter(by), query, query.group === 'families'),
        totalOf(db, by),
        first ? columnsOf(db, by, shownName(person, now())) : [],
        first ? countsOf(db, by) : {},
      ]);
      return {
        parts: columns.map(({ part }) => column(part, person)),
        rows: await rowsShown(db, rows, by),
        next,
        total,
        counts,
      };
    },
    next: (person: Person, query: z.output<typeof NextQuery>) => worthNext({ db, now }, person, query),
  };
}
