/** Writes what a table adds and changes, all in the transaction of the import. */
import { and, eq, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { ImportKind } from '../../contract/register/import.ts';
import { FitmentInput, PartInput, RevisionInput } from '../../contract/register/register.ts';
import { IMPORTED_NOTE } from '../../core/register/near-parts.ts';
import type { Cell, PlannedRow, RowValues } from '../../core/register/spreadsheet.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict } from '../base/refusals.ts';
import { newFitment } from './fitments.ts';
import { fitmentFoundBy, partFoundBy } from './found-by.ts';
import { applicationIds } from './import-known.ts';
import {
  batches,
  distinctSlugs,
  fitmentValues,
  given,
  partValues,
  REVISION_FIELDS,
  revisionValues,
} from './import-values.ts';
import { applications, fitments, partRevisions, parts } from './tables.ts';

type Writing = Pick<Needs, 'now' | 'newId'>;
type Added = Extract<PlannedRow, { action: 'add' }>;
type Changed = Extract<PlannedRow, { action: 'change' }>;
interface Changes {
  readonly adds: readonly Added[];
  readonly changes: readonly Changed[];
}

export const writeRows = (
  tx: Queryable,
  writing: Writing,
  kind: ImportKind,
  person: Person,
  changes: Changes,
): Promise<void> =>
  ({ fitments: writeFitments, parts: writeParts, applications: writeApplications })[kind](
    tx,
    writing,
    person,
    changes,
  );

async function writeFitments(
  tx: Queryable,
  { now, newId }: Writing,
  _person: Person,
  { adds, changes }: Changes,
): Promise<void> {
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
}

async function writeParts(
  tx: Queryable,
  { now, newId }: Writing,
  person: Person,
  { adds, changes }: Changes,
): Promise<void> {
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
  for (const row of changes) await changePart(tx, { now, newId }, person, row);
}

/** Changes what a row gives of a part; what it leaves out stays as it was. */
async function changePart(tx: Queryable, writing: Writing, person: Person, row: Changed): Promise<void> {
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
    await reviseFromRow(tx, writing, person, row.id, row.values);
}

async function writeApplications(
  tx: Queryable,
  { now }: Writing,
  person: Person,
  { adds }: Changes,
): Promise<void> {
  const ids = await applicationIds(tx, now(), person);
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

/** A row with another revision name makes a new revision of what it gives; one that would rewrite the newest is refused. */
async function reviseFromRow(
  tx: Queryable,
  { now, newId }: Writing,
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
    changeNote: IMPORTED_NOTE,
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
