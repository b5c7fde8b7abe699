import type { Person } from '../../contract/base/http.ts';
import { IMPORT_COLUMNS, IMPORT_KEYS, type ImportKind } from '../../contract/register/import.ts';
import { FitmentInput, PartInput, RevisionInput } from '../../contract/register/register.ts';
import {
  planningImport,
  type ReadTable,
  type ImportPlan,
  type PlannedRow,
  type RowProblem,
} from '../../core/register/spreadsheet.ts';
import type { Queryable } from '../base/db.ts';
import { inParts, unhurried } from '../base/unhurried.ts';
import { applicationIds, known } from './import-known.ts';
import { fitmentValues, partValues, revisionValues } from './import-values.ts';

export type Plan = ImportPlan & { unknownHeaders: readonly string[] };

/** What a table would change, and what is wrong in which row. */
export async function plannedOf(
  tx: Queryable,
  now: Date,
  kind: ImportKind,
  person: Person,
  table: ReadTable,
): Promise<Plan> {
  const there = await known(tx, now, kind, person);
  const planned = await unhurried(planningImport(table, IMPORT_KEYS[kind], there));
  const problems: RowProblem[] = [...planned.problems];
  const check =
    kind === 'applications'
      ? await applicationProblems(tx, now, planned.rows, person)
      : await recordProblemsOf(kind, planned.rows);
  for (const problem of check) problems.push(problem);
  const bad = new Set(check.map((p) => p.line));
  return {
    rows: planned.rows.filter((row) => !bad.has(row.line)),
    problems: problems.sort((a, b) => a.line - b.line),
    unknownHeaders: table.unknownHeaders,
  };
}

async function recordProblemsOf(kind: ImportKind, rows: readonly PlannedRow[]): Promise<RowProblem[]> {
  const all: RowProblem[] = [];
  for await (const part of inParts(rows, 200)) all.push(...recordProblems(kind, part));
  return all;
}
/** What the record as a whole refuses, cell by cell already checked. */
export function recordProblems(kind: ImportKind, rows: readonly PlannedRow[]): RowProblem[] {
  return rows.flatMap((row): RowProblem[] => {
    if (row.action === 'keep') return [];
    // A changed row is checked for what it gives; what it leaves out stays as it was.
    const parsed =
      kind === 'fitments'
        ? FitmentInput.safeParse(fitmentValues(row.values))
        : PartInput.safeParse(partValues(row.values));
    const revision =
      kind === 'parts' && row.action === 'add'
        ? RevisionInput.safeParse(revisionValues(row.values))
        : undefined;
    return [...(parsed.error?.issues ?? []), ...(revision?.error?.issues ?? [])].map((issue) => ({
      line: row.line,
      column: IMPORT_COLUMNS[kind].find((c) => c.field === issue.path[0])?.header ?? null,
      message: issue.message,
    }));
  });
}
/** Rows that name a part or fitment the register does not have. */
export async function applicationProblems(
  tx: Queryable,
  now: Date,
  rows: readonly PlannedRow[],
  person: Person,
): Promise<RowProblem[]> {
  const ids = await applicationIds(tx, now, person);
  const all: RowProblem[] = [];
  for await (const part of inParts(rows)) all.push(...part.flatMap((row) => strangersIn(row, ids)));
  return all;
}
type Ids = Awaited<ReturnType<typeof applicationIds>>;
function strangersIn(row: PlannedRow, ids: Ids): RowProblem[] {
  if (row.action !== 'add') return [];
  const { line, values } = row;
  const { part, fitment } = ids(values);
  const found: RowProblem[] = [];
  if (!part)
    found.push({ line, column: 'SKU', message: `“${String(values.sku)}” is no SKU of the register.` });
  if (!fitment)
    found.push({
      line,
      column: 'Model',
      message: 'no fitment of this maker, model, output variant and market is in the register.',
    });
  return found;
}
