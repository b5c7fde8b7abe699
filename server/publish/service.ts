import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { z } from 'zod';
import type { Person } from '../../contract/base/http.ts';
import type {
  Claim,
  ClaimDetail,
  ClaimPage,
  ClaimsQuery,
  DraftClaimRequest,
  WordingQuery,
  WordingShown,
  WithdrawRequest,
  KeptState,
} from '../../contract/publish/claim.ts';
import type { TestFile } from '../../contract/judge/test-file.ts';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';

import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { lockTest } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound, RefusalError } from '../base/refusals.ts';
import type { JudgeService } from '../judge/service.ts';
import { namesOf } from '../plan/repository.ts';
import { revisionsInArms, testIsEmbargoed } from '../register/embargo.ts';
import { kept } from '../register/references.ts';
import { partRevisions } from '../register/tables.ts';
import { createAgeOut } from './age-out.ts';
import { createChangeService } from './changes.ts';
import { claimPage } from './claim-page.ts';
import { snapshotOf, testFileOf } from './evidence.ts';
import { createPublicReading, PUBLIC_STATES } from './public-reading.ts';
import { listClaims } from './repository.ts';
import { claimEvents, claims } from './tables.ts';
import { wordingOf } from './wording.ts';
import { figuresInWords } from './words-beside.ts';
import { type ClaimRow, checkStep, claimable } from './claim-steps.ts';

export type PublishService = ReturnType<typeof createPublishService>;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createPublishService(needs: Needs, judge: JudgeService) {
  const { db, now, newId } = needs;
  const one = async (tx: Queryable, id: string): Promise<ClaimRow> => {
    const [claim] = await listClaims(tx, eq(claims.id, id));
    if (!claim) throw notFound('claim');
    return claim;
  };
  /** A claim with its test locked before it, as every change of either takes them. */
  const locked = async (tx: Queryable, id: string): Promise<ClaimRow> => {
    const { testId } = await one(tx, id);
    await lockTest(tx, testId);
    await tx.execute(sql`select 1 from claims where id = ${id} for update`);
    return one(tx, id);
  };
  /** Claims of one test the same way, all at once: a policy puts thousands in question. */
  const lockedOf = async (tx: Queryable, testId: string, ids: readonly string[]): Promise<ClaimRow[]> => {
    await lockTest(tx, testId);
    const own = and(eq(claims.testId, testId), inArray(claims.id, [...ids]));
    await tx.select({ id: claims.id }).from(claims).where(own).orderBy(asc(claims.id)).for('update');
    return listClaims(tx, own);
  };
  /** Moves a claim on, with its event and audit entry, in one transaction. `person` null: the application itself. */
  const move = async (
    tx: Queryable,
    person: Person | null,
    claim: Claim,
    to: KeptState,
    note: string,
    set: Partial<typeof claims.$inferInsert> = {},
  ): Promise<void> => {
    const from: KeptState = claim.state === 'in question' ? 'published' : claim.state;
    const changed = await tx
      .update(claims)
      .set({ ...set, state: to })
      .where(and(eq(claims.id, claim.id), eq(claims.state, from)))
      .returning({ id: claims.id });
    if (changed.length === 0)
      throw conflict(
        'CLAIM_MOVED_ON',
        'Somebody else has just changed this claim.',
        'Reload and look again.',
      );
    await tx.insert(claimEvents).values({
      claimId: claim.id,
      at: now(),
      personId: person?.id ?? null,
      fromState: from,
      toState: to,
      note,
    });
    await recordAudit(tx, now(), person, `claim ${to}`, 'claim', claim.id, {
      code: claim.code,
      ...(note ? { note } : {}),
    });
  };
  const changes = createChangeService(needs, judge, { one, locked, lockedOf, move });

  const ageOut = createAgeOut(needs, { locked, move });

  const publicReading = createPublicReading(needs, { ageOut, openChanges: changes.openChanges });

  return {
    ...changes,

    async list(person: Person, query: z.output<typeof ClaimsQuery>): Promise<ClaimPage> {
      await ageOut();
      return claimPage(needs, person, query);
    },

    async detail(id: string): Promise<ClaimDetail> {
      const claim = await one(db, id);
      const events = await db
        .select()
        .from(claimEvents)
        .where(eq(claimEvents.claimId, id))
        .orderBy(asc(claimEvents.id));
      const answers = await changes.answersOf(id);
      const names = await namesOf(
        db,
        [...events, ...answers].map((e) => e.personId),
      );
      const nameOf = (personId: string | null): string =>
        personId === null ? 'Evidentia' : (names.get(personId) ?? 'somebody');
      return {
        claim,
        history: events.map((e) => ({
          at: e.at.toISOString(),
          person: nameOf(e.personId),
          from: e.fromState,
          to: e.toState,
          note: e.note,
        })),
        openChanges: await changes.openChanges(db, id),
        answers: answers.map((a) => ({
          at: a.at.toISOString(),
          person: nameOf(a.personId),
          what: a.what,
          reason: a.reason,
          evidence: a.evidence,
        })),
        figures: await figuresInWords(db, claim),
      };
    },

    /** What a claim from the present analysis would say, or why it would say nothing. */
    async wording(person: Person, testId: string, asked: WordingQuery): Promise<WordingShown> {
      const { analysis, inputs } = await judge.current(testId, person);
      const arm = inputs.arms.find((a) => a.role === 'part' && a.key === asked.arm);
      if (!analysis || !arm) throw notFound('result');
      const wording = await wordingOf(db, inputs, analysis, arm, asked);
      try {
        const { wording: words, conditions, disclosures } = claimable(wording, asked);
        const said = {
          wording: words,
          grade: wording.grade,
          conditions: [...conditions],
          disclosures: [...disclosures],
        };
        return { said, why: null };
      } catch (error) {
        if (error instanceof RefusalError) return { said: null, why: error.message };
        throw error;
      }
    },

    /** Drafts a claim from the present analysis: number, wording and disclosures come from the core, not from a person. */
    // eslint-disable-next-line max-lines-per-function -- one transaction, in the order its locks are taken
    async draft(person: Person, testId: string, request: DraftClaimRequest): Promise<Claim> {
      const before = await judge.current(testId, person);
      if (!before.analysis)
        throw conflict(
          'NO_ANALYSIS',
          `There is no result yet${before.waitsFor.length ? `: it waits for ${before.waitsFor.join(' and ')}` : ''}.`,
          'Complete the pulls and air readings first.',
        );
      // eslint-disable-next-line max-lines-per-function -- one transaction, in the order its locks are taken
      return db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const { inputs, analysis } = await judge.standing(tx, testId);
        if (analysis?.id !== request.analysisId)
          throw conflict(
            'ANALYSIS_SUPERSEDED',
            'The inputs have changed since the result you saw.',
            'Look at the new result and draft from that.',
          );
        const { row, arms } = inputs;
        const arm = arms.find(
          (a) => a.role === 'part' && (request.arm === undefined || a.key === request.arm),
        );
        if (!arm) throw notFound('arm');
        const planned = row.test.metrics.length ? row.test.metrics : [row.test.metric];
        const metric = request.tells === 'advice' ? 'bandAverage' : request.metric;
        if (request.tells === 'gain' && !planned.includes(metric))
          throw conflict(
            'METRIC_NOT_PLANNED',
            `The plan names “${planned.map((m) => METRIC_NAMES[m]).join('; ')}” for the claim.`,
            'Claim the metric of the plan; choosing the best of several after the fact inflates it.',
          );
        const wording = await wordingOf(tx, inputs, analysis, arm, { ...request, metric });
        const text = claimable(wording, request);
        const { facts, grade } = wording;
        const [same] = await tx
          .select({ code: claims.code })
          .from(claims)
          .where(
            and(
              eq(claims.analysisId, analysis.id),
              eq(claims.metric, metric),
              eq(claims.unit, request.unit),
              eq(claims.arm, arm.key),
              eq(claims.tells, request.tells),
              inArray(claims.state, ['draft', 'in review', 'returned', 'published']),
            ),
          );
        if (same)
          throw conflict(
            'DRAFTED_ALREADY',
            `Claim ${same.code} says this already.`,
            'Open it from the list of claims.',
          );
        const id = newId();
        const { value, says, unit, rpm, interval, wording: words, conditions, disclosures } = text;
        await tx.insert(claims).values({
          id,
          code: newId().replaceAll('-', '').slice(0, 10),
          testId,
          analysisId: analysis.id,
          fitmentId: row.fitment.id,
          partRevisionId: arm.partRevisionId,
          arm: arm.key,
          subject: facts.subject.text,
          subjectKind: facts.subject.kind,
          tells: request.tells,
          metric,
          value,
          says,
          unit,
          rpm,
          interval,
          wording: words,
          conditions: [...conditions],
          disclosures: [...disclosures],
          grade,
          state: 'draft',
          authorId: person.id,
          draftedAt: now(),
        });
        await changes.acknowledge(tx, id, person, analysis, inputs, request.answer);
        await tx
          .insert(claimEvents)
          .values({ claimId: id, at: now(), personId: person.id, fromState: null, toState: 'draft' });
        await recordAudit(tx, now(), person, 'drafted claim', 'claim', id, {
          test: testId,
          analysis: analysis.number,
          wording: words,
        });
        return one(tx, id);
      });
    },

    async submit(person: Person, id: string): Promise<void> {
      await db.transaction(async (tx) => {
        const claim = await locked(tx, id);
        if (claim.author.id !== person.id) throw forbidden('Only who drafted a claim submits it.');
        checkStep(claim, 'submit');
        await move(tx, person, claim, 'in review', '', { reviewerId: null });
      });
    },

    /**
     * Approves and publishes. Who drafted cannot approve, and the evidence must still be the present one: its inputs
     * are read again under the test's lock. What the public will read is put together here and kept.
     */
    async approve(person: Person, id: string): Promise<void> {
      await db.transaction(async (tx) => {
        const claim = await locked(tx, id);
        if (claim.author.id === person.id) throw forbidden('Who drafted a claim cannot approve it.');
        checkStep(claim, 'approve');
        // Parts are held against an embargo that somebody sets at this moment.
        await tx.execute(
          sql`select 1 from parts where id in (select r.part_id from ${revisionsInArms} a
            join part_revisions r on r.id = a.revision_id where a.test_id = ${claim.testId})
            order by id for share`,
        );
        if (await testIsEmbargoed(tx, claim.testId, now()))
          throw conflict(
            'UNDER_EMBARGO',
            'The part is under embargo: nothing of it is published.',
            'Wait until the embargo ends, or have it lifted.',
          );
        const seen = await changes.openChanges(tx, id);
        const { inputs, analysis } = await judge.standing(tx, claim.testId);
        if (analysis?.id !== claim.analysisId)
          throw conflict(
            'ANALYSIS_SUPERSEDED',
            'The inputs have changed since the claim was drafted.',
            'Return the claim; it must be drafted from the new result.',
          );
        await changes.answerPutBack(tx, id, seen, analysis, inputs);
        const open = await changes.openChanges(tx, id);
        if (open.length > 0)
          throw conflict(
            'CHANGES_TO_ANSWER',
            `Something under the claim has changed: ${open.map((c) => c.what).join('; ')}.`,
            'Say for each change why it does not touch the claim, or return the claim.',
            { changes: open.length },
          );
        // Evidence put back as it was: the analysis that is approved is the one that stands.
        if (inputs.row.test.currentAnalysisId !== analysis.id)
          await tx.execute(
            sql`update tests set current_analysis_id = ${analysis.id} where id = ${claim.testId}`,
          );
        const approved: ClaimRow = {
          ...claim,
          state: 'published',
          publishedAt: now().toISOString(),
          reviewer: { id: person.id, name: person.name },
        };
        await move(tx, person, claim, 'published', '', {
          reviewerId: person.id,
          publishedAt: new Date(approved.publishedAt!),
          snapshot: await snapshotOf(tx, approved),
        });
      });
    },

    async return(person: Person, id: string, reason: string): Promise<void> {
      await db.transaction(async (tx) => {
        const claim = await locked(tx, id);
        if (claim.author.id === person.id) throw forbidden('Who drafted a claim cannot review it.');
        checkStep(claim, 'return');
        await move(tx, person, claim, 'returned', await kept(tx, reason, person), { reviewerId: person.id });
      });
    },

    async withdraw(person: Person, id: string, { reason, wrong }: WithdrawRequest): Promise<void> {
      await db.transaction(async (tx) => {
        const claim = await locked(tx, id);
        checkStep(claim, 'withdraw');
        const text = await kept(tx, reason, person);
        await move(tx, person, claim, 'withdrawn', text, {
          staleReason: text,
          fellBy: wrong ? 'wrong' : 'set aside',
          // One that was stale has not stood since then.
          ...(claim.state === 'stale' ? {} : { fellAt: now() }),
        });
      });
    },

    /** Why an embargo on a part would come too late, if it would. The part's row is held, so no approval slips in between. */
    async publicOf(tx: Queryable, partId: string): Promise<string | undefined> {
      await tx.execute(sql`select 1 from parts where id = ${partId} for update`);
      const [claim] = await tx
        .select({ code: claims.code, state: claims.state })
        .from(claims)
        .where(
          and(
            inArray(claims.state, [...PUBLIC_STATES]),
            sql`${claims.testId} in (select a.test_id from ${revisionsInArms} a
              join ${partRevisions} on ${partRevisions.id} = a.revision_id
              where ${partRevisions.partId} = ${partId})`,
          ),
        );
      return claim && `claim ${claim.code} of the part is public (${claim.state})`;
    },

    ...publicReading,

    /** The present inputs of a test as `evidentia-test/1`, for other programs and the command line. */
    async testFile(person: Person, testId: string): Promise<TestFile> {
      const { definition, policy } = await judge.inputsOf(db, testId, person);
      return testFileOf(definition, policy);
    },

    /** Puts together what the public reads of claims that were published before that was kept. */
    async backfillSnapshots(): Promise<void> {
      const bare = await db
        .select({ id: claims.id })
        .from(claims)
        .where(and(inArray(claims.state, [...PUBLIC_STATES]), sql`${claims.snapshot} is null`));
      for (const { id } of bare)
        await db.transaction(async (tx) => {
          const claim = await locked(tx, id);
          const [row] = await tx.select({ snapshot: claims.snapshot }).from(claims).where(eq(claims.id, id));
          if (row.snapshot || claim.publishedAt === null) return;
          await tx
            .update(claims)
            .set({ snapshot: await snapshotOf(tx, { ...claim, state: 'published' }) })
            .where(eq(claims.id, id));
        });
    },
  };
}
