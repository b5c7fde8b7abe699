/** What the register holds already, as rows of a table. */
import { asc, eq, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { IMPORT_KEYS, type ImportKind } from '../../contract/register/import.ts';
import { isEmbargoed } from '../../core/register/embargo.ts';
import type { Cell, RowValues } from '../../core/register/spreadsheet.ts';
import type { Queryable } from '../base/db.ts';
import { partShown } from './embargo.ts';
import { fitmentShown } from './fitments.ts';
import { applications, fitments, partRevisions, parts } from './tables.ts';

export type Known = Map<string, { id: string; values: RowValues }>;

export async function known(tx: Queryable, now: Date, kind: ImportKind, person: Person): Promise<Known> {
  const out: Known = new Map();
  const put = (id: string, values: RowValues): void => {
    out.set(IMPORT_KEYS[kind](values), { id, values });
  };
  if (kind === 'fitments') for (const row of await tx.select().from(fitments)) put(row.id, fitmentShown(row));
  if (kind === 'parts') for (const row of await partRows(tx, now, person)) put(row.id, row.values);
  if (kind === 'applications')
    for await (const rows of applicationPages(tx))
      for (const { partId, fitmentId, part, ...f } of rows)
        put(`${partId} ${fitmentId}`, { sku: partShown(part, person, now).sku, ...f });
  return out;
}

const PAGE = 2000;
/** Applications of the register in pages: there may be very many. */
async function* applicationPages(tx: Queryable) {
  let after: { partId: string; fitmentId: string } | undefined;
  for (;;) {
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
      .innerJoin(fitments, eq(fitments.id, applications.fitmentId))
      .where(
        after &&
          sql`(${applications.partId}, ${applications.fitmentId}) > (${after.partId}::uuid, ${after.fitmentId}::uuid)`,
      )
      .orderBy(asc(applications.partId), asc(applications.fitmentId))
      .limit(PAGE);
    yield rows;
    if (rows.length < PAGE) return;
    after = rows.at(-1);
  }
}

/** Parts as rows of a table: the newest revision speaks for the part. Under embargo only for people with clearance. */
export async function partRows(tx: Queryable, now: Date, person: Person) {
  const rows = await tx
    .select({ part: parts, revision: partRevisions })
    .from(parts)
    .leftJoin(partRevisions, eq(partRevisions.partId, parts.id))
    .orderBy(asc(parts.name), asc(parts.sku), asc(partRevisions.createdAt));
  const newest = new Map(rows.map((row) => [row.part.id, row]));
  return [...newest.values()]
    .filter(({ part }) => person.clearance || !isEmbargoed(part.embargoUntil, now))
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

/** Finds part and fitment of an application by what a row calls them. */
export async function applicationIds(tx: Queryable, now: Date, person: Person) {
  const bySku = new Map(
    (await tx.select().from(parts)).map((p) => [partShown(p, person, now).sku.toLowerCase(), p.id]),
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
