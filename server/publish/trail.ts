/** The audit trail as it is read: in pages, with the names records have now. */
import { and, count, desc, eq, ilike, inArray, lt, or, type SQL } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { TrailPage, TrailQuery } from '../../contract/publish/trail.ts';
import { partReference } from '../../core/register/references.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db } from '../base/db.ts';
import { auditEntries, people } from '../base/tables.ts';
import { tests } from '../plan/tables.ts';
import { calibrations, dynos, fitments, vehicles } from '../register/tables.ts';
import { claims } from './tables.ts';

interface Named {
  readonly about: string;
  readonly href: string | null;
}
type Row = typeof auditEntries.$inferSelect;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** How records of a kind are named, by their ids. */
const NAMING: Readonly<Record<string, (db: Db, ids: string[]) => Promise<(readonly [string, Named])[]>>> = {
  test: async (db, ids) =>
    (await db.select({ id: tests.id, number: tests.number }).from(tests).where(inArray(tests.id, ids))).map(
      (t) => [t.id, { about: `test ${t.number}`, href: `/tests/${t.id}` }],
    ),
  claim: async (db, ids) =>
    (await db.select({ id: claims.id, code: claims.code }).from(claims).where(inArray(claims.id, ids))).map(
      (c) => [c.id, { about: `claim ${c.code}`, href: `/claims/${c.id}` }],
    ),
  vehicle: async (db, ids) =>
    (
      await db.select({ id: vehicles.id, tag: vehicles.tag }).from(vehicles).where(inArray(vehicles.id, ids))
    ).map((v) => [v.id, { about: v.tag, href: `/register/vehicles/${v.id}` }]),
  part: (_db, ids) =>
    Promise.resolve(
      ids.map((id) => [id, { about: partReference(id), href: `/register/parts/${id}` }] as const),
    ),
  fitment: async (db, ids) =>
    (await db.select().from(fitments).where(inArray(fitments.id, ids))).map((f) => [
      f.id,
      { about: `${f.maker} ${f.model}, ${f.outputVariant}`, href: `/register/fitments/${f.id}` },
    ]),
  dyno: async (db, ids) =>
    (await db.select({ id: dynos.id, name: dynos.name }).from(dynos).where(inArray(dynos.id, ids))).map(
      (d) => [d.id, { about: d.name, href: `/register/dynos/${d.id}` }],
    ),
  calibration: async (db, ids) =>
    (await db.select().from(calibrations).where(inArray(calibrations.id, ids))).map((c) => [
      c.id,
      { about: `${c.name}, revision ${c.revision}`, href: '/register/calibrations' },
    ]),
  person: async (db, ids) =>
    (await db.select({ id: people.id, name: people.name }).from(people).where(inArray(people.id, ids))).map(
      (p) => [p.id, { about: p.name, href: null }],
    ),
};

async function namesOf(db: Db, rows: readonly Row[]): Promise<Map<string, Named>> {
  const found = await Promise.all(
    Object.entries(NAMING).map(([kind, name]) => {
      const ids = rows
        .filter((r) => r.subjectKind === kind && UUID.test(r.subjectId))
        .map((r) => r.subjectId);
      return ids.length === 0 ? Promise.resolve([]) : name(db, [...new Set(ids)]);
    }),
  );
  return new Map(found.flat());
}

const meant = ({ q, kind }: { q: string; kind?: string | undefined }): SQL | undefined => {
  const like = `%${q.replace(/[\\%_]/g, '\\$&')}%`;
  return and(
    kind ? eq(auditEntries.subjectKind, kind) : undefined,
    q ? or(ilike(auditEntries.personName, like), ilike(auditEntries.action, like)) : undefined,
  );
};

/** A page of the trail; what only clearance may read stands apart in an entry and is added for those who have it. */
export async function trailPage(
  db: Db,
  person: Person,
  query: Required<Pick<TrailQuery, 'q' | 'limit'>> & TrailQuery,
): Promise<TrailPage> {
  const limit = Number(query.limit);
  const after = readCursor(query.after, ['integer']);
  const [rows, [{ total }]] = await Promise.all([
    db
      .select()
      .from(auditEntries)
      .where(and(meant(query), after && lt(auditEntries.id, Number(after[0]))))
      .orderBy(desc(auditEntries.id))
      .limit(limit + 1),
    db.select({ total: count() }).from(auditEntries).where(meant(query)),
  ]);
  const shown = rows.slice(0, limit);
  const names = await namesOf(db, shown);
  return {
    items: shown.map((row) => {
      const { withheld, ...detail } = row.detail;
      return {
        id: row.id,
        at: row.at.toISOString(),
        person: row.personName,
        action: row.action,
        kind: row.subjectKind,
        subjectId: row.subjectId,
        ...(names.get(row.subjectId) ?? { about: row.subjectId, href: null }),
        detail: person.clearance ? { ...detail, ...(withheld as object | undefined) } : detail,
      };
    }),
    next: rows.length > limit ? cursorOf([shown.at(-1)!.id]) : null,
    total,
  };
}
