/** What anyone may read: claims as they were approved, in the state they are in today. */
import { and, asc, count, desc, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { z } from 'zod';
import type { TestFile } from '../../contract/judge/test-file.ts';
import {
  CLAIM_ORDER,
  type CatalogueFitment,
  type CataloguePage,
  type CatalogueQuery,
  type Claim,
  type Evidence,
  type KeptState,
} from '../../contract/publish/claim.ts';
import type { Corrections, CorrectionsQuery } from '../../contract/publish/corrections.ts';
import { cursorOf, readCursor } from '../base/cursor.ts';
import type { Db, Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { notFound } from '../base/refusals.ts';
import { rawFiles } from '../capture/tables.ts';
import { amendmentsShown } from '../plan/plan-document.ts';
import { matches } from '../register/found-by.ts';
import { fitments } from '../register/tables.ts';
import type { createChangeService } from './changes.ts';
import { correctionsPage, replacedBy } from './corrections.ts';
import { claimPlaces } from './places-tables.ts';
import { refreshPlaces } from './places.ts';
import { listClaims } from './repository.ts';
import { isCurrent, shownState } from './states.ts';
import { claims } from './tables.ts';

/** States in which a claim is shown to the public, current or not. */
export const PUBLIC_STATES: readonly KeptState[] = ['published', 'stale', 'withdrawn'];

/** Place of a claim that stands, in the order of the register of claims. */
const STANDS = CLAIM_ORDER.indexOf('published');
/** Fitments with a claim that stands, by the places; which claims are shown is read from the records themselves. */
const hasCurrent = sql`exists (select 1 from ${claims} join ${claimPlaces} on ${claimPlaces.claimId} = ${claims.id}
  where ${claims.fitmentId} = ${fitments.id} and ${claims.state} = 'published' and ${claimPlaces.place} = ${STANDS})`;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createPublicReading(
  { db }: Pick<Needs, 'db'>,
  changes: {
    readonly ageOut: () => Promise<void>;
    readonly openChanges: ReturnType<typeof createChangeService>['openChanges'];
  },
) {
  const { ageOut } = changes;
  return {
    /** Fitments with a claim that stands, by maker and model, each with its claims. */
    async catalogue(query: z.output<typeof CatalogueQuery>): Promise<CataloguePage> {
      await ageOut();
      await refreshPlaces(db);
      const after = readCursor(query.after, ['text', 'text', 'id']);
      const newest = query.sort === 'newest';
      const lastPublished = sql`(select max(c.published_at) from claims c join claims_shown d on d.id = c.id
        where c.fitment_id = fitments.id and d.state = 'published')`;
      const meant = and(matches(fitments.foundBy, query.q), hasCurrent);
      const behind =
        after &&
        (newest
          ? sql`(${lastPublished}, ${fitments.id}) < (${after[0]}::timestamptz, ${after[2]}::uuid)`
          : sql`(${fitments.maker}, ${fitments.model}, ${fitments.id}) > (${after[0]}, ${after[1]}, ${after[2]}::uuid)`);
      const [rows, [{ total }]] = await Promise.all([
        db
          .select({ fitment: fitments, published: sql<string>`${lastPublished}::text` })
          .from(fitments)
          .where(and(behind, meant))
          .orderBy(
            ...(newest
              ? [sql`${lastPublished} desc`, desc(fitments.id)]
              : [asc(fitments.maker), asc(fitments.model), asc(fitments.id)]),
          )
          .limit(query.limit + 1),
        db.select({ total: count() }).from(fitments).where(meant),
      ]);
      const shown = rows.slice(0, query.limit);
      const last = shown.at(-1);
      const current = last
        ? await publicClaims(
            db,
            and(
              inArray(
                claims.fitmentId,
                shown.map(({ fitment }) => fitment.id),
              ),
              isCurrent,
            ),
          )
        : [];
      return {
        // One whose last claim has come into question at this moment is left out.
        items: shown
          .map(({ fitment: f }) => ({
            ...fitmentShown(f),
            claims: current.filter((c) => c.fitmentId === f.id).map((c) => c.claim),
          }))
          .filter((f) => f.claims.length > 0),
        next:
          rows.length > query.limit && last
            ? cursorOf(
                newest
                  ? [last.published, '', last.fitment.id]
                  : [last.fitment.maker, last.fitment.model, last.fitment.id],
              )
            : null,
        total,
      };
    },

    async catalogueFitment(slug: string): Promise<CatalogueFitment> {
      await ageOut();
      const [fitment] = await db.select().from(fitments).where(eq(fitments.slug, slug));
      if (!fitment) throw notFound('fitment');
      const all = (
        await publicClaims(
          db,
          and(eq(claims.fitmentId, fitment.id), inArray(claims.state, [...PUBLIC_STATES])),
        )
      ).map((c) => c.claim);
      return {
        ...fitmentShown(fitment),
        rated: `${fitment.ratedPowerKw} kW and ${fitment.ratedTorqueNm} N·m at the crank, ${fitment.ratedStandard}`,
        claims: all.filter((c) => c.state === 'published'),
        former: all.filter((c) => c.state !== 'published'),
      };
    },

    /** Everything a published claim rests on, as it was approved, with what has moved on since. */
    async evidence(code: string): Promise<Evidence> {
      await ageOut();
      const { claim, snapshot } = await approved(db, code);
      const [fitment] = await db.select().from(fitments).where(eq(fitments.id, claim.fitmentId));
      const open = await changes.openChanges(db, claim.id);
      return {
        ...snapshot.evidence,
        claim: asShown(snapshot.evidence.claim, claim),
        instead: claim.state === 'published' ? null : await replacedBy(db, claim.id),
        since: [
          ...(fitment.version > snapshot.fitment.version
            ? [
                'The record of the fitment has been changed since the claim was approved; it is shown as it was then.',
              ]
            : []),
          ...(await amendmentsShown(db, claim.testId))
            .slice(snapshot.evidence.amendments.length)
            .map((a) => `The plan was amended after the claim was approved: ${a.reason}`),
          ...(claim.state === 'in question' ? new Set(open.map((c) => `In question: ${c.what}.`)) : []),
        ],
      };
    },

    async corrections(query: z.output<typeof CorrectionsQuery>): Promise<Corrections> {
      await ageOut();
      return correctionsPage(db, query);
    },

    /** Raw bytes of one pull of a published claim's analysis. */
    async evidenceFile(
      code: string,
      label: string,
      which: 'file' | 'log' = 'file',
    ): Promise<{ name: string; sha256: string; bytes: Buffer }> {
      const { claim, snapshot } = await approved(db, code);
      const file = snapshot.evidence.pulls.find((p) => p.label === label)?.[which];
      const [row] = file
        ? await db
            .select({ sha256: rawFiles.sha256, bytes: rawFiles.bytes })
            .from(rawFiles)
            .where(eq(rawFiles.sha256, file.sha256))
        : [];
      if (!row || !claim) throw notFound('file');
      return { ...row, name: file!.name };
    },

    /** Raw bytes of one pull of the control vehicle that a published claim rests on. */
    async evidenceControl(
      code: string,
      sha256: string,
    ): Promise<{ name: string; sha256: string; bytes: Buffer }> {
      const { snapshot } = await approved(db, code);
      const file = snapshot.evidence.controls?.flatMap((c) => c.files).find((f) => f.sha256 === sha256);
      const [row] = file
        ? await db.select({ bytes: rawFiles.bytes }).from(rawFiles).where(eq(rawFiles.sha256, sha256))
        : [];
      if (!file || !row) throw notFound('file');
      return { name: file.name, sha256, bytes: row.bytes };
    },

    /** The claim's test as `evidentia-test/1`, as it was approved. */
    evidenceTestFile: async (code: string): Promise<TestFile> => (await approved(db, code)).snapshot.testFile,
  };
}

/** A claim as it was approved, with the state it is in today. */
function asShown(
  approvedClaim: Evidence['claim'],
  { state, staleReason }: Pick<Claim, 'state' | 'staleReason'>,
): Evidence['claim'] {
  return { ...approvedClaim, state, staleReason };
}

/** Claims as they were approved, in the state they are in today, newest first. */
async function publicClaims(db: Db, where: SQL | undefined) {
  const rows = await db
    .select({
      fitmentId: claims.fitmentId,
      claim: claims.publicClaim,
      state: shownState,
      staleReason: claims.staleReason,
    })
    .from(claims)
    .where(and(where, sql`${claims.snapshot} is not null`))
    .orderBy(desc(claims.draftedAt));
  return rows.map(({ fitmentId, claim, ...today }) => ({ fitmentId, claim: asShown(claim!, today) }));
}

async function approved(db: Queryable, code: string) {
  const [claim] = await listClaims(db, and(eq(claims.code, code), inArray(claims.state, [...PUBLIC_STATES])));
  if (!claim) throw notFound('published claim');
  const [row] = await db
    .select({ snapshot: claims.snapshot })
    .from(claims)
    .where(and(eq(claims.id, claim.id), sql`${claims.snapshot} is not null`));
  if (!row?.snapshot) throw notFound('published claim');
  return { claim, snapshot: row.snapshot };
}

const fitmentShown = (f: typeof fitments.$inferSelect) => ({
  slug: f.slug,
  name: `${f.maker} ${f.model}`,
  engine:
    `${(f.displacementCc / 1000).toFixed(1)} L, ${f.cylinders} cylinders, ` +
    `${f.aspiration}, ${f.fuel} (${f.engineCode}, ${f.outputVariant})`,
  years: `${f.yearFrom} to ${f.yearTo ?? 'today'}`,
});
