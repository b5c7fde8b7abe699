import { and, asc, count, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import {
  fitmentName,
  type ApplicationGrid,
  type PageQuery,
  type Part,
  type PartDetail,
  type PartInput,
  type Revision,
  type RevisionInput,
} from '../../contract/register/register.ts';
import { isEmbargoed } from '../../core/register/embargo.ts';
import { partReference } from '../../core/register/references.ts';
import { recordAudit } from '../base/audit.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound, RefusalError } from '../base/refusals.ts';
import { isWithheld, NO_DRIVE, partShown, shownFoundBy, shownName, today } from './embargo.ts';
import { changedFields, fitmentFilter, fitmentPage, staleVersion } from './fitments.ts';
import { matches, partFoundBy } from './found-by.ts';
import { applications, fitments, partRevisions, parts } from './tables.ts';

export type PartService = ReturnType<typeof createPartService>;
type PartRow = typeof parts.$inferSelect;

/** Told when a part is put under embargo: what is public of it by then forbids it. The publish stage knows. */
export type PublicAlready = (tx: Queryable, partId: string) => Promise<string | undefined>;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createPartService({ db, now, newId }: Needs, publicAlready: PublicAlready) {
  const one = async (tx: Queryable, id: string): Promise<PartRow> => {
    const [row] = await tx.select().from(parts).where(eq(parts.id, id));
    if (!row) throw notFound('part');
    return row;
  };
  const shown = (row: PartRow, person: Person): Part => {
    const { foundBy: _, ...part } = partShown(row, person, now());
    const withheld = isWithheld(row, person, now());
    return {
      ...part,
      legal: [...part.legal],
      withheld,
      embargoed: isEmbargoed(row.embargoUntil, now()),
      ...(withheld ? { codeName: part.codeName } : {}),
    };
  };
  const revisionShown = (row: typeof partRevisions.$inferSelect, hide: boolean): Revision => ({
    ...row,
    needs: { ...row.needs, partIds: [...row.needs.partIds] },
    options: row.options.map((o) => ({ ...o, settings: [...o.settings] })),
    createdAt: row.createdAt.toISOString(),
    ...(hide
      ? {
          changeNote: '',
          specialTools: '',
          irreversibleSteps: '',
          weightKg: null,
          releasedOn: null,
          ...NO_DRIVE,
        }
      : {}),
  });
  /** Embargo is set and lifted by people who may know the name. */
  const checkEmbargo = async (
    tx: Queryable,
    person: Person,
    before: PartRow | undefined,
    input: PartInput,
  ): Promise<void> => {
    const changes =
      (before?.embargoUntil ?? null) !== input.embargoUntil || (before?.codeName ?? null) !== input.codeName;
    if (
      (changes || (before && isEmbargoed(before.embargoUntil, now()))) &&
      !person.clearance &&
      (input.embargoUntil !== null || before?.embargoUntil)
    )
      throw forbidden('An embargoed part is changed only by people with clearance.');
    if (before && changes && isEmbargoed(input.embargoUntil, now())) {
      const why = await publicAlready(tx, before.id);
      if (why)
        throw conflict(
          'PUBLIC_ALREADY',
          `An embargo would hide nothing: ${why}.`,
          'Withdraw what is public first, or leave the part open.',
        );
    }
  };

  /** Lists a part for fitments, or takes it off them. */
  async function list(
    tx: Queryable,
    person: Person,
    partId: string,
    fitmentIds: readonly string[],
    fits: boolean,
  ): Promise<void> {
    const known = await tx
      .select({ id: fitments.id })
      .from(fitments)
      .where(inArray(fitments.id, [...fitmentIds]));
    if (known.length !== new Set(fitmentIds).size) throw notFound('fitment');
    if (fits)
      await tx
        .insert(applications)
        .values(fitmentIds.map((fitmentId) => ({ partId, fitmentId })))
        .onConflictDoNothing();
    else
      await tx
        .delete(applications)
        .where(and(eq(applications.partId, partId), inArray(applications.fitmentId, [...fitmentIds])));
    await recordAudit(
      tx,
      now(),
      person,
      fits ? 'listed part for fitments' : 'took part off fitments',
      'part',
      partId,
      { part: partReference(partId), fitments: fitmentIds.length, fitmentIds },
    );
  }

  return {
    async page(person: Person, query: PageQuery) {
      const name = shownName(person, now());
      const sku = person.clearance
        ? sql<string>`${parts.sku}`
        : sql<string>`case when ${parts.embargoUntil} > ${today(now())} then ${parts.codeName} else ${parts.sku} end`;
      const filter = and(
        matches(shownFoundBy(person, now()), query.q),
        query.category ? eq(parts.category, query.category) : undefined,
        query.fitmentId
          ? sql`exists (select 1 from ${applications} where ${applications.partId} = ${parts.id}
            and ${applications.fitmentId} = ${query.fitmentId})`
          : undefined,
      );
      const after = readCursor(query.after, ['text', 'text', 'id']);
      const rows = await db
        .select({
          part: parts,
          name,
          sku,
          latestRevision: sql<
            string | null
          >`(select revision from ${partRevisions} r where r.part_id = ${parts.id} order by r.created_at desc, r.revision desc limit 1)`,
          fitments: sql<number>`(select count(*)::int from ${applications} a where a.part_id = ${parts.id})`,
        })
        .from(parts)
        .where(
          and(
            filter,
            after
              ? sql`(${name}, ${sku}, ${parts.id}) > (${after[0]}, ${after[1]}, ${after[2]}::uuid)`
              : undefined,
          ),
        )
        .orderBy(asc(name), asc(sku), asc(parts.id))
        .limit(query.limit + 1);
      const [{ total }] = await db.select({ total: count() }).from(parts).where(filter);
      const list = rows.slice(0, query.limit);
      const last = list.at(-1);
      return {
        items: list.map((row) => ({
          ...shown(row.part, person),
          latestRevision: row.latestRevision,
          fitments: row.fitments,
        })),
        next: rows.length > query.limit && last ? cursorOf([last.name, last.sku, last.part.id]) : null,
        total,
      };
    },

    async detail(person: Person, id: string): Promise<PartDetail> {
      const row = await one(db, id);
      const hide = isWithheld(row, person, now());
      const revisions = await db
        .select()
        .from(partRevisions)
        .where(eq(partRevisions.partId, id))
        .orderBy(desc(partRevisions.createdAt), desc(partRevisions.revision));
      const where = eq(applications.partId, id);
      const fits = await db
        .select({ fitment: fitments })
        .from(applications)
        .innerJoin(fitments, eq(fitments.id, applications.fitmentId))
        .where(where)
        .orderBy(asc(fitments.maker), asc(fitments.model))
        .limit(200);
      const [{ total }] = await db.select({ total: count() }).from(applications).where(where);
      return {
        part: shown(row, person),
        revisions: revisions.map((r) => revisionShown(r, hide)),
        fitments: fits.map(({ fitment }) => ({ id: fitment.id, name: fitmentName(fitment) })),
        fitmentsTotal: total,
      };
    },

    async create(
      person: Person,
      input: PartInput,
      revision: RevisionInput,
      fitmentIds: readonly string[] = [],
    ): Promise<Part> {
      return db.transaction(async (tx) => {
        await refuseTwin(tx, input.sku, undefined);
        await checkEmbargo(tx, person, undefined, input);
        const [row] = await tx
          .insert(parts)
          .values({ id: newId(), ...input, foundBy: partFoundBy(input) })
          .returning();
        await checkNeeds(tx, revision, row.id);
        await tx
          .insert(partRevisions)
          .values({ id: newId(), partId: row.id, ...revision, createdAt: now(), createdBy: person.id });
        await recordAudit(tx, now(), person, 'added part', 'part', row.id, {
          part: partReference(row.id),
          revision: revision.revision,
          withheld: { sku: row.sku, name: row.name },
        });
        if (fitmentIds.length > 0) await list(tx, person, row.id, fitmentIds, true);
        return shown(row, person);
      });
    },

    async update(person: Person, id: string, version: number, input: PartInput): Promise<Part> {
      return db.transaction(async (tx) => {
        // An approval holds the row too: an embargo and a publication of one moment come one after the other.
        await tx.execute(sql`select 1 from parts where id = ${id} for update`);
        const before = await one(tx, id);
        await checkEmbargo(tx, person, before, input);
        await refuseTwin(tx, input.sku, id);
        const [row] = await tx
          .update(parts)
          .set({ ...input, foundBy: partFoundBy(input), version: version + 1 })
          .where(and(eq(parts.id, id), eq(parts.version, version)))
          .returning();
        if (!row) throw staleVersion();
        await recordAudit(tx, now(), person, 'changed part', 'part', id, auditOfChange(before, row));
        return shown(row, person);
      });
    },

    /** Adds a revision; the ones before stay as they were, and so does what was measured with them. */
    async revise(person: Person, id: string, input: RevisionInput): Promise<Revision> {
      return db.transaction(async (tx) => {
        const part = await one(tx, id);
        if (isWithheld(part, person, now()))
          throw forbidden('An embargoed part is revised only by people with clearance.');
        await checkNeeds(tx, input, id);
        const [twin] = await tx
          .select({ id: partRevisions.id })
          .from(partRevisions)
          .where(
            and(
              eq(partRevisions.partId, id),
              sql`lower(${partRevisions.revision}) = lower(${input.revision})`,
            ),
          );
        if (twin)
          throw conflict(
            'REVISION_THERE_ALREADY',
            `Revision ${input.revision} is there already and stays as it is.`,
            'Give the new one a name of its own.',
          );
        const [row] = await tx
          .insert(partRevisions)
          .values({ id: newId(), partId: id, ...input, createdAt: now(), createdBy: person.id })
          .returning();
        await recordAudit(tx, now(), person, 'revised part', 'part', id, {
          part: partReference(id),
          revision: input.revision,
          withheld: { sku: part.sku, changeNote: input.changeNote },
        });
        return revisionShown(row, false);
      });
    },

    /** The grid of fitments and parts, a page of fitments at a time. The columns come with the first page. */
    async grid(person: Person, query: PageQuery): Promise<ApplicationGrid> {
      const wanted = and(
        matches(shownFoundBy(person, now()), query.part),
        query.category ? eq(parts.category, query.category) : undefined,
      );
      const rowFilter = fitmentFilter({ q: query.q, family: query.family });
      const name = shownName(person, now());
      const [{ rows, next }, [{ total }], columns] = await Promise.all([
        fitmentPage(db, rowFilter, query),
        db.select({ total: count() }).from(fitments).where(rowFilter),
        query.after === undefined
          ? db.select().from(parts).where(wanted).orderBy(asc(parts.category), asc(name), asc(parts.id))
          : Promise.resolve([]),
      ]);
      const cells = rows.length
        ? await db
            .select({ partId: applications.partId, fitmentId: applications.fitmentId })
            .from(applications)
            .innerJoin(parts, eq(parts.id, applications.partId))
            .where(
              and(
                inArray(
                  applications.fitmentId,
                  rows.map((r) => r.id),
                ),
                wanted,
              ),
            )
        : [];
      const byFitment = new Map<string, string[]>();
      for (const cell of cells)
        byFitment.set(cell.fitmentId, [...(byFitment.get(cell.fitmentId) ?? []), cell.partId]);
      return {
        parts: columns.map((row) => {
          const part = partShown(row, person, now());
          return { id: part.id, name: part.name, sku: part.sku, category: part.category };
        }),
        next,
        total,
        rows: rows.map((row) => ({
          id: row.id,
          name: fitmentName(row),
          note: `${row.yearFrom} to ${row.yearTo ?? 'now'} · ${row.engineCode} · ${row.market}`,
          partIds: byFitment.get(row.id) ?? [],
        })),
      };
    },

    /** Says which fitments a part fits, or no longer fits. What has been tested keeps its place. */
    async apply(person: Person, partId: string, fitmentIds: readonly string[], fits: boolean): Promise<void> {
      await db.transaction(async (tx) => {
        await one(tx, partId);
        await list(tx, person, partId, fitmentIds, fits);
      });
    },
  };
}

/** What changed on a part. The values that would tell a part under embargo are for clearance, whenever they are read. */
function auditOfChange(before: PartRow, after: PartRow): Record<string, unknown> {
  const changes = changedFields({ ...before, foundBy: '' }, { ...after, foundBy: '' });
  const secret = before.embargoUntil !== null || after.embargoUntil !== null;
  return secret
    ? {
        part: partReference(after.id),
        fields: Object.keys(changes),
        withheld: { sku: after.sku, changes },
      }
    : { part: partReference(after.id), sku: after.sku, changes };
}

async function refuseTwin(tx: Queryable, sku: string, own: string | undefined): Promise<void> {
  const [twin] = await tx
    .select({ id: parts.id })
    .from(parts)
    .where(and(sql`lower(${parts.sku}) = lower(${sku})`, own ? sql`${parts.id} <> ${own}` : undefined));
  if (twin)
    throw conflict('SKU_TAKEN', `SKU ${sku} is in the register already.`, 'Open it, or give another SKU.', {
      id: twin.id,
    });
}
async function checkNeeds(tx: Queryable, revision: RevisionInput, own: string): Promise<void> {
  const named = [...new Set([...revision.needs.partIds, ...revision.conflicts])];
  if (named.includes(own))
    throw new RefusalError(
      422,
      'NEEDS_ITSELF',
      'A part cannot need or exclude itself.',
      'Choose other parts.',
      { path: 'needs' },
    );
  if (
    named.length > 0 &&
    (await tx.select({ id: parts.id }).from(parts).where(inArray(parts.id, named))).length !== named.length
  )
    throw new RefusalError(
      422,
      'UNKNOWN_PART',
      'A part it needs or excludes is not in the register.',
      'Choose from the list.',
      { path: 'needs' },
    );
}
