/** Evidence from before: registered to be seen and tested. Nothing here leads to a claim. */
import { and, count, desc, eq, inArray, or, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type { Legacy, LegacyPage, LegacyQuery, LegacyRequest } from '../../contract/publish/legacy.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { figureDoubts, readFigures, type MeasuredGain } from '../../core/publish/legacy-figures.ts';
import { recordAudit } from '../base/audit.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db, Queryable } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound } from '../base/refusals.ts';
import { sha256Of } from '../base/sha256.ts';
import { keepBytes } from '../capture/keep-bytes.ts';
import { rawFiles } from '../capture/tables.ts';
import { namesOf } from '../plan/repository.ts';
import { isWithheld, partShown, shownFoundBy, today } from '../register/embargo.ts';
import { matches } from '../register/found-by.ts';
import { kept } from '../register/references.ts';
import { fitments, parts } from '../register/tables.ts';
import { legacyEvidence, legacyFiles, legacyStruck } from './legacy-tables.ts';

const FILE = { name: legacyFiles.name, sha256: legacyFiles.sha256, size: rawFiles.size };
/** A picture shows what a part is called: of one under embargo nothing is shown to who may not know. */
const mayKnow = (person: Person, now: Date): SQL | undefined =>
  person.clearance
    ? undefined
    : sql`(${parts.embargoUntil} is null or ${parts.embargoUntil} <= ${today(now)})`;

/** The file of a row, where it has one. */
const fileOf = ({ file }: Row): { name: string; sha256: string; size: number } | null =>
  file?.sha256 && file.name !== null ? { name: file.name, sha256: file.sha256, size: file.size ?? 0 } : null;

const rowsOf = (db: Queryable) =>
  db
    .select({ entry: legacyEvidence, fitment: fitments, part: parts, file: FILE, struck: legacyStruck })
    .from(legacyEvidence)
    .innerJoin(fitments, eq(fitments.id, legacyEvidence.fitmentId))
    .innerJoin(parts, eq(parts.id, legacyEvidence.partId))
    .leftJoin(legacyFiles, eq(legacyFiles.legacyId, legacyEvidence.id))
    .leftJoin(rawFiles, eq(rawFiles.sha256, legacyFiles.sha256))
    .leftJoin(legacyStruck, eq(legacyStruck.legacyId, legacyEvidence.id));
type Row = Awaited<ReturnType<typeof rowsOf>>[number];

/** What has been measured since of a part alone on a fitment, gates passing; by pair. */
interface Measured extends MeasuredGain, Record<string, unknown> {
  readonly pair: string;
  readonly id: string;
}
async function measuredSince(db: Queryable, rows: readonly Row[]): Promise<Map<string, Measured[]>> {
  const fitmentIds = sql.param([...new Set(rows.map((r) => r.fitment.id))]);
  const partIds = sql.param([...new Set(rows.map((r) => r.part.id))]);
  const { rows: found } = await db.execute<Measured>(sql`
    select t.fitment_id || ' ' || r.part_id as pair, t.id, t.number as test, c.average_pct as gain,
        c.average_pct_lower as lower, c.average_pct_upper as upper
      from tests t join analyses a on a.id = ${standingAnalysis()} and a.failing = 0
        join contrasts c on c.analysis_id = a.id and not c.with_excluded and c.refused is null
        join test_arms m on m.test_id = t.id and m.key = c.arm
        join part_revisions r on r.id = m.part_revision_id
      where t.fitment_id = any(${fitmentIds}::uuid[]) and r.part_id = any(${partIds}::uuid[])
        and jsonb_array_length(m.differences) = 1 and c.average_pct is not null
      order by t.number`);
  const byPair = new Map<string, Measured[]>();
  for (const one of found) byPair.set(one.pair, [...(byPair.get(one.pair) ?? []), one]);
  return byPair;
}

function shown(
  row: Row,
  measured: readonly Measured[],
  nameOf: (id: string) => string,
  person: Person,
  now: Date,
): Legacy {
  const { entry, fitment, part, struck } = row;
  const { figures } = readFigures(entry.figures);
  const rated = { powerKw: fitment.ratedPowerKw, torqueNm: fitment.ratedTorqueNm };
  return {
    id: entry.id,
    fitmentId: fitment.id,
    fitment: fitmentName(fitment),
    partId: part.id,
    part: partShown(part, person, now).name,
    kind: entry.kind,
    source: entry.source,
    missing: entry.missing,
    figures: figures.map((f) => ({ ...f })),
    doubts: figureDoubts(figures, rated, measured).map((d) => ({ ...d })),
    tests: measured.map(({ id, test }) => ({ id, number: test })),
    file: fileOf(row),
    enteredAt: entry.enteredAt.toISOString(),
    enteredBy: nameOf(entry.enteredBy),
    struck: struck && { at: struck.at.toISOString(), by: nameOf(struck.by), reason: struck.reason },
  };
}

/** Cells of some fitments on which something from before is registered, as “fitment part”. */
export async function legacyOfCells(
  db: Db,
  fitmentIds: readonly string[],
  person: Person,
  now: Date,
): Promise<Set<string>> {
  const rows = await db
    .selectDistinct({ fitmentId: legacyEvidence.fitmentId, partId: legacyEvidence.partId })
    .from(legacyEvidence)
    .innerJoin(parts, eq(parts.id, legacyEvidence.partId))
    .where(
      and(
        inArray(legacyEvidence.fitmentId, [...fitmentIds]),
        mayKnow(person, now),
        sql`not exists (select 1 from legacy_struck s where s.legacy_id = ${legacyEvidence.id})`,
      ),
    );
  return new Set(rows.map(({ fitmentId, partId }) => `${fitmentId} ${partId}`));
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createLegacy({ db, now, newId }: Needs) {
  const one = async (tx: Queryable, id: string, person: Person): Promise<Row> => {
    const [row] = await rowsOf(tx).where(eq(legacyEvidence.id, id));
    if (!row || isWithheld(row.part, person, now())) throw notFound('entry');
    return row;
  };
  return {
    /** A page of what is registered, the latest first. */
    async list(person: Person, query: z.output<typeof LegacyQuery>): Promise<LegacyPage> {
      const after = readCursor(query.after, ['time', 'id']);
      const meant = and(
        query.fitmentId === undefined ? undefined : eq(legacyEvidence.fitmentId, query.fitmentId),
        query.partId === undefined ? undefined : eq(legacyEvidence.partId, query.partId),
        query.q
          ? or(
              matches(fitments.foundBy, query.q),
              matches(shownFoundBy(person, now()), query.q),
              sql`position(lower(${query.q}) in lower(${legacyEvidence.source})) > 0`,
            )
          : undefined,
        mayKnow(person, now()),
      );
      const [rows, [{ total }]] = await Promise.all([
        rowsOf(db)
          .where(
            and(
              meant,
              after &&
                sql`(${legacyEvidence.enteredAt}, ${legacyEvidence.id}) < (${after[0]}::timestamptz, ${after[1]}::uuid)`,
            ),
          )
          .orderBy(desc(legacyEvidence.enteredAt), desc(legacyEvidence.id))
          .limit(query.limit + 1),
        db
          .select({ total: count() })
          .from(legacyEvidence)
          .innerJoin(fitments, eq(fitments.id, legacyEvidence.fitmentId))
          .innerJoin(parts, eq(parts.id, legacyEvidence.partId))
          .where(meant),
      ]);
      const page = rows.slice(0, query.limit);
      const last = page.at(-1)?.entry;
      const measured = page.length > 0 ? await measuredSince(db, page) : new Map<string, Measured[]>();
      const names = await namesOf(
        db,
        page.flatMap((row) => [row.entry.enteredBy, row.struck?.by ?? null]),
      );
      return {
        items: page.map((row) =>
          shown(
            row,
            measured.get(`${row.fitment.id} ${row.part.id}`) ?? [],
            (id) => names.get(id) ?? 'somebody',
            person,
            now(),
          ),
        ),
        next: rows.length > query.limit && last ? cursorOf([last.enteredAt.toISOString(), last.id]) : null,
        total,
      };
    },

    async add(person: Person, asked: LegacyRequest): Promise<{ id: string }> {
      return db.transaction(async (tx) => {
        const [fitment] = await tx.select().from(fitments).where(eq(fitments.id, asked.fitmentId));
        const [part] = await tx.select().from(parts).where(eq(parts.id, asked.partId));
        if (!fitment) throw notFound('fitment');
        if (!part) throw notFound('part');
        if (isWithheld(part, person, now()))
          throw forbidden('The part is under embargo: what is printed of it is entered by who may know it.');
        const id = newId();
        const { fitmentId, partId, kind, figures } = asked;
        await tx.insert(legacyEvidence).values({
          id,
          fitmentId,
          partId,
          kind,
          source: await kept(tx, asked.source, person),
          missing: await kept(tx, asked.missing, person),
          figures,
          enteredAt: now(),
          enteredBy: person.id,
        });
        await recordAudit(tx, now(), person, 'registered legacy evidence', 'fitment', fitmentId, {
          id,
          kind,
        });
        return { id };
      });
    },

    /** The picture or file it was taken from. Sent again it is there already; another one is refused. */
    async attach(person: Person, id: string, name: string, bytes: Buffer): Promise<void> {
      const sha256 = await sha256Of(bytes);
      await db.transaction(async (tx) => {
        const file = fileOf(await one(tx, id, person));
        if (file?.sha256 === sha256) return;
        if (file)
          throw conflict(
            'FILE_IS_THERE',
            `The entry has its file already, ${file.name}.`,
            'Enter the other one as an entry of its own.',
          );
        await keepBytes(tx, sha256, bytes, { at: now(), personId: person.id });
        const keptName = await kept(tx, name, person);
        await tx
          .insert(legacyFiles)
          .values({ legacyId: id, sha256, name: keptName, addedAt: now(), addedBy: person.id });
        await recordAudit(tx, now(), person, 'attached legacy file', 'legacy', id, {
          name: keptName,
          sha256,
        });
      });
    },

    async file(person: Person, id: string): Promise<{ name: string; sha256: string; bytes: Buffer }> {
      const file = fileOf(await one(db, id, person));
      const [raw] = file
        ? await db.select({ bytes: rawFiles.bytes }).from(rawFiles).where(eq(rawFiles.sha256, file.sha256))
        : [];
      if (!file || !raw) throw notFound('file');
      return { name: file.name, sha256: file.sha256, bytes: raw.bytes };
    },

    /** Crosses an entry out; it stays to be read. */
    async strike(person: Person, id: string, reason: string): Promise<void> {
      await db.transaction(async (tx) => {
        const { struck } = await one(tx, id, person);
        if (struck) throw conflict('STRUCK_ALREADY', 'The entry is crossed out already.', 'Reload.');
        await tx
          .insert(legacyStruck)
          .values({ legacyId: id, reason: await kept(tx, reason, person), at: now(), by: person.id });
        await recordAudit(tx, now(), person, 'crossed out legacy evidence', 'legacy', id, { reason });
      });
    },
  };
}
export type LegacyService = ReturnType<typeof createLegacy>;
