import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type {
  CatalogueFitment,
  Claim,
  ClaimDetail,
  ClaimState,
  DraftClaimRequest,
  Evidence,
} from '../../contract/publish/claim.ts';
import type { TestFile } from '../../contract/judge/test-file.ts';
import { amendmentsWeigh } from '../../core/plan/amendment.ts';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import { isRefused, type TestDefinition } from '../../core/judge/analyse-test.ts';
import { outcomeOf } from '../../core/judge/gates.ts';
import { claimText } from '../../core/publish/claim.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound, RefusalError } from '../base/refusals.ts';
import { auditEntries } from '../base/tables.ts';
import { pullFiles, rawFiles } from '../capture/tables.ts';
import type { JudgeService } from '../judge/service.ts';
import { analyses } from '../judge/tables.ts';
import { findTest, namesOf } from '../plan/repository.ts';
import { amendmentsOf, amendmentsShown, armsOf } from '../plan/service.ts';
import { pulls } from '../plan/tables.ts';
import { revisionsInArms, testIsEmbargoed } from '../register/embargo.ts';
import { dynos, fitments, partRevisions, parts, vehicles } from '../register/tables.ts';
import { claimFacts } from './claim-facts.ts';
import { glyphOfArm, listClaims, publicClaim } from './repository.ts';
import { claimEvents, claims } from './tables.ts';

export type PublishService = ReturnType<typeof createPublishService>;
/** States in which a claim is shown to the public, current or not. */
const PUBLIC_STATES: readonly ClaimState[] = ['published', 'stale', 'withdrawn'];
const MAY_FOLLOW: Record<'submit' | 'approve' | 'return' | 'withdraw', readonly ClaimState[]> = {
  submit: ['draft', 'returned'],
  approve: ['in review'],
  return: ['in review'],
  withdraw: ['published', 'stale'],
};

export function createPublishService({ db, now, newId }: Needs, judge: JudgeService) {
  const one = async (tx: Queryable, id: string): Promise<Claim & { fitmentId: string }> => {
    const [claim] = await listClaims(tx, eq(claims.id, id));
    if (!claim) throw notFound('claim');
    return claim;
  };
  /** Moves a claim on, with its event and audit entry, in one transaction. */
  const move = async (
    tx: Queryable,
    person: Person,
    claim: Claim,
    to: ClaimState,
    note: string,
    set: Partial<typeof claims.$inferInsert> = {},
  ): Promise<void> => {
    const changed = await tx
      .update(claims)
      .set({ ...set, state: to })
      .where(and(eq(claims.id, claim.id), eq(claims.state, claim.state)))
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
      personId: person.id,
      fromState: claim.state,
      toState: to,
      note,
    });
    await recordAudit(tx, now(), person, `claim ${to}`, 'claim', claim.id, {
      code: claim.code,
      ...(note ? { note } : {}),
    });
  };
  const checkStep = (claim: Claim, step: keyof typeof MAY_FOLLOW): void => {
    if (!MAY_FOLLOW[step].includes(claim.state))
      throw conflict(
        'WRONG_STATE',
        `The claim is ${claim.state}; it cannot be ${{ submit: 'submitted', approve: 'approved', return: 'returned', withdraw: 'withdrawn' }[step]} now.`,
        'Reload and look again.',
      );
  };

  return {
    list: async (): Promise<Claim[]> => listClaims(db),

    async detail(id: string): Promise<ClaimDetail> {
      const claim = await one(db, id);
      const events = await db
        .select()
        .from(claimEvents)
        .where(eq(claimEvents.claimId, id))
        .orderBy(asc(claimEvents.id));
      const names = await namesOf(
        db,
        events.map((e) => e.personId),
      );
      return {
        claim,
        history: events.map((e) => ({
          at: e.at.toISOString(),
          person: names.get(e.personId) ?? 'somebody',
          from: e.fromState,
          to: e.toState,
          note: e.note,
        })),
      };
    },

    /** Drafts a claim from the present analysis: number, wording and disclosures come from the core, not from a person. */
    async draft(person: Person, testId: string, request: DraftClaimRequest): Promise<Claim> {
      const { row, analysis, waitsFor } = await judge.current(testId, person);
      if (!analysis)
        throw conflict(
          'NO_ANALYSIS',
          `There is no result yet${waitsFor.length ? `: it waits for ${waitsFor.join(' and ')}` : ''}.`,
          'Complete the pulls and air readings first.',
        );
      if (analysis.id !== request.analysisId)
        throw conflict(
          'ANALYSIS_SUPERSEDED',
          'The inputs have changed since the result you saw.',
          'Look at the new result and draft from that.',
        );
      const { result } = analysis;
      const arms = await armsOf(db, testId);
      const arm = arms.find((a) => a.role === 'part' && (request.arm === undefined || a.key === request.arm));
      if (!arm) throw notFound('arm');
      const { verdict, grade } = outcomeOf(result.findings, arm.key);
      if (verdict !== 'claim' || grade === 'indicative')
        throw conflict(
          'NOT_CLAIMABLE',
          `The verdict is “${verdict}”, grade “${grade}”: no claim can be drafted.`,
          'See the failing gates for what would mend it.',
          { verdict },
        );
      const planned = row.test.metrics.length ? row.test.metrics : [row.test.metric];
      if (!planned.includes(request.metric))
        throw conflict(
          'METRIC_NOT_PLANNED',
          `The plan names “${planned.map((m) => METRIC_NAMES[m]).join('; ')}” for the claim.`,
          'Claim the metric of the plan; choosing the best of several after the fact inflates it.',
        );
      const firstPullAt = (analysis.inputs.definition as TestDefinition).plan?.firstPullAt ?? null;
      const revisionId = arm.partRevisionId ?? row.revision.id;
      const named = await db
        .select({ id: partRevisions.id, name: parts.name, revision: partRevisions.revision })
        .from(partRevisions)
        .innerJoin(parts, eq(parts.id, partRevisions.partId))
        .where(eq(partRevisions.id, revisionId));
      const text = claimText(
        result,
        request.metric,
        request.unit,
        claimFacts(row, arms, arm, new Map(named.map((n) => [n.id, `${n.name}, revision ${n.revision}`]))),
        arm.key,
      );
      if (!text.ok) {
        throw text.code === 'NOT_POSITIVE'
          ? conflict(
              'ROUNDS_TO_NOTHING',
              `The lower limit, ${text.value!.toFixed(2)} ${request.unit}, rounds to nothing.`,
              'Claim it in a finer unit (%), or not at all.',
            )
          : conflict(text.code, 'This metric cannot be claimed in this unit.', 'Choose another unit.');
      }
      return db.transaction(async (tx) => {
        const same = await tx
          .select({ code: claims.code })
          .from(claims)
          .where(
            and(
              eq(claims.analysisId, analysis.id),
              eq(claims.metric, request.metric),
              eq(claims.unit, request.unit),
              eq(claims.arm, arm.key),
              inArray(claims.state, ['draft', 'in review', 'returned', 'published']),
            ),
          );
        if (same.length > 0)
          throw conflict(
            'DRAFTED_ALREADY',
            `Claim ${same[0].code} says this already.`,
            'Open it from the list of claims.',
          );
        const id = newId();
        const { value, unit, rpm, interval, wording, conditions } = text.value;
        const amended = amendmentsWeigh(await amendmentsOf(tx, testId), firstPullAt);
        const disclosures = [
          ...text.value.disclosures,
          ...(amended.state === 'told'
            ? [
                `The plan was amended after the first pull (${amended.fields.join(', ')}), with the reason on record.`,
              ]
            : []),
        ];
        await tx.insert(claims).values({
          id,
          code: newId().replaceAll('-', '').slice(0, 10),
          testId,
          analysisId: analysis.id,
          fitmentId: row.fitment.id,
          partRevisionId: revisionId,
          arm: arm.key,
          metric: request.metric,
          value,
          unit,
          rpm,
          interval,
          wording,
          conditions: [...conditions],
          disclosures: [...disclosures],
          grade,
          state: 'draft',
          authorId: person.id,
          draftedAt: now(),
        });
        await tx
          .insert(claimEvents)
          .values({ claimId: id, at: now(), personId: person.id, fromState: null, toState: 'draft' });
        await recordAudit(tx, now(), person, 'drafted claim', 'claim', id, {
          test: testId,
          analysis: analysis.number,
          wording,
        });
        return one(tx, id);
      });
    },

    async submit(person: Person, id: string): Promise<void> {
      await db.transaction(async (tx) => {
        const claim = await one(tx, id);
        if (claim.author.id !== person.id) throw forbidden('Only who drafted a claim submits it.');
        checkStep(claim, 'submit');
        await move(tx, person, claim, 'in review', '', { reviewerId: null });
      });
    },

    /** Approves and publishes. Who drafted cannot approve, and the evidence must still be the present one. */
    async approve(person: Person, id: string): Promise<void> {
      const before = await one(db, id);
      if (before.author.id === person.id) throw forbidden('Who drafted a claim cannot approve it.');
      checkStep(before, 'approve');
      if (await testIsEmbargoed(db, before.testId, now()))
        throw conflict(
          'UNDER_EMBARGO',
          'The part is under embargo: nothing of it is published.',
          'Wait until the embargo ends, or have it lifted.',
        );
      const { analysis } = await judge.current(before.testId);
      if (analysis?.id !== before.analysisId)
        throw conflict(
          'ANALYSIS_SUPERSEDED',
          'The inputs have changed since the claim was drafted.',
          'Return the claim; it must be drafted from the new result.',
        );
      await db.transaction(async (tx) => {
        const claim = await one(tx, id);
        checkStep(claim, 'approve');
        await move(tx, person, claim, 'published', '', { reviewerId: person.id, publishedAt: now() });
      });
    },

    async return(person: Person, id: string, reason: string): Promise<void> {
      await db.transaction(async (tx) => {
        const claim = await one(tx, id);
        if (claim.author.id === person.id) throw forbidden('Who drafted a claim cannot review it.');
        checkStep(claim, 'return');
        await move(tx, person, claim, 'returned', reason, { reviewerId: person.id });
      });
    },

    async withdraw(person: Person, id: string, reason: string): Promise<void> {
      await db.transaction(async (tx) => {
        const claim = await one(tx, id);
        checkStep(claim, 'withdraw');
        await move(tx, person, claim, 'withdrawn', reason, { staleReason: reason });
      });
    },

    /** Published claims of a test whose inputs changed leave the current list at once, and say why. */
    async markStale(tx: Queryable, testId: string, person: Person, what: string): Promise<void> {
      for (const claim of await listClaims(
        tx,
        and(eq(claims.testId, testId), eq(claims.state, 'published')),
      )) {
        await move(tx, person, claim, 'stale', what, { staleReason: `Since publication ${what}.` });
      }
    },

    /** Why an embargo on a part would come too late, if it would. */
    async publicOf(tx: Queryable, partId: string): Promise<string | undefined> {
      const [claim] = await tx
        .select({ code: claims.code, state: claims.state })
        .from(claims)
        .where(
          and(
            inArray(claims.state, [...PUBLIC_STATES]),
            sql`${claims.testId} in (select a.test_id from ${revisionsInArms} a join ${partRevisions} on ${partRevisions.id} = a.revision_id where ${partRevisions.partId} = ${partId})`,
          ),
        );
      return claim && `claim ${claim.code} of the part is public (${claim.state})`;
    },

    async audit(): Promise<
      { at: string; person: string; action: string; subject: string; detail: Record<string, unknown> }[]
    > {
      const rows = await db.select().from(auditEntries).orderBy(desc(auditEntries.id)).limit(200);
      return rows.map((e) => ({
        at: e.at.toISOString(),
        person: e.personName,
        action: e.action,
        subject: `${e.subjectKind} ${e.subjectId}`,
        detail: e.detail,
      }));
    },

    // ── What anyone may read ──────────────────────────────────────────────

    async catalogue(): Promise<Omit<CatalogueFitment, 'rated' | 'former'>[]> {
      const current = await listClaims(db, eq(claims.state, 'published'));
      const wanted = [...new Set(current.map((c) => c.fitmentId))];
      if (wanted.length === 0) return [];
      const rows = await db
        .select()
        .from(fitments)
        .where(inArray(fitments.id, wanted))
        .orderBy(asc(fitments.maker), asc(fitments.model));
      return rows.map((f) => ({
        ...fitmentShown(f),
        claims: current.filter((c) => c.fitmentId === f.id).map(publicClaim),
      }));
    },

    async catalogueFitment(slug: string): Promise<CatalogueFitment> {
      const [fitment] = await db.select().from(fitments).where(eq(fitments.slug, slug));
      if (!fitment) throw notFound('fitment');
      const all = (
        await listClaims(db, and(eq(claims.fitmentId, fitment.id), inArray(claims.state, [...PUBLIC_STATES])))
      ).map(publicClaim);
      return {
        ...fitmentShown(fitment),
        rated: `${fitment.ratedPowerKw} kW and ${fitment.ratedTorqueNm} N·m at the crank, ${fitment.ratedStandard}`,
        claims: all.filter((c) => c.state === 'published'),
        former: all.filter((c) => c.state !== 'published'),
      };
    },

    /** Everything a published claim rests on: the analysis it was drafted from, not today's. */
    async evidence(code: string): Promise<Evidence> {
      const { claim, analysis, definition } = await evidenceOf(code);
      const { test } = await findTest(db, claim.testId);
      const [vehicle] = await db.select().from(vehicles).where(eq(vehicles.id, test.vehicleId));
      const [dyno] = await db.select().from(dynos).where(eq(dynos.id, test.dynoId));
      const pullRows = await db.select().from(pulls).where(eq(pulls.testId, claim.testId));
      const hashes = definition.pulls.flatMap((p) => (p.file ? [p.file] : []));
      const stored = await db
        .select({
          sha256: rawFiles.sha256,
          size: rawFiles.size,
          name: pullFiles.name,
          pullId: pullFiles.pullId,
        })
        .from(pullFiles)
        .innerJoin(rawFiles, eq(rawFiles.sha256, pullFiles.sha256))
        .where(inArray(rawFiles.sha256, hashes));
      return {
        claim: publicClaim(claim),
        vehicle: vehicle.tag,
        dyno: `${dyno.name}, ${dyno.kind}`,
        planLockedAt: test.lockedAt?.toISOString() ?? null,
        planHash: test.planHash,
        approvedBy: claim.reviewer?.name ?? '',
        draftedBy: claim.author.name,
        amendments: await amendmentsShown(db, claim.testId),
        analysis: {
          number: analysis.number,
          at: analysis.computedAt.toISOString(),
          inputsHash: analysis.inputsHash,
          softwareVersion: analysis.softwareVersion,
          policyVersion: analysis.policy.version,
        },
        curve: glyphOfArm(analysis.result, claim.arm)!,
        result: analysis.result,
        pulls: definition.pulls.map((pull) => {
          const row = pullRows.find((p) => p.label === pull.id)!;
          const file = pull.file
            ? stored.find((s) => s.sha256 === pull.file && s.pullId === row.id)
            : undefined;
          const own = analysis.result.pulls.find((p) => p.id === pull.id);
          const humidity = pull.air?.humidity;
          return {
            id: row.id,
            label: pull.id,
            position: pull.order,
            arm: pull.arm,
            counted: pull.counted,
            excluded: pull.excluded ?? null,
            air: pull.air
              ? `${pull.air.temperatureC} °C, ${pull.air.pressureHpa} hPa, ${humidity?.kind === 'relative' ? `${humidity.percent} % RH` : `${humidity?.kind} ${humidity?.temperatureC} °C`}`
              : null,
            factor: own?.factor ?? null,
            peakKw: own?.peakPower?.kw ?? null,
            file: file ? { name: file.name, sha256: file.sha256, size: file.size } : null,
          };
        }),
      };
    },

    /** Raw bytes of one pull of a published claim's analysis. */
    async evidenceFile(
      code: string,
      label: string,
    ): Promise<{ name: string; sha256: string; bytes: Buffer }> {
      const { definition } = await evidenceOf(code);
      const sha256 = definition.pulls.find((p) => p.id === label)?.file;
      const [row] = sha256
        ? await db
            .select({ name: pullFiles.name, sha256: rawFiles.sha256, bytes: rawFiles.bytes })
            .from(rawFiles)
            .innerJoin(pullFiles, eq(pullFiles.sha256, rawFiles.sha256))
            .where(eq(rawFiles.sha256, sha256))
            .limit(1)
        : [];
      if (!row) throw notFound('file');
      return row;
    },

    /** The claim's test as `evidentia-test/1`: with the raw files beside it, the command line computes the same result. */
    async evidenceTestFile(code: string): Promise<TestFile> {
      const { definition } = await evidenceOf(code);
      const { pulls: list, plan, metrics, ...rest } = definition;
      return {
        format: 'evidentia-test/1',
        ...rest,
        arms: [...rest.arms],
        ...(metrics ? { metrics: [...metrics] } : {}),
        ...(plan
          ? {
              plan: {
                lockedAt: plan.lockedAt,
                firstPullAt: plan.firstPullAt,
                ...(plan.amendments
                  ? { amendments: plan.amendments.map((a) => ({ ...a, fields: [...a.fields] })) }
                  : {}),
              },
            }
          : {}),
        pulls: list.map(({ air, applied, file, ...pull }) => ({
          ...pull,
          ...(file ? { file: `pulls/${pull.id}.csv` } : {}),
          ...(applied ? { applied: { standard: applied.standard, factor: applied.factor } } : {}),
          ...(air
            ? {
                air: {
                  temperatureC: air.temperatureC,
                  pressureHpa: air.pressureHpa,
                  pressureKind: air.pressureKind,
                  siteHeightM: air.siteHeightM,
                  ...(air.humidity.kind === 'relative'
                    ? { humidityPct: air.humidity.percent }
                    : air.humidity.kind === 'dew point'
                      ? { dewPointC: air.humidity.temperatureC }
                      : { wetBulbC: air.humidity.temperatureC }),
                },
              }
            : {}),
        })),
      };
    },
  };

  async function evidenceOf(code: string) {
    const [claim] = await listClaims(
      db,
      and(eq(claims.code, code), inArray(claims.state, [...PUBLIC_STATES])),
    );
    if (!claim) throw notFound('published claim');
    const [analysis] = await db.select().from(analyses).where(eq(analyses.id, claim.analysisId));
    const contrast = analysis?.result.contrasts.find((c) => c.arm === claim.arm);
    if (!analysis || !contrast || isRefused(contrast))
      throw new RefusalError(
        500,
        'EVIDENCE_BROKEN',
        'The analysis of this claim is not there.',
        'Tell the test manager.',
      );
    return { claim, analysis, definition: analysis.inputs.definition as TestDefinition };
  }
}

const fitmentShown = (f: typeof fitments.$inferSelect) => ({
  slug: f.slug,
  name: `${f.maker} ${f.model}`,
  engine: `${(f.displacementCc / 1000).toFixed(1)} L, ${f.cylinders} cylinders, ${f.aspiration}, ${f.fuel} (${f.engineCode}, ${f.outputVariant})`,
  years: `${f.yearFrom} to ${f.yearTo ?? 'today'}`,
});
