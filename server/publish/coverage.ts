import { and, asc, count, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type { Glyph } from '../../contract/compare/glyph.ts';
import type {
  Coverage,
  CoverageCell,
  CoverageQuery,
  CoverageRow,
  NextQuery,
} from '../../contract/publish/coverage.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { servedTogether } from '../../core/register/family.ts';
import { EVIDENCE_STATES } from '../../core/register/worth-testing.ts';
import type { Db } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';
import type { Needs } from '../base/needs.ts';
import { partShown, shownName } from '../register/embargo.ts';
import { fitmentFilter, fitmentPage } from '../register/fitments.ts';
import { fitments, parts } from '../register/tables.ts';
import { legacyOfCells } from './legacy.ts';
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
  readonly fitmentIds: readonly string[] | undefined;
  readonly partIds: readonly string[] | undefined;
  readonly rank: number | undefined;
}

async function narrowed(db: Db, person: Person, query: Query, now: Date): Promise<Narrowed> {
  const wanted = partFilter(person, query, now);
  const meant = fitmentFilter({ q: query.q, family: query.family });
  const [partRows, fitmentRows] = await Promise.all([
    wanted && db.select({ id: parts.id }).from(parts).where(wanted),
    meant && db.select({ id: fitments.id }).from(fitments).where(meant),
  ]);
  return {
    fitmentIds: fitmentRows?.map((f) => f.id),
    partIds: partRows?.map((p) => p.id),
    rank: query.state === undefined ? undefined : EVIDENCE_STATES.indexOf(query.state),
  };
}
/** One parameter however many they are. */
const oneOf = (column: AnyPgColumn, ids: readonly string[] | undefined): SQL | undefined =>
  ids && sql`${column} = any(${sql.param([...ids])}::uuid[])`;

/** Fitments with a row in the narrowed grid. */
function rowFilter(by: Narrowed): SQL | undefined {
  const cells = and(
    oneOf(coverageCells.partId, by.partIds),
    by.rank === undefined ? undefined : eq(coverageCells.rank, by.rank),
  );
  return and(
    oneOf(fitments.id, by.fitmentIds),
    cells
      ? sql`exists (select 1 from ${coverageCells} where ${coverageCells.fitmentId} = ${fitments.id} and ${cells})`
      : sql`exists (select 1 from ${coverageRows} where ${coverageRows.fitmentId} = ${fitments.id})`,
  );
}

/** Number of rows, of cells by state, and the parts across: what only the first page needs. */
const totalOf = async (db: Db, by: Narrowed): Promise<number> => {
  const [{ total }] =
    by.fitmentIds || by.partIds || by.rank !== undefined
      ? await db.select({ total: count() }).from(fitments).where(rowFilter(by))
      : await db.select({ total: count() }).from(coverageRows);
  return total;
};
async function countsOf(db: Db, by: Narrowed): Promise<Record<string, number>> {
  const rows = by.fitmentIds
    ? await db
        .select({ rank: coverageCells.rank, n: count() })
        .from(coverageCells)
        .where(and(oneOf(coverageCells.fitmentId, by.fitmentIds), oneOf(coverageCells.partId, by.partIds)))
        .groupBy(coverageCells.rank)
    : await db
        .select({ rank: coverageCounts.rank, n: sql<number>`sum(${coverageCounts.cells})::int` })
        .from(coverageCounts)
        .where(oneOf(coverageCounts.partId, by.partIds))
        .groupBy(coverageCounts.rank);
  return Object.fromEntries(
    EVIDENCE_STATES.map((state, i) => [state, rows.find((row) => row.rank === i)?.n ?? 0]),
  );
}
/** What a column of the grid is known by, and what decides who may know it. */
const COLUMN = {
  id: parts.id,
  name: parts.name,
  sku: parts.sku,
  maker: parts.maker,
  category: parts.category,
  launchDate: parts.launchDate,
  embargoUntil: parts.embargoUntil,
  codeName: parts.codeName,
};
type ColumnRow = Pick<typeof parts.$inferSelect, keyof typeof COLUMN>;
const columnsOf = (db: Db, by: Narrowed, name: SQL<string>): Promise<ColumnRow[]> =>
  db
    .select(COLUMN)
    .from(parts)
    .where(
      and(
        oneOf(parts.id, by.partIds),
        by.fitmentIds
          ? sql`${parts.id} in (select ${coverageCells.partId} from ${coverageCells}
              where ${oneOf(coverageCells.fitmentId, by.fitmentIds)})`
          : sql`exists (select 1 from ${coverageCounts} where ${coverageCounts.partId} = ${parts.id})`,
      ),
    )
    .orderBy(asc(parts.category), asc(name), asc(parts.id));

/** A cell as it is stored, and the curve of the arm that speaks for it where something was measured. */
interface CellRow extends Record<string, unknown> {
  readonly fitment_id: string;
  readonly part_id: string;
  readonly rank: number;
  readonly tests: number;
  readonly test_id: string | null;
  readonly served: boolean;
  readonly glyph: Glyph | null;
}
/** Asked as rows: a page has thousands of cells, and each detour of one is paid for thousands of times. */
async function cellsOf(db: Db, rows: readonly FitmentRow[], by: Narrowed): Promise<CellRow[]> {
  const ids = sql.param(rows.map((row) => row.id));
  const narrowedTo = oneOf(coverageCells.partId, by.partIds);
  const { rows: cells } = await db.execute<CellRow>(sql`
    select fitment_id, part_id, rank, tests, test_id, served,
        case when rank >= ${MEASURED} then (select a.glyphs -> coverage_cells.arm
          from tests t join analyses a on a.id = ${standingAnalysis()} where t.id = coverage_cells.test_id) end as glyph
      from coverage_cells where fitment_id = any(${ids}::uuid[])${narrowedTo ? sql` and ${narrowedTo}` : sql``}`);
  return cells;
}

/** What decides who is served together. */
const MEMBER = {
  id: fitments.id,
  family: fitments.family,
  engineCode: fitments.engineCode,
  outputVariant: fitments.outputVariant,
  ratedPowerKw: fitments.ratedPowerKw,
  aspiration: fitments.aspiration,
  ignition: fitments.ignition,
  fuel: fitments.fuel,
  transmission: fitments.transmission,
  drivenWheels: fitments.drivenWheels,
};
/** By fitment, the number of the group of its family that one test serves. */
async function groupsOf(db: Db, rows: readonly FitmentRow[]): Promise<Map<string, number>> {
  const families = [...new Set(rows.map((row) => row.family))];
  const members = await db.select(MEMBER).from(fitments).where(inArray(fitments.family, families));
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

async function rowsShown(
  db: Db,
  rows: readonly FitmentRow[],
  by: Narrowed,
  person: Person,
  now: Date,
): Promise<CoverageRow[]> {
  if (rows.length === 0) return [];
  const ids = rows.map((row) => row.id);
  const [cells, groups, legacy] = await Promise.all([
    cellsOf(db, rows, by),
    groupsOf(db, rows),
    legacyOfCells(db, ids, person, now),
  ]);
  const byFitment = new Map<string, CellRow[]>(rows.map((row) => [row.id, []]));
  for (const cell of cells) byFitment.get(cell.fitment_id)!.push(cell);
  return rows.map((row) => ({
    id: row.id,
    name: fitmentName(row),
    family: row.family,
    outputVariant: row.outputVariant,
    unitsPerYear: row.unitsPerYear,
    group: groups.get(row.id) ?? null,
    cells: byFitment.get(row.id)!.map((cell) => cellShown(cell, legacy)),
  }));
}
/** Only what there is to say is sent: most cells of a large grid are untested. */
const cellShown = (cell: CellRow, legacy: ReadonlySet<string>): CoverageCell => ({
  partId: cell.part_id,
  state: EVIDENCE_STATES[cell.rank],
  ...(cell.test_id ? { testId: cell.test_id } : {}),
  ...(cell.tests > 0 ? { tests: cell.tests } : {}),
  ...(cell.glyph ? { glyph: cell.glyph } : {}),
  ...(cell.served ? { familyServed: true } : {}),
  ...(legacy.has(`${cell.fitment_id} ${cell.part_id}`) ? { legacy: true } : {}),
});

export function createCoverageService({ db, now }: Pick<Needs, 'db' | 'now'>) {
  const column = (part: ColumnRow, person: Person): Coverage['parts'][number] => {
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
        parts: columns.map((part) => column(part, person)),
        rows: await rowsShown(db, rows, by, person, now()),
        next,
        total,
        counts,
      };
    },
    next: (person: Person, query: z.output<typeof NextQuery>) => worthNext({ db, now }, person, query),
  };
}
