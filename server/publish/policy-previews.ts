/**
 * A policy before it is in force: every public claim is judged by it as if it were, and nothing is changed by that. Work of
 * the queue, a test at a time; what is done is kept, so that another process goes on where one ended.
 */
import { and, asc, count, desc, eq, gt, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { PREVIEW_MOST, type PolicyPreview } from '../../contract/base/policy-preview.ts';
import type { PolicyRequest } from '../../contract/base/policy.ts';
import type { Policy } from '../../core/base/policy.ts';
import type { Claim } from '../../contract/publish/claim.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { withRest } from '../base/unhurried.ts';
import type { Needs } from '../base/needs.ts';
import { notFound } from '../base/refusals.ts';
import type { JudgeService } from '../judge/service.ts';
import { insteadOf } from './changes.ts';
import { listClaims } from './repository.ts';
import { claims, policyPreviewClaims, policyPreviews } from './tables.ts';
import { stillHolds, wordingOf, type Arounds } from './wording.ts';

export type PolicyPreviews = ReturnType<typeof createPolicyPreviews>;
type Row = typeof policyPreviews.$inferSelect;

/** After which a process hands the rest on, ms: well before the queue takes the job for lost. */
const A_TURN_MS = 5 * 60_000;

/** Told with a claim that never was in question for a policy. */
export const HELD_BEFORE = 'Judged by this policy before it came into force: what the claim says holds.';

/** @param later has the rest done by whichever process is free */
// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createPolicyPreviews(needs: Needs, judge: JudgeService, later: () => Promise<void>) {
  const { db, now, newId, log } = needs;
  const isPublic = eq(claims.state, 'published');

  /** What is asked for is kept: a server that starts goes on with it, if the queue is away now. */
  const handOn = (): void => {
    later().catch((error: unknown) => {
      log.error({ error: error instanceof Error ? error.message : String(error) }, 'a tried policy waits');
    });
  };

  async function one(id: string): Promise<Row> {
    const [row] = await db.select().from(policyPreviews).where(eq(policyPreviews.id, id));
    if (!row) throw notFound('preview of a policy');
    return row;
  }
  const end = (id: string, state: 'done' | 'cancelled') =>
    db
      .update(policyPreviews)
      .set({ state, endedAt: now() })
      .where(and(eq(policyPreviews.id, id), eq(policyPreviews.state, 'running')));

  /** The next test whose claims have not been looked at; null where all have. */
  async function nextTest(id: string, after: string | null): Promise<string | null> {
    const [row] = await db
      .select({ testId: claims.testId })
      .from(claims)
      .where(
        and(
          isPublic,
          after === null ? undefined : gt(claims.testId, after),
          sql`not exists (select from ${policyPreviewClaims} d where d.preview_id = ${id} and d.claim_id = ${claims.id})`,
        ),
      )
      .orderBy(asc(claims.testId))
      .limit(1);
    return row?.testId ?? null;
  }

  async function lookAt({ id, policy }: Row, testId: string): Promise<void> {
    const found = await listClaims(db, and(eq(claims.testId, testId), isPublic));
    const judged = await judge.under(testId, policy);
    const known: Arounds = new Map();
    for (const claim of found) {
      const instead = await becomes(claim, policy, judged, known);
      await db
        .insert(policyPreviewClaims)
        .values({ previewId: id, claimId: claim.id, holds: instead === null, instead: instead ?? '' })
        .onConflictDoNothing();
    }
  }

  /** What would be said of a claim; null where it holds. */
  async function becomes(
    claim: Claim,
    { claimAgeMonths }: Policy,
    judged: Awaited<ReturnType<JudgeService['under']>>,
    known: Arounds,
  ): Promise<string | null> {
    const old = new Date(claim.publishedAt!);
    old.setUTCMonth(old.getUTCMonth() + claimAgeMonths);
    if (old < now())
      return `it is older than ${claimAgeMonths} ${claimAgeMonths === 1 ? 'month' : 'months'}, and may not stand longer`;
    const arm = judged?.inputs.arms.find((a) => a.key === claim.arm);
    if (!judged || !arm) return 'its inputs give no result now';
    const wording = await wordingOf(db, judged.inputs, judged.analysis, arm, claim, known);
    if (stillHolds(claim, wording)) return null;
    return wording.verdict === 'not usable' && !wording.barred
      ? `a gate fails: ${judged.failing.join(', ')}`
      : insteadOf(wording);
  }

  async function goOn(row: Row): Promise<void> {
    const began = Date.now();
    for (let last: string | null = null; ;) {
      if ((await one(row.id)).state !== 'running') return;
      // Once more from the start: what was published meanwhile.
      const testId: string | null =
        (await nextTest(row.id, last)) ?? (last && (await nextTest(row.id, null)));
      if (testId === null) {
        await end(row.id, 'done');
        return;
      }
      await withRest(() => lookAt(row, testId));
      last = testId;
      if (Date.now() - began > A_TURN_MS) {
        handOn();
        return;
      }
    }
  }

  return {
    async ask(person: Person, { policy, reason }: PolicyRequest): Promise<{ id: string }> {
      const id = newId();
      await db.transaction(async (tx) => {
        const [{ total }] = await tx.select({ total: count() }).from(claims).where(isPublic);
        await tx
          .insert(policyPreviews)
          .values({ id, policy, reason, total, state: 'running', askedBy: person.id, askedAt: now() });
        await recordAudit(tx, now(), person, 'tried policy', 'policy', policy.version, { claims: total });
      });
      handOn();
      return { id };
    },

    /**
     * Claims that were judged by a policy before it came into force and hold: they never leave the shelf for it. Nothing
     * else may have changed under them since it was tried, whether answered or not; those wait to be evaluated.
     */
    async answerHeld(tx: Queryable, policy: Policy): Promise<void> {
      const [tried] = await tx
        .select({ id: policyPreviews.id, askedAt: policyPreviews.askedAt })
        .from(policyPreviews)
        .where(
          and(
            eq(policyPreviews.state, 'done'),
            sql`${policyPreviews.policy} = ${JSON.stringify(policy)}::jsonb`,
          ),
        )
        .orderBy(desc(policyPreviews.askedAt))
        .limit(1);
      if (!tried) return;
      await tx.execute(sql`
        insert into change_answers (claim_id, kind, subject_id, version, reason, at)
        select u.claim_id, u.kind, u.subject_id, u.version, ${HELD_BEFORE}, ${now().toISOString()}::timestamptz
        from policy_preview_claims d join claims c on c.id = d.claim_id and c.state = 'published'
          join unanswered_changes u on u.claim_id = d.claim_id
        where d.preview_id = ${tried.id} and d.holds and u.kind = 'policy'
          and not exists (select from unanswered_changes o where o.claim_id = d.claim_id and o.kind <> 'policy')
          and not exists (select from change_answers a
            where a.claim_id = d.claim_id and a.at >= ${tried.askedAt.toISOString()}::timestamptz)`);
    },

    async shown(id: string): Promise<PolicyPreview> {
      const { state, policy, reason, askedAt, total } = await one(id);
      const [{ done, change }] = await db
        .select({
          done: count(),
          change: sql<number>`count(*) filter (where not ${policyPreviewClaims.holds})::int`,
        })
        .from(policyPreviewClaims)
        .where(eq(policyPreviewClaims.previewId, id));
      const changing = await db
        .select({ claimId: policyPreviewClaims.claimId, instead: policyPreviewClaims.instead })
        .from(policyPreviewClaims)
        .where(and(eq(policyPreviewClaims.previewId, id), eq(policyPreviewClaims.holds, false)))
        .limit(PREVIEW_MOST);
      const words = new Map(changing.map((c) => [c.claimId, c.instead]));
      const found =
        words.size > 0
          ? await listClaims(db, sql`${claims.id} = any(${sql.param([...words.keys()])}::uuid[])`)
          : [];
      return {
        id,
        state,
        policy,
        reason,
        askedAt: askedAt.toISOString(),
        total,
        done,
        change,
        claims: found.map(({ id: claimId, subject, fitment, wording }) => ({
          id: claimId,
          subject,
          fitment,
          wording,
          instead: words.get(claimId)!,
        })),
      };
    },

    async cancel(id: string): Promise<void> {
      await one(id);
      await end(id, 'cancelled');
    },

    /** Goes on with whatever is not finished; called by the queue. */
    async work(): Promise<void> {
      const running = await db
        .select()
        .from(policyPreviews)
        .where(eq(policyPreviews.state, 'running'))
        .orderBy(asc(policyPreviews.askedAt));
      for (const row of running)
        await goOn(row).catch((error: unknown) => {
          log.error(
            { preview: row.id, error: error instanceof Error ? error.message : String(error) },
            'not tried',
          );
          throw error;
        });
    },
  };
}
