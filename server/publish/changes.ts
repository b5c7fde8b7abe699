/**
 * Changes under a claim. From the moment something a claim rests on changes, the claim is in question, for everybody;
 * it stands again when the change is answered: by evaluating the test again, or by a person who says why it does
 * not touch the claim.
 */
import { and, asc, eq, gt, inArray, max, ne, or, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { LEAST_EVIDENCE, type AnswerRequest, type Claim } from '../../contract/publish/claim.ts';
import type { FellBy } from '../../contract/publish/corrections.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { withRest } from '../base/unhurried.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound, RefusalError } from '../base/refusals.ts';
import { inputChanges, type InputKind } from '../base/tables.ts';
import type { Inputs } from '../judge/inputs.ts';
import type { AnalysisRow, JudgeService } from '../judge/service.ts';
import { kept } from '../register/references.ts';
import { tests } from '../plan/tables.ts';
import { openChanges, openChangesOf, type OpenChange } from './open-changes.ts';
import { listClaims } from './repository.ts';
import { askedByControl, inQuestion, ON_THEIR_WAY } from './states.ts';
import { changeAnswers, claims } from './tables.ts';
import { stillHolds, wordingOf, type Arounds, type Wording } from './wording.ts';

/** What computing again can answer: everything that is in the computed inputs. The rest is for a person. */
const COMPUTED: ReadonlySet<InputKind> = new Set([
  'file',
  'air',
  'exclusion',
  'session',
  'answer',
  'plan',
  'fitment',
  'dyno',
  'control',
  'other tests',
  'policy',
  'software',
]);

/** What would be said now of what no longer holds. */
export function insteadOf({ text, barred }: Pick<Wording, 'text' | 'barred'>): string {
  if (barred) return `${barred.message[0].toLowerCase()}${barred.message.slice(1)}`.replace(/\.$/, '');
  if (text.ok) return `it would now read “${text.value.wording.replace(/\.$/, '')}”`;
  if (text.code === 'NOT_POSITIVE' && (text.value ?? 0) > 0)
    return 'rounded as policy has it no gain is left';
  if (text.code === 'NOT_SHOWN_TOGETHER') return 'all tests of it together show no gain';
  if (text.test !== undefined) return `test ${text.test} of the same change says otherwise`;
  return 'nothing follows from it now';
}

/** How claims are moved on. */
export interface ClaimSteps {
  readonly one: (tx: Queryable, id: string) => Promise<Claim & { fitmentId: string }>;
  readonly locked: (tx: Queryable, id: string) => Promise<Claim & { fitmentId: string }>;
  /** Claims of one test, all at once. */
  readonly lockedOf: (tx: Queryable, testId: string, ids: readonly string[]) => Promise<Claim[]>;
  readonly move: (
    tx: Queryable,
    person: Person | null,
    claim: Claim,
    to: 'stale',
    note: string,
    set: { staleReason: string; fellBy: FellBy; fellAt: Date },
  ) => Promise<void>;
}

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createChangeService({ db, now, log }: Needs, judge: JudgeService, steps: ClaimSteps) {
  const answer = (
    tx: Queryable,
    claimId: string,
    { kind, subjectId, version }: Pick<OpenChange, 'kind' | 'subjectId' | 'version'>,
    person: Person | null,
    reason: string,
    evidence = '',
  ) =>
    tx.insert(changeAnswers).values({
      claimId,
      kind,
      subjectId,
      version,
      reason,
      evidence,
      personId: person?.id ?? null,
      at: now(),
    });

  /** Other tests of the part that have come since a claim was drafted: it holds beside them, or it is drafted anew. */
  async function answerOtherTests(
    tx: Queryable,
    claimId: string,
    seen: readonly OpenChange[],
    analysis: AnalysisRow,
    inputs: Inputs,
  ): Promise<void> {
    const others = seen.filter((change) => change.kind === 'other tests');
    if (others.length === 0) return;
    const claim = await steps.one(tx, claimId);
    const arm = inputs.arms.find((a) => a.key === claim.arm);
    if (!arm) throw notFound('arm');
    const wording = await wordingOf(tx, inputs, analysis, arm, claim);
    if (!stillHolds(claim, wording))
      throw conflict(
        'OTHER_TESTS_SAY_OTHERWISE',
        `Since the claim was drafted ${others.at(-1)!.what}: ${insteadOf(wording)}.`,
        'Return the claim; it must be drafted from all the tests there are.',
      );
    const why = 'Held against all finished tests of the part: what the claim says holds beside them.';
    for (const change of others) await answer(tx, claimId, change, null, why);
  }

  /** Evaluates claims of one test in question again, under its lock. */
  async function settleClaims(testId: string, ids: readonly string[]): Promise<void> {
    await db.transaction(async (tx) => {
      const found = (await steps.lockedOf(tx, testId, ids)).filter((claim) => claim.state === 'in question');
      const open = await openChangesOf(
        tx,
        found.map(({ id }) => id),
      );
      // Read after the changes: one that comes later stays open.
      const { inputs, analysis } = await judge.standing(tx, testId);
      const known: Arounds = new Map();
      for (const claim of found) {
        const arm = inputs.arms.find((a) => a.key === claim.arm);
        if (!analysis || !arm) continue;
        await settleClaim(
          tx,
          claim,
          open.get(claim.id) ?? [],
          analysis,
          await wordingOf(tx, inputs, analysis, arm, claim, known),
        );
      }
    });
  }

  async function settleClaim(
    tx: Queryable,
    claim: Claim,
    open: readonly OpenChange[],
    { number }: AnalysisRow,
    wording: Wording,
  ): Promise<void> {
    if (stillHolds(claim, wording)) {
      // What computing cannot answer is for a person.
      if (!open.every((change) => COMPUTED.has(change.kind))) return;
      const reason = `Evaluated again as analysis ${number}: what the claim says still holds.`;
      for (const change of open) await answer(tx, claim.id, change, null, reason);
      return;
    }
    const what = [...new Set(open.map((change) => change.what))].join('; ');
    await steps.move(tx, null, claim, 'stale', what, {
      staleReason: `Since publication ${what}; evaluated again as analysis ${number}, ${insteadOf(wording)}.`,
      fellBy: 'evidence',
      fellAt: now(),
    });
  }

  /** Claims on their way to publication: a check of the control vehicle that left the analysis as it is asks nobody. */
  async function answerControl(testId: string, analysis: AnalysisRow): Promise<void> {
    const waiting = await db
      .select({ id: claims.id })
      .from(claims)
      .where(and(eq(claims.testId, testId), inArray(claims.state, ON_THEIR_WAY), askedByControl))
      .orderBy(asc(claims.id));
    for (const { id } of waiting)
      await db.transaction(async (tx) => {
        await steps.locked(tx, id);
        const [own] = await tx
          .select({ analysisId: claims.analysisId })
          .from(claims)
          .where(eq(claims.id, id));
        const open = await openChanges(tx, id);
        // Read after the changes: one that comes later stays open.
        const standing = await judge.standing(tx, testId);
        if (own?.analysisId !== analysis.id || standing.analysis?.id !== analysis.id) return;
        const why = `The control vehicle leaves analysis ${analysis.number} as it is.`;
        for (const change of open) if (change.kind === 'control') await answer(tx, id, change, null, why);
      });
  }

  /** Evaluates again what stands on a test, after something under it has changed. Whatever cannot be settled stays in question. */
  async function settle(testId: string): Promise<void> {
    try {
      const waiting = await db
        .select({ id: claims.id })
        .from(claims)
        .where(and(eq(claims.testId, testId), eq(claims.state, 'published'), inQuestion))
        .orderBy(asc(claims.id));
      const { analysis } = await judge.current(testId);
      if (!analysis) return;
      await answerControl(testId, analysis);
      if (waiting.length === 0) return;
      await settleClaims(
        testId,
        waiting.map(({ id }) => id),
      );
    } catch (error) {
      // The change itself is kept; the claim stays in question until somebody looks.
      log.error({ testId, error: error instanceof Error ? error.message : String(error) }, 'not settled');
    }
  }

  return {
    openChanges,
    settle,

    /** Claims that rest on a vehicle, after its record or its ledger has changed. */
    async settleVehicle(vehicleId: string): Promise<void> {
      const rows = await db
        .selectDistinct({ testId: claims.testId })
        .from(claims)
        .innerJoin(tests, eq(tests.id, claims.testId))
        .where(and(eq(claims.state, 'published'), eq(tests.vehicleId, vehicleId), inQuestion));
      for (const { testId } of rows) await settle(testId);
    },

    /** Claims of other tests on the same kind of car that a new result has put in question. */
    async settleBeside(testId: string): Promise<void> {
      const rows = await db
        .selectDistinct({ testId: claims.testId })
        .from(claims)
        .where(
          and(
            eq(claims.state, 'published'),
            ne(claims.testId, testId),
            sql`${claims.fitmentId} in (select f.id from fitments f where f.family = (select o.family from fitments o
              join tests t on t.fitment_id = o.id where t.id = ${testId}))`,
            sql`exists (select 1 from unanswered_changes u where u.claim_id = ${claims.id} and u.kind = 'other tests')`,
          ),
        );
      for (const row of rows) await settle(row.testId);
    },

    /**
     * Every test with a claim in question: after a new policy, or a new version of the application.
     * @param after the test that was settled last, to go on behind it
     * @returns the test it stopped at because `goOn` said so; null when it is through
     */
    async settleAll(after: string | null = null, goOn: () => boolean = () => true): Promise<string | null> {
      const rows = await db
        .selectDistinct({ testId: claims.testId })
        .from(claims)
        .where(
          and(
            or(
              and(eq(claims.state, 'published'), inQuestion),
              and(inArray(claims.state, ON_THEIR_WAY), askedByControl),
            ),
            after === null ? undefined : gt(claims.testId, after),
          ),
        )
        .orderBy(asc(claims.testId));
      for (const { testId } of rows) {
        await withRest(() => settle(testId));
        if (!goOn()) return testId;
      }
      return null;
    },

    /** Number of the last change of anything that a claim can rest on. */
    async latestChange(): Promise<number> {
      const [{ id }] = await db.select({ id: max(inputChanges.id) }).from(inputChanges);
      return id ?? 0;
    },

    answersOf: async (claimId: string) =>
      db
        .select({
          at: changeAnswers.at,
          reason: changeAnswers.reason,
          evidence: changeAnswers.evidence,
          personId: changeAnswers.personId,
          what: inputChanges.what,
        })
        .from(changeAnswers)
        .innerJoin(
          inputChanges,
          and(
            eq(inputChanges.kind, changeAnswers.kind),
            eq(inputChanges.subjectId, changeAnswers.subjectId),
            eq(inputChanges.version, changeAnswers.version),
          ),
        )
        .where(eq(changeAnswers.claimId, claimId))
        .orderBy(asc(changeAnswers.id)),

    /**
     * What has changed since the analysis a new draft rests on. What is in the computed inputs is the same again, or
     * the analysis would be another; for the rest the author says why it does not touch the claim.
     */
    async acknowledge(
      tx: Queryable,
      claimId: string,
      person: Person,
      analysis: AnalysisRow,
      inputs: Inputs,
      reason: string | undefined,
    ): Promise<void> {
      const open = await openChanges(tx, claimId);
      const asked = open.filter((change) => !COMPUTED.has(change.kind));
      if (asked.length > 0 && reason === undefined)
        throw conflict(
          'CHANGES_TO_ANSWER',
          `Since analysis ${analysis.number} of this test: ${asked.map((c) => c.what).join('; ')}.`,
          'Say why that does not touch the claim, or test again.',
          { changes: asked.map((c) => c.what) },
        );
      for (const change of open)
        await answer(
          tx,
          claimId,
          change,
          COMPUTED.has(change.kind) ? null : person,
          COMPUTED.has(change.kind)
            ? `Drafted from analysis ${analysis.number}, whose inputs are those of today (${inputs.hash.slice(0, 12)}).`
            : await kept(tx, reason!, person),
        );
    },

    /**
     * Evidence that was put back as it was: the claim's analysis stands on the inputs of today, so changes of what is in
     * the computed inputs are answered by that. `seen` are the changes known before those inputs were read: one that
     * comes later stays open.
     */
    async answerPutBack(
      tx: Queryable,
      claimId: string,
      seen: readonly OpenChange[],
      analysis: AnalysisRow,
      inputs: Inputs,
    ): Promise<void> {
      const why = `Put back as it was: the inputs of analysis ${analysis.number} are those of today (${inputs.hash.slice(0, 12)}).`;
      const back = seen.filter((change) => COMPUTED.has(change.kind) && change.kind !== 'other tests');
      for (const change of back) await answer(tx, claimId, change, null, why);
      await answerOtherTests(tx, claimId, seen, analysis, inputs);
    },

    /** A reviewer says why a change does not touch a claim; not the person who drafted it. */
    async answerChange(
      person: Person,
      id: string,
      { changeId, reason, evidence }: AnswerRequest,
    ): Promise<void> {
      await db.transaction(async (tx) => {
        const claim = await steps.locked(tx, id);
        if (claim.author.id === person.id)
          throw forbidden('Who drafted a claim cannot answer what has changed under it.');
        const change = (await openChanges(tx, id)).find((c) => c.id === changeId);
        if (!change) throw notFound('change that waits for an answer');
        if (['file', 'air', 'exclusion'].includes(change.kind))
          throw conflict(
            'EVALUATED_NOT_ANSWERED',
            'What was measured has changed: that is evaluated again, not answered.',
            'Open the result of the test; the claim follows it.',
          );
        if (change.kind === 'part revision' && evidence.length < LEAST_EVIDENCE)
          throw new RefusalError(
            422,
            'EVIDENCE_MISSING',
            'Another revision was tested than is sold now: why they are alike is said with the evidence for it.',
            'Say what was compared and by whom, or test the new revision.',
          );
        const shown = await kept(tx, evidence, person);
        await answer(tx, id, change, person, await kept(tx, reason, person), shown);
        await recordAudit(tx, now(), person, 'answered change', 'claim', id, {
          code: claim.code,
          what: change.what,
          reason,
          ...(evidence ? { evidence } : {}),
        });
      });
    },

    /** Published claims of a test whose measured inputs changed leave the current list at once, and say why. */
    async markStale(tx: Queryable, testId: string, person: Person, what: string): Promise<void> {
      for (const claim of await listClaims(tx, and(eq(claims.testId, testId), eq(claims.state, 'published'))))
        await steps.move(tx, person, claim, 'stale', what, {
          staleReason: `Since publication ${what}.`,
          fellBy: 'evidence',
          fellAt: now(),
        });
    },
  };
}
