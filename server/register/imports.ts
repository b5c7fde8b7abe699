import { createHash } from 'node:crypto';
import { asc, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import {
  IMPORT_COLUMNS,
  importLabel,
  type ImportKind,
  type ImportPreview,
} from '../../contract/register/import.ts';
import {
  writeTable,
  type Cell,
  type ColumnSpec,
  type PlannedRow,
  type RowValues,
} from '../../core/register/spreadsheet.ts';
import { recordAudit } from '../base/audit.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, RefusalError } from '../base/refusals.ts';
import { inParts } from '../base/unhurried.ts';
import { fitmentShown } from './fitments.ts';
import { known, partRows } from './import-known.ts';
import { plannedOf, type Plan } from './import-plan.ts';
import { writeRows } from './import-write.ts';
import { applications, fitments, parts } from './tables.ts';
import { tableOf } from './tasks.ts';

export type ImportService = ReturnType<typeof createImportService>;

/** Rows of a preview that are shown. */
const SHOWN_ROWS = 200;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createImportService({ db, now, newId, threads }: Needs) {
  const columnsOf = (kind: ImportKind): readonly ColumnSpec[] => IMPORT_COLUMNS[kind];

  const digestOf = async (kind: ImportKind, { rows, problems }: Plan): Promise<string> => {
    const hash = createHash('sha256').update(kind);
    for await (const part of inParts(rows)) hash.update(JSON.stringify(part));
    for await (const part of inParts(problems)) hash.update(JSON.stringify(part));
    return hash.digest('hex');
  };
  const count = (planned: Plan, action: PlannedRow['action']): number =>
    planned.rows.filter((row) => row.action === action).length;

  return {
    /** What an import would do; nothing is changed. */
    async preview(person: Person, kind: ImportKind, text: string): Promise<ImportPreview> {
      const table = await tableOf(threads, kind, text);
      const planned = await plannedOf(db, now(), kind, person, table);
      // As they stand in the table, changes first.
      const shown = (['change', 'add', 'keep'] as const).flatMap((action) =>
        planned.rows.filter((row) => row.action === action).slice(0, SHOWN_ROWS),
      );
      const header = (field: string): string =>
        columnsOf(kind).find((c) => c.field === field)?.header ?? field;
      const cell = (value: Cell): string =>
        value === null ? 'empty' : Array.isArray(value) ? value.join(', ') : String(value);
      return {
        digest: await digestOf(kind, planned),
        counts: {
          add: count(planned, 'add'),
          change: count(planned, 'change'),
          keep: count(planned, 'keep'),
        },
        unknownHeaders: [...planned.unknownHeaders],
        problems: planned.problems.map((p) => ({ ...p })),
        rows: shown.slice(0, SHOWN_ROWS).map((row) => ({
          line: row.line,
          action: row.action,
          key: importLabel(kind, row.values),
          changes:
            row.action === 'change'
              ? row.changes.map((c) => ({ field: header(c.field), from: cell(c.from), to: cell(c.to) }))
              : [],
        })),
      };
    },

    /** Does what the preview said, whole or not at all. A table with a problem in it is not imported in part. */
    async apply(person: Person, kind: ImportKind, text: string, digest: string) {
      // Read before anything is locked: others go on meanwhile.
      const table = await tableOf(threads, kind, text);
      return db.transaction(async (tx) => {
        await tx.execute(
          sql`lock table ${kind === 'fitments' ? fitments : kind === 'parts' ? parts : applications} in share row exclusive mode`,
        );
        const planned = await plannedOf(tx, now(), kind, person, table);
        if (planned.problems.length > 0) {
          const first = planned.problems[0];
          throw new RefusalError(
            422,
            'ROWS_WITH_PROBLEMS',
            `Line ${first.line}${first.column ? `, “${first.column}”` : ''}: ` +
              `${first.message}${planned.problems.length > 1 ? ` And ${planned.problems.length - 1} more.` : ''}`,
            'Put the rows right and preview again; nothing was imported.',
            { line: first.line, ...(first.column ? { column: first.column } : {}) },
          );
        }
        if ((await digestOf(kind, planned)) !== digest)
          throw conflict(
            'REGISTER_MOVED_ON',
            'The register or the table has changed since the preview.',
            'Preview again and look at what would change now.',
          );
        const adds = planned.rows.flatMap((row) => (row.action === 'add' ? [row] : []));
        const changes = planned.rows.flatMap((row) => (row.action === 'change' ? [row] : []));
        await writeRows(tx, { now, newId }, kind, person, { adds, changes });
        await recordAudit(tx, now(), person, `imported ${kind}`, 'register', kind, {
          added: adds.length,
          changed: changes.length,
          digest,
          withheld: { keys: [...adds, ...changes].slice(0, 50).map((row) => row.key) },
        });
        return { added: adds.length, changed: changes.length, kept: count(planned, 'keep') };
      });
    },

    /** Everything of a kind as CSV that this importer reads again. */
    async export(person: Person, kind: ImportKind): Promise<string> {
      if (kind === 'fitments')
        return writeTable(
          columnsOf(kind),
          (
            await db
              .select()
              .from(fitments)
              .orderBy(asc(fitments.maker), asc(fitments.model), asc(fitments.outputVariant))
          ).map((row) => fitmentShown(row) as unknown as RowValues),
        );
      if (kind === 'parts')
        return writeTable(
          columnsOf(kind),
          (await partRows(db, now(), person)).map((row) => row.values),
        );
      return writeTable(
        columnsOf(kind),
        [...(await known(db, now(), kind, person)).values()].map((row) => row.values),
      );
    },
  };
}
