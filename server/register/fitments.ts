import { and, asc, count, eq, sql, type SQL } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import {
  fitmentName,
  type Fitment,
  type FitmentInput,
  type PageQuery,
} from '../../contract/register/register.ts';
import { carryOver, servedTogether } from '../../core/register/family.ts';
import { recordAudit } from '../base/audit.ts';
import { cursorOf, readCursor, type CursorKind } from '../base/cursor.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound } from '../base/refusals.ts';
import { partShown } from './embargo.ts';
import { fitmentFoundBy, freeSlug, likeness, matches } from './found-by.ts';
import { applications, fitments, parts, vehicles } from './tables.ts';

export type FitmentService = ReturnType<typeof createFitmentService>;
type FitmentRow = typeof fitments.$inferSelect;

export const fitmentShown = ({ foundBy: _, ...row }: FitmentRow): Fitment => row;
/** The page order: as a person would look it up, then by id so that it is whole. */
const ORDER = [fitments.maker, fitments.model, fitments.outputVariant, fitments.market, fitments.id] as const;
/** Families together, outputs apart. */
const FAMILY_ORDER = [
  fitments.family,
  fitments.ratedPowerKw,
  fitments.maker,
  fitments.model,
  fitments.id,
] as const;

export const staleVersion = () =>
  conflict(
    'CHANGED_MEANWHILE',
    'Somebody else has changed this record since you opened it.',
    'What they changed is told in the form; look at it and save again.',
  );

export function fitmentFilter(query: Pick<PageQuery, 'q' | 'family' | 'partId'>): SQL | undefined {
  return and(
    matches(fitments.foundBy, query.q),
    query.family ? eq(fitments.family, query.family) : undefined,
    query.partId
      ? sql`exists (select 1 from ${applications} where ${applications.fitmentId} = ${fitments.id}
        and ${applications.partId} = ${query.partId})`
      : undefined,
  );
}

/** A page of fitments: likeness to the phrase first where one is given, then maker, model, variant, market. */
// eslint-disable-next-line max-lines-per-function -- an order and the cursor that follows it, which must agree
export async function fitmentPage(
  db: Queryable,
  filter: SQL | undefined,
  query: Pick<PageQuery, 'q' | 'after' | 'limit'>,
  byFamily = false,
) {
  const order = byFamily ? FAMILY_ORDER : ORDER;
  const rank =
    query.q && !byFamily
      ? sql<number>`-round(${likeness(fitments.foundBy, query.q)}::numeric * 1000)::int`
      : undefined;
  const places: CursorKind[] = byFamily
    ? ['text', 'number', 'text', 'text', 'id']
    : ['text', 'text', 'text', 'text', 'id'];
  const after = readCursor(query.after, rank ? ['integer', ...places] : places);
  const keys = rank ? [rank, ...order] : [...order];
  const behind =
    after &&
    sql`(${sql.join(
      keys.map((k) => sql`${k}`),
      sql`, `,
    )}) > (${sql.join(
      after.map((v, i) =>
        rank && i === 0
          ? sql`${v}::int`
          : i === after.length - 1
            ? sql`${v}::uuid`
            : typeof v === 'number'
              ? sql`${v}::float8`
              : sql`${v}`,
      ),
      sql`, `,
    )})`;
  const rows = await db
    .select({ fitment: fitments, rank: rank ?? sql<number>`0` })
    .from(fitments)
    .where(and(filter, behind))
    .orderBy(...(rank ? [asc(rank)] : []), ...order.map((column) => asc(column)))
    .limit(query.limit + 1);
  const shown = rows.slice(0, query.limit);
  const last = shown.at(-1);
  const next =
    rows.length > query.limit && last
      ? cursorOf([
          ...(rank ? [Number(last.rank)] : []),
          ...(byFamily
            ? [
                last.fitment.family,
                last.fitment.ratedPowerKw,
                last.fitment.maker,
                last.fitment.model,
                last.fitment.id,
              ]
            : [
                last.fitment.maker,
                last.fitment.model,
                last.fitment.outputVariant,
                last.fitment.market,
                last.fitment.id,
              ]),
        ])
      : null;
  return { rows: shown.map((row) => row.fitment), next };
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createFitmentService({ db, now, newId }: Needs) {
  const one = async (tx: Queryable, id: string): Promise<FitmentRow> => {
    const [row] = await tx.select().from(fitments).where(eq(fitments.id, id));
    if (!row) throw notFound('fitment');
    return row;
  };
  return {
    async page(query: PageQuery) {
      const filter = fitmentFilter(query);
      const [{ rows, next }, [{ total }]] = await Promise.all([
        fitmentPage(db, filter, query),
        db.select({ total: count() }).from(fitments).where(filter),
      ]);
      return { items: rows.map(fitmentShown), next, total };
    },

    /** A fitment with its family: which siblings a test on it would serve, and what bars the others. */
    async detail(person: Person, id: string) {
      const row = await one(db, id);
      const family = await db
        .select()
        .from(fitments)
        .where(eq(fitments.family, row.family))
        .orderBy(...ORDER);
      const fits = await db
        .select({ part: parts })
        .from(applications)
        .innerJoin(parts, eq(parts.id, applications.partId))
        .where(eq(applications.fitmentId, id))
        .orderBy(asc(parts.category), asc(parts.name))
        .limit(500);
      const cars = await db
        .select({ id: vehicles.id, tag: vehicles.tag })
        .from(vehicles)
        .where(eq(vehicles.fitmentId, id))
        .orderBy(asc(vehicles.tag));
      return {
        fitment: fitmentShown(row),
        vehicles: cars,
        family: family.map((member) => ({
          id: member.id,
          name: fitmentName(member),
          ...carryOver(row, member),
        })),
        groups: servedTogether(family).length,
        parts: fits.map(({ part }) => {
          const shown = partShown(part, person, now());
          return { id: part.id, name: shown.name, sku: shown.sku, category: part.category };
        }),
      };
    },

    async create(person: Person, input: FitmentInput): Promise<Fitment> {
      return db.transaction(async (tx) => {
        await refuseTwin(tx, input, undefined);
        const [row] = await tx
          .insert(fitments)
          .values(await newFitment(tx, newId(), input, now()))
          .returning();
        await recordAudit(tx, now(), person, 'added fitment', 'fitment', row.id, { name: fitmentName(row) });
        return fitmentShown(row);
      });
    },

    async update(person: Person, id: string, version: number, input: FitmentInput): Promise<Fitment> {
      return db.transaction(async (tx) => {
        const before = await one(tx, id);
        await refuseTwin(tx, input, id);
        const [row] = await tx
          .update(fitments)
          .set({ ...input, foundBy: fitmentFoundBy({ ...input }, now()), version: version + 1 })
          .where(and(eq(fitments.id, id), eq(fitments.version, version)))
          .returning();
        if (!row) throw staleVersion();
        await recordAudit(tx, now(), person, 'changed fitment', 'fitment', id, {
          name: fitmentName(row),
          changes: changedFields(fitmentShown(before), fitmentShown(row)),
        });
        return fitmentShown(row);
      });
    },
  };
}

/** Fields that differ between two versions of a record, for the audit trail. */
export function changedFields<R extends object>(
  before: R,
  after: R,
): Record<string, { from: unknown; to: unknown }> {
  return Object.fromEntries(
    Object.keys(after)
      .filter(
        (key) =>
          key !== 'version' &&
          JSON.stringify(before[key as keyof R] ?? null) !== JSON.stringify(after[key as keyof R] ?? null),
      )
      .map((key) => [key, { from: before[key as keyof R] ?? null, to: after[key as keyof R] ?? null }]),
  );
}

export const newFitment = async (tx: Queryable, id: string, input: FitmentInput, now: Date) => ({
  id,
  slug: await freeSlug(tx, `${input.maker} ${input.model} ${input.outputVariant} ${input.market}`),
  ...input,
  foundBy: fitmentFoundBy(input, now),
});

async function refuseTwin(tx: Queryable, input: FitmentInput, own: string | undefined): Promise<void> {
  const [twin] = await tx
    .select({ id: fitments.id })
    .from(fitments)
    .where(
      and(
        sql`lower(${fitments.maker}) = lower(${input.maker})`,
        sql`lower(${fitments.model}) = lower(${input.model})`,
        sql`lower(${fitments.outputVariant}) = lower(${input.outputVariant})`,
        sql`lower(${fitments.market}) = lower(${input.market})`,
        own ? sql`${fitments.id} <> ${own}` : undefined,
      ),
    );
  if (twin)
    throw conflict(
      'FITMENT_THERE_ALREADY',
      `${fitmentName(input)} is in the register for market ${input.market} already.`,
      'Open it, or give another output variant or market.',
      { id: twin.id },
    );
}
