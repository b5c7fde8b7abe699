import { createHash } from 'node:crypto';
import { and, asc, eq, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import {
  IMPORT_COLUMNS,
  IMPORT_KEYS,
  importLabel,
  type ImportKind,
  type ImportPreview,
} from '../../contract/register/import.ts';
import { FitmentInput, PartInput, RevisionInput } from '../../contract/register/register.ts';
import { isEmbargoed } from '../../core/register/embargo.ts';
import {
  planImport,
  readTable,
  writeTable,
  type Cell,
  type ColumnSpec,
  type ImportPlan,
  type PlannedRow,
  type RowProblem,
  type RowValues,
} from '../../core/register/spreadsheet.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, RefusalError } from '../base/refusals.ts';
import { partShown } from './embargo.ts';
import { fitmentShown, newFitment } from './fitments.ts';
import { fitmentFoundBy, partFoundBy } from './found-by.ts';
import { applications, fitments, partRevisions, parts } from './tables.ts';
import {
  REVISION_FIELDS,
  fitmentValues,
  partValues,
  revisionValues,
  given,
  batches,
  distinctSlugs,
} from './import-values.ts';

export type ImportService = ReturnType<typeof createImportService>;
type Known = Map<string, { id: string; values: RowValues }>;
type Plan = ImportPlan & { unknownHeaders: readonly string[] };

const SHOWN_ROWS = 200;

export function createImportService({ db, now, newId }: Needs) {
  const columnsOf = (kind: ImportKind): readonly ColumnSpec[] => IMPORT_COLUMNS[kind];

  async function known(tx: Queryable, kind: ImportKind, person: Person): Promise<Known> {
    const out: Known = new Map();
    const put = (id: string, values: RowValues): void => {
      out.set(IMPORT_KEYS[kind](values), { id, values });
    };
    if (kind === 'fitments')
      for (const row of await tx.select().from(fitments)) put(row.id, fitmentShown(row));
    if (kind === 'parts') for (const row of await partRows(tx, person)) put(row.id, row.values);
    if (kind === 'applications') {
      const rows = await tx
        .select({
          partId: applications.partId,
          fitmentId: applications.fitmentId,
          part: parts,
          maker: fitments.maker,
          model: fitments.model,
          outputVariant: fitments.outputVariant,
          market: fitments.market,
        })
        .from(applications)
        .innerJoin(parts, eq(parts.id, applications.partId))
        .innerJoin(fitments, eq(fitments.id, applications.fitmentId));
      for (const { partId, fitmentId, part, ...f } of rows)
        put(`${partId} ${fitmentId}`, { sku: partShown(part, person, now()).sku, ...f });
    }
    return out;
  }

  /** Parts as rows of a table: the newest revision speaks for the part. Under embargo only for people with clearance. */
  async function partRows(tx: Queryable, person: Person) {
    const rows = await tx
      .select({ part: parts, revision: partRevisions })
      .from(parts)
      .leftJoin(partRevisions, eq(partRevisions.partId, parts.id))
      .orderBy(asc(parts.name), asc(parts.sku), asc(partRevisions.createdAt));
    const newest = new Map(rows.map((row) => [row.part.id, row]));
    return [...newest.values()]
      .filter(({ part }) => person.clearance || !isEmbargoed(part.embargoUntil, now()))
      .map(({ part, revision }) => ({
        id: part.id,
        version: part.version,
        values: {
          sku: part.sku,
          maker: part.maker,
          name: part.name,
          category: part.category,
          promise: part.promise,
          price: part.priceCents === null ? null : part.priceCents / 100,
          currency: part.currency,
          launchDate: part.launchDate,
          legalMarkets: part.legal.map((l) => l.market),
          legalClass: part.legal[0]?.class ?? null,
          revision: revision?.revision ?? null,
          installHours: revision?.installHours ?? null,
          removeHours: revision?.removeHours ?? null,
          weightKg: revision?.weightKg ?? null,
          note: part.note === '' ? null : part.note,
        } satisfies RowValues,
      }));
  }

  async function plan(tx: Queryable, kind: ImportKind, person: Person, text: string): Promise<Plan> {
    const table = readTable(text, columnsOf(kind));
    const planned = planImport(table, IMPORT_KEYS[kind], await known(tx, kind, person));
    const problems: RowProblem[] = [...planned.problems];
    const check =
      kind === 'applications'
        ? await applicationProblems(tx, planned.rows, person)
        : recordProblems(kind, planned.rows);
    problems.push(...check);
    const bad = new Set(check.map((p) => p.line));
    return {
      rows: planned.rows.filter((row) => !bad.has(row.line)),
      problems: problems.sort((a, b) => a.line - b.line),
      unknownHeaders: table.unknownHeaders,
    };
  }

  /** What the record as a whole refuses, cell by cell already checked. */
  function recordProblems(kind: ImportKind, rows: readonly PlannedRow[]): RowProblem[] {
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
        column: columnsOf(kind).find((c) => c.field === issue.path[0])?.header ?? null,
        message: issue.message,
      }));
    });
  }
  async function applicationProblems(
    tx: Queryable,
    rows: readonly PlannedRow[],
    person: Person,
  ): Promise<RowProblem[]> {
    const ids = await applicationIds(tx, person);
    return rows.flatMap((row): RowProblem[] => {
      if (row.action !== 'add') return [];
      const { part, fitment } = ids(row.values);
      return [
        ...(part
          ? []
          : [
              {
                line: row.line,
                column: 'SKU',
                message: `“${String(row.values.sku)}” is no SKU of the register.`,
              },
            ]),
        ...(fitment
          ? []
          : [
              {
                line: row.line,
                column: 'Model',
                message: 'no fitment of this maker, model, output variant and market is in the register.',
              },
            ]),
      ];
    });
  }
  async function applicationIds(tx: Queryable, person: Person) {
    const bySku = new Map(
      (await tx.select().from(parts)).map((p) => [partShown(p, person, now()).sku.toLowerCase(), p.id]),
    );
    const byName = new Map(
      (
        await tx
          .select({
            id: fitments.id,
            maker: fitments.maker,
            model: fitments.model,
            outputVariant: fitments.outputVariant,
            market: fitments.market,
          })
          .from(fitments)
      ).map(({ id, ...f }) => [IMPORT_KEYS.fitments(f), id]),
    );
    return (values: RowValues): { part: string | undefined; fitment: string | undefined } => ({
      part: bySku.get(String((values as Record<string, Cell>).sku ?? '').toLowerCase()),
      fitment: byName.get(IMPORT_KEYS.fitments(values)),
    });
  }

  const digestOf = (kind: ImportKind, planned: Plan): string =>
    createHash('sha256')
      .update(JSON.stringify([kind, planned.rows, planned.problems]))
      .digest('hex');
  const count = (planned: Plan, action: PlannedRow['action']): number =>
    planned.rows.filter((row) => row.action === action).length;

  return {
    /** What an import would do; nothing is changed. */
    async preview(person: Person, kind: ImportKind, text: string): Promise<ImportPreview> {
      const planned = await plan(db, kind, person, text);
      const order = { change: 0, add: 1, keep: 2 };
      const header = (field: string): string =>
        columnsOf(kind).find((c) => c.field === field)?.header ?? field;
      const cell = (value: Cell): string =>
        value === null ? 'empty' : Array.isArray(value) ? value.join(', ') : String(value);
      return {
        digest: digestOf(kind, planned),
        counts: {
          add: count(planned, 'add'),
          change: count(planned, 'change'),
          keep: count(planned, 'keep'),
        },
        unknownHeaders: [...planned.unknownHeaders],
        problems: planned.problems.map((p) => ({ ...p })),
        rows: [...planned.rows]
          .sort((a, b) => order[a.action] - order[b.action] || a.line - b.line)
          .slice(0, SHOWN_ROWS)
          .map((row) => ({
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
      return db.transaction(async (tx) => {
        await tx.execute(
          sql`lock table ${kind === 'fitments' ? fitments : kind === 'parts' ? parts : applications} in share row exclusive mode`,
        );
        const planned = await plan(tx, kind, person, text);
        if (planned.problems.length > 0) {
          const first = planned.problems[0];
          throw new RefusalError(
            422,
            'ROWS_WITH_PROBLEMS',
            `Line ${first.line}${first.column ? `, “${first.column}”` : ''}: ${first.message}${planned.problems.length > 1 ? ` And ${planned.problems.length - 1} more.` : ''}`,
            'Put the rows right and preview again; nothing was imported.',
            { line: first.line, ...(first.column ? { column: first.column } : {}) },
          );
        }
        if (digestOf(kind, planned) !== digest)
          throw conflict(
            'REGISTER_MOVED_ON',
            'The register or the table has changed since the preview.',
            'Preview again and look at what would change now.',
          );
        const adds = planned.rows.flatMap((row) => (row.action === 'add' ? [row] : []));
        const changes = planned.rows.flatMap((row) => (row.action === 'change' ? [row] : []));
        if (kind === 'fitments') {
          const values = [];
          for (const row of adds)
            values.push(await newFitment(tx, newId(), FitmentInput.parse(fitmentValues(row.values)), now()));
          distinctSlugs(values);
          for (const batch of batches(values)) await tx.insert(fitments).values(batch);
          for (const row of changes) {
            const set = given(
              fitmentValues(row.values),
              row.changes.map((c) => c.field),
            );
            const [after] = await tx
              .update(fitments)
              .set({ ...set, version: sql`${fitments.version} + 1` })
              .where(eq(fitments.id, row.id))
              .returning();
            await tx
              .update(fitments)
              .set({ foundBy: fitmentFoundBy(after, now()) })
              .where(eq(fitments.id, row.id));
          }
        } else if (kind === 'parts') {
          const rows = adds.map((row) => ({ id: newId(), row }));
          for (const batch of batches(rows)) {
            await tx.insert(parts).values(
              batch.map(({ id, row }) => {
                const input = PartInput.parse(partValues(row.values));
                return { id, ...input, foundBy: partFoundBy(input) };
              }),
            );
            await tx.insert(partRevisions).values(
              batch.map(({ id, row }) => ({
                id: newId(),
                partId: id,
                ...RevisionInput.parse(revisionValues(row.values)),
                createdAt: now(),
                createdBy: person.id,
              })),
            );
          }
          for (const row of changes) {
            const fields = row.changes.map((c) => c.field);
            const mapped = fields.flatMap((field) =>
              field === 'price'
                ? ['priceCents']
                : field === 'legalMarkets' || field === 'legalClass'
                  ? ['legal']
                  : REVISION_FIELDS.includes(field)
                    ? []
                    : [field],
            );
            const [before] = await tx.select().from(parts).where(eq(parts.id, row.id));
            const merged = partValues({
              ...row.values,
              ...(fields.includes('legalMarkets') ? {} : { legalMarkets: before.legal.map((l) => l.market) }),
              ...(fields.includes('legalClass') ? {} : { legalClass: before.legal[0]?.class ?? null }),
            });
            const [after] = await tx
              .update(parts)
              .set({ ...given(merged, mapped), version: sql`${parts.version} + 1` })
              .where(eq(parts.id, row.id))
              .returning();
            await tx
              .update(parts)
              .set({ foundBy: partFoundBy(after) })
              .where(eq(parts.id, row.id));
            if (fields.some((field) => REVISION_FIELDS.includes(field)))
              await reviseFromRow(tx, person, row.id, row.values);
          }
        } else {
          const ids = await applicationIds(tx, person);
          for (const batch of batches(adds))
            await tx
              .insert(applications)
              .values(
                batch.map((row) => {
                  const { part, fitment } = ids(row.values);
                  return { partId: part!, fitmentId: fitment! };
                }),
              )
              .onConflictDoNothing();
        }
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
          (await partRows(db, person)).map((row) => row.values),
        );
      return writeTable(
        columnsOf(kind),
        [...(await known(db, kind, person)).values()].map((row) => row.values),
      );
    },
  };

  /** A row with another revision name makes a new revision of what it gives; one that would rewrite the newest is refused. */
  async function reviseFromRow(
    tx: Queryable,
    person: Person,
    partId: string,
    values: RowValues,
  ): Promise<void> {
    const input = RevisionInput.parse(revisionValues(values));
    const [twin] = await tx
      .select()
      .from(partRevisions)
      .where(and(eq(partRevisions.partId, partId), eq(partRevisions.revision, input.revision)));
    if (twin)
      throw conflict(
        'REVISION_STAYS',
        `Revision ${input.revision} of ${String((values as Record<string, Cell>).sku ?? '')} is written once; the table would change it.`,
        'Give the changed values under a new revision.',
      );
    const [newest] = await tx
      .select()
      .from(partRevisions)
      .where(eq(partRevisions.partId, partId))
      .orderBy(sql`${partRevisions.createdAt} desc`)
      .limit(1);
    await tx.insert(partRevisions).values({
      ...(newest ?? {}),
      id: newId(),
      partId,
      revision: input.revision,
      changeNote: 'imported from a table',
      ...given(
        revisionValues(values),
        ['installHours', 'removeHours', 'weightKg'].filter(
          (f) =>
            (values as Record<string, Cell | undefined>)[f] !== undefined &&
            (values as Record<string, Cell>)[f] !== null,
        ),
      ),
      createdAt: now(),
      createdBy: person.id,
    });
  }
}
