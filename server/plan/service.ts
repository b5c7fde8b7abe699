import { createHash } from 'node:crypto';
import { and, asc, desc, eq, gte, inArray, max, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { AmendmentShown, AmendRequest, PlanRequest } from '../../contract/plan/test.ts';
import type { Amendment } from '../../core/plan/amendment.ts';
import { planHours, sessionBlocks } from '../../core/plan/hours.ts';
import { METRIC_NAMES } from '../../core/plan/metrics.ts';
import { protocolOf, runPulls, runSheet } from '../../core/plan/protocols.ts';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { lockTest, policyInForce } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound, RefusalError } from '../base/refusals.ts';
import { people } from '../base/tables.ts';
import { kept, keptDeep } from '../register/references.ts';
import { dynos, dynoVersions, fitments, vehicles } from '../register/tables.ts';
import type { VehicleService } from '../register/vehicles.ts';
import { assessPlan, baselineText, type Assessed } from './assessment.ts';
import { findTest } from './repository.ts';
import { planAmendments, pulls, testArms, tests } from './tables.ts';

export type PlanService = ReturnType<typeof createPlanService>;
/** Told after an amendment that changes what an analysis rests on; the publish stage listens. */
export type PlanAmended = (tx: Queryable, testId: string, person: Person, what: string) => Promise<void>;

const hashOf = (content: object): string =>
  createHash('sha256').update(JSON.stringify(content)).digest('hex');

export function createPlanService(
  { db, now, newId }: Needs,
  vehicleService: VehicleService,
  planAmended: PlanAmended,
) {
  /** Writes the arms and the run sheet of an unlocked plan anew. */
  async function writeArms(
    tx: Queryable,
    testId: string,
    plan: PlanRequest,
    assessed: Assessed,
  ): Promise<void> {
    await tx.delete(pulls).where(eq(pulls.testId, testId));
    await tx.delete(testArms).where(eq(testArms.testId, testId));
    await tx.insert(testArms).values(
      plan.arms.map((arm, position) => {
        const known = assessed.byKey.get(arm.key)!;
        return {
          testId,
          key: arm.key,
          position,
          label: arm.label,
          role: arm.role,
          fromKey: arm.from,
          changes: arm.changes,
          partRevisionId: assessed.subjects.get(arm.key) ?? null,
          scope: arm.role === 'baseline' ? assessed.assessment.baseline.stock.stock : known.scope,
          scopeText: arm.role === 'baseline' ? baselineText(assessed.assessment) : known.scopeText,
          differences: [...known.differences],
        };
      }),
    );
    await tx.insert(pulls).values(
      runSheet(plan.order, plan.pullsPerRun, plan.warmUps, plan.remount).map((pull) => ({
        id: newId(),
        testId,
        ...pull,
      })),
    );
  }

  async function rowOf(
    tx: Queryable,
    plan: PlanRequest,
    vehicleId: string,
    dynoId: string,
    assessed: Assessed,
  ) {
    const [vehicle] = await tx.select().from(vehicles).where(eq(vehicles.id, vehicleId));
    if (!vehicle || vehicle.fitmentId !== plan.fitmentId)
      throw new RefusalError(
        422,
        'VEHICLE_NOT_OF_FITMENT',
        'The vehicle is not of this fitment.',
        'Choose a vehicle of the fitment, or the vehicle’s own fitment.',
        { path: 'vehicleId' },
      );
    const [dyno] = await tx.select().from(dynos).where(eq(dynos.id, dynoId));
    if (!dyno)
      throw new RefusalError(
        422,
        'UNKNOWN_DYNO',
        'This dyno is not in the register.',
        'Choose one from the list.',
        { path: 'dynoId' },
      );
    if (
      plan.partnerId &&
      (
        await tx
          .select({ id: people.id })
          .from(people)
          .where(and(eq(people.id, plan.partnerId), eq(people.role, 'partner shop')))
      ).length === 0
    )
      throw new RefusalError(
        422,
        'UNKNOWN_PARTNER',
        'This partner shop is not known.',
        'Choose one from the list.',
        { path: 'partnerId' },
      );
    const partRevisionId = plan.arms.map((arm) => assessed.subjects.get(arm.key)).find((id) => id) ?? null;
    if (plan.arms.every((arm) => assessed.byKey.get(arm.key)!.differences.length === 0))
      throw new RefusalError(
        422,
        'NOTHING_DIFFERS',
        'No arm differs from the baseline in anything.',
        'Say what is changed in an arm.',
        { path: 'arms' },
      );
    const baseline = plan.arms.find((arm) => arm.role === 'baseline')!;
    const tyres = assessed.byKey.get(baseline.key)!.configuration.tyres ?? (vehicle.wheels.trim() || null);
    if (tyres === null)
      throw new RefusalError(
        422,
        'TYRES_UNKNOWN',
        `The tyres of ${vehicle.tag} are not on record.`,
        'Look at the car and write them into its ledger or its record.',
        { path: 'vehicleId' },
      );
    const policy = await policyInForce(tx);
    const timing = {
      order: plan.order,
      arms: assessed.byKey,
      revisions: assessed.input.revisions,
      pullsPerRun: plan.pullsPerRun,
      warmUps: plan.warmUps,
      coolDownMinutes: plan.coolDownMinutes,
      remount: plan.remount,
      dynoHourly: dyno.hourlyRate,
      labourHourly: dyno.labourRate,
    };
    const firstPart = plan.arms.find((arm) => arm.role === 'part')!;
    const { fromRpm, toRpm, stepRpm } = plan.band;
    const calibrationId = assessed.byKey.get(firstPart.key)!.configuration.calibrationId;
    return {
      question: plan.question,
      fitmentId: plan.fitmentId,
      vehicleId,
      partRevisionId,
      dynoId,
      partnerId: plan.partnerId,
      standard: plan.standard,
      fromRpm,
      toRpm,
      stepRpm,
      smoothingRpm: policy.smoothingRpm,
      confidence: policy.confidence,
      guard: policy.guard,
      driftBound: dyno.driftBound ?? policy.driftBoundLpPerPull,
      metric: plan.metrics[0],
      metrics: plan.metrics,
      protocol: plan.protocol,
      runOrder: plan.order,
      pullsPerRun: plan.pullsPerRun,
      warmUps: plan.warmUps,
      remount: plan.remount,
      coolDownMinutes: plan.coolDownMinutes,
      gear: plan.gear,
      fuel: plan.fuel,
      calibration:
        calibrationId === null ? 'unchanged, stock' : assessed.input.names.calibration(calibrationId),
      tyres,
      controls: plan.controls,
      photographs: plan.photographs,
      logs: plan.logs,
      hours: planHours(timing),
      ...sessionBlocks(timing),
      notBefore: plan.notBefore,
      due: plan.due,
      priority: plan.priority,
    };
  }

  async function openForChange(tx: Queryable, person: Person, id: string) {
    await lockTest(tx, id);
    return findTest(tx, id, person);
  }

  return {
    /**
     * Creates a test with its arms and run sheet, or one for each vehicle or visit of a series; the plans
     * stay open until they are locked.
     */
    async create(person: Person, asked: PlanRequest): Promise<string[]> {
      const plan = await keptDeep(db, asked, person);
      const visits = [{ vehicleId: plan.vehicleId, dynoId: plan.dynoId }, ...plan.series];
      if (
        protocolOf(plan.protocol).series === 'vehicles' &&
        new Set(visits.map((v) => v.vehicleId)).size !== visits.length
      )
        throw new RefusalError(
          422,
          'VEHICLE_TWICE',
          'A vehicle is named twice in the series.',
          'Name each vehicle once; for another visit of one vehicle use “repeat”.',
          { path: 'series' },
        );
      const assessed = await Promise.all(
        visits.map((visit) => assessPlan(vehicleService, person, visit.vehicleId, plan)),
      );
      return db.transaction(async (tx) => {
        const ids: string[] = [];
        const seriesId = visits.length > 1 ? newId() : null;
        for (const [i, visit] of visits.entries()) {
          const id = newId();
          await tx.insert(tests).values({
            id,
            ...(await rowOf(tx, plan, visit.vehicleId, visit.dynoId, assessed[i])),
            seriesId,
            createdBy: person.id,
            createdAt: now(),
            updatedAt: now(),
          });
          await writeArms(tx, id, plan, assessed[i]);
          await recordAudit(tx, now(), person, 'created test', 'test', id, {
            question: plan.question,
            ...(seriesId ? { series: seriesId } : {}),
          });
          ids.push(id);
        }
        return ids;
      });
    },

    /** Replaces an unlocked plan as a whole. */
    async replace(person: Person, id: string, asked: PlanRequest): Promise<void> {
      const plan = await keptDeep(db, asked, person);
      const assessed = await assessPlan(vehicleService, person, plan.vehicleId, plan);
      await db.transaction(async (tx) => {
        const { test } = await openForChange(tx, person, id);
        if (test.lockedAt) throw conflict('PLAN_LOCKED', 'The plan is locked.', 'Amend it with a reason.');
        if (
          (
            await tx.execute(
              sql`select 1 from pull_files f join pulls p on p.id = f.pull_id where p.test_id = ${id} union all select 1 from air_readings a join pulls p on p.id = a.pull_id where p.test_id = ${id} limit 1`,
            )
          ).rows.length > 0
        ) {
          throw conflict(
            'CAPTURE_BEGUN',
            'Pulls or air readings have been captured for this plan.',
            'Plan a new test; what was captured stays with this one.',
          );
        }
        if (plan.series.length > 0)
          throw conflict(
            'SERIES_FIXED',
            'A series is made when the plan is first saved.',
            'Change each of its tests by itself.',
          );
        await tx
          .update(tests)
          .set({ ...(await rowOf(tx, plan, plan.vehicleId, plan.dynoId, assessed)), updatedAt: now() })
          .where(eq(tests.id, id));
        await writeArms(tx, id, plan, assessed);
        await tx.execute(sql`delete from bookings where test_id = ${id}`);
        await recordAudit(tx, now(), person, 'changed plan', 'test', id, { question: plan.question });
      });
    },

    /** Locks the plan: time, person and hash of everything planned, arms assessed against the vehicle as it is now. */
    async lock(person: Person, id: string): Promise<void> {
      await db.transaction(async (tx) => {
        const { test } = await openForChange(tx, person, id);
        if (test.lockedAt)
          throw conflict(
            'ALREADY_LOCKED',
            'The plan is locked already.',
            'A locked plan is amended, with a reason.',
          );
        const arms = await armsOf(tx, id);
        const assessed = await assessPlan(vehicleService, person, test.vehicleId, {
          arms: arms.map((a) => ({
            key: a.key,
            label: a.label,
            role: a.role,
            from: a.fromKey,
            changes: a.changes,
          })),
          fuel: test.fuel,
        });
        const stops = [
          ...assessed.assessment.baseline.problems,
          ...assessed.assessment.parts.flatMap((p) => p.problems),
        ].filter((p) => p.severity === 'stop');
        if (stops.length > 0)
          throw conflict(
            'PLAN_HAS_STOPS',
            `The plan cannot be run as it is: ${stops[0].text}`,
            stops[0].mend,
            { stops: stops.map((s) => s.text) },
          );
        for (const arm of arms) {
          const known = assessed.byKey.get(arm.key)!;
          await tx
            .update(testArms)
            .set({
              differences: [...known.differences],
              scope: arm.role === 'baseline' ? assessed.assessment.baseline.stock.stock : known.scope,
              scopeText: arm.role === 'baseline' ? baselineText(assessed.assessment) : known.scopeText,
            })
            .where(and(eq(testArms.testId, id), eq(testArms.key, arm.key)));
        }
        const content = await planContent(tx, test);
        const planHash = hashOf(content);
        await tx
          .update(tests)
          .set({ lockedAt: now(), lockedBy: person.id, planHash, lockedPlan: content, updatedAt: now() })
          .where(eq(tests.id, id));
        await recordAudit(tx, now(), person, 'locked plan', 'test', id, { planHash });
      });
    },

    /** Changes a locked plan, with a reason; what was locked stays readable beside it. */
    async amend(
      person: Person,
      id: string,
      request: { reason: string; changes: AmendRequest['changes'] },
    ): Promise<void> {
      await db.transaction(async (tx) => {
        const { test } = await openForChange(tx, person, id);
        if (!test.lockedAt)
          throw conflict(
            'NOT_LOCKED',
            'The plan is not locked.',
            'Change it directly; an amendment is for a locked plan.',
          );
        const number = test.amendmentCount + 1;
        const reason = await kept(tx, request.reason, person);
        const { addedRun, repeatedPull, ...fields } = await keptDeep(tx, request.changes, person);
        const changes = Object.entries(fields).flatMap(([field, to]) => {
          const from = shownField(field, currentField(test, field));
          const after = shownField(field, to);
          return to === undefined || from === after ? [] : [{ field, from, to: after }];
        });
        const arms = await armsOf(tx, id);
        if (addedRun) {
          const arm = arms.find((a) => a.key === addedRun.arm);
          if (!arm) throw notFound('arm');
          changes.push({
            field: 'addedRun',
            from: 'as planned',
            to: `one more run of ${arm.label}${addedRun.newMount ? ', strapped down anew' : ''}: ${test.warmUps} warm-up and ${test.pullsPerRun} counted pulls`,
          });
        }
        const sheet = await tx.select().from(pulls).where(eq(pulls.testId, id)).orderBy(asc(pulls.position));
        const repeat = repeatedPull ? await repeatOf(tx, sheet, repeatedPull.pullId) : undefined;
        if (repeat)
          changes.push({
            field: 'repeatedPull',
            from: `${repeat.of.label}, left out (${repeat.of.excludedReason})`,
            to: `${repeat.pull.label} at the end of its run, position ${repeat.pull.position}`,
          });
        if (changes.length === 0)
          throw new RefusalError(
            422,
            'NOTHING_CHANGED',
            'Nothing differs from the plan as it is.',
            'Change something, or leave it.',
          );
        const set = {
          ...(fields.question === undefined ? {} : { question: fields.question }),
          ...(fields.gear === undefined ? {} : { gear: fields.gear }),
          ...(fields.fuel === undefined ? {} : { fuel: fields.fuel }),
          ...(fields.metrics === undefined ? {} : { metrics: fields.metrics, metric: fields.metrics[0] }),
          ...(fields.band === undefined ? {} : fields.band),
          ...(fields.standard === undefined ? {} : { standard: fields.standard }),
          ...(fields.controls === undefined ? {} : { controls: fields.controls }),
          ...(fields.coolDownMinutes === undefined ? {} : { coolDownMinutes: fields.coolDownMinutes }),
          ...(fields.photographs === undefined ? {} : { photographs: fields.photographs }),
          ...(fields.logs === undefined ? {} : { logs: fields.logs }),
          ...(addedRun ? { runOrder: [...test.runOrder, addedRun.arm] } : {}),
        };
        const added = addedRun
          ? runPulls(
              sheet.length,
              sheet.filter((p) => p.counted).length,
              Math.max(...sheet.map((p) => p.run)) + 1,
              addedRun.arm,
              Math.max(...sheet.map((p) => p.mount)) + (addedRun.newMount || test.remount ? 1 : 0),
              test.pullsPerRun,
              test.warmUps,
            )
          : [];
        const planHash = hashOf({
          ...(await planContent(tx, { ...test, ...set })),
          added: [...added, ...(repeat ? [repeat.pull] : [])],
          amendment: number,
          reason,
        });
        await tx.insert(planAmendments).values({
          testId: id,
          number,
          at: now(),
          personId: person.id,
          reason,
          changes,
          planHash,
        });
        await tx
          .update(tests)
          .set({ ...set, amendmentCount: number, updatedAt: now() })
          .where(eq(tests.id, id));
        if (repeat) {
          // What comes after moves down the sheet to make room.
          await tx
            .update(pulls)
            .set({ position: sql`${pulls.position} + 1`, movedBy: number })
            .where(and(eq(pulls.testId, id), gte(pulls.position, repeat.pull.position)));
          await tx.insert(pulls).values({
            id: newId(),
            testId: id,
            ...repeat.pull,
            repeats: repeat.of.id,
            amendment: number,
          });
        }
        if (added.length > 0)
          await tx
            .insert(pulls)
            .values(added.map((pull) => ({ id: newId(), testId: id, ...pull, amendment: number })));
        await recordAudit(tx, now(), person, 'amended plan', 'test', id, {
          amendment: number,
          reason,
          changes,
        });
        await planAmended(tx, id, person, `the plan was amended (${changes.map((c) => c.field).join(', ')})`);
      });
    },

    amendments: (id: string): Promise<AmendmentShown[]> => amendmentsShown(db, id),
  };
}

type PullRecord = typeof pulls.$inferSelect;

/** The pull that repeats a left-out one at the end of its run; refused once a later run has been recorded. */
async function repeatOf(tx: Queryable, sheet: readonly PullRecord[], pullId: string) {
  const of = sheet.find((p) => p.id === pullId);
  if (!of) throw notFound('pull');
  if (!of.counted || !of.excludedReason)
    throw conflict(
      'NOT_LEFT_OUT',
      `Pull ${of.label} is not left out, so there is nothing to repeat.`,
      'Exclude it with its cause first.',
    );
  if (sheet.some((p) => p.repeats === pullId))
    throw conflict(
      'REPEATED_ALREADY',
      `Pull ${of.label} has been repeated already.`,
      'Exclude the repeat too, if it failed, and repeat that one.',
    );
  const last = sheet.filter((p) => p.run === of.run).at(-1)!;
  // Which pulls have been recorded is the next stage's to know; the table is asked, its code is not.
  const { rows: recorded } = await tx.execute<{ label: string }>(
    sql`select p.label from pulls p join pull_files f on f.pull_id = p.id where p.test_id = ${of.testId} and p.position > ${last.position} limit 1`,
  );
  if (recorded.length > 0)
    throw conflict(
      'RUN_IS_OVER',
      `The run of ${of.label} is over: ${recorded[0].label} of a later run has been recorded.`,
      'Add a run at the end instead.',
    );
  return {
    of,
    pull: {
      position: last.position + 1,
      label: `${of.label}r`,
      run: of.run,
      arm: of.arm,
      mount: of.mount,
      counted: true,
    },
  };
}

export const armsOf = (db: Queryable, testId: string) =>
  db.select().from(testArms).where(eq(testArms.testId, testId)).orderBy(asc(testArms.position));
export type ArmRow = typeof testArms.$inferSelect;

/** Arms of many tests, by test. */
export async function armsByTest(db: Queryable, ids: readonly string[]): Promise<Map<string, ArmRow[]>> {
  const out = new Map<string, ArmRow[]>();
  if (ids.length === 0) return out;
  for (const arm of await db
    .select()
    .from(testArms)
    .where(inArray(testArms.testId, [...ids]))
    .orderBy(asc(testArms.testId), asc(testArms.position)))
    out.set(arm.testId, [...(out.get(arm.testId) ?? []), arm]);
  return out;
}

/** Amendments of a test as people read them. */
export async function amendmentsShown(db: Queryable, testId: string): Promise<AmendmentShown[]> {
  const rows = await db
    .select({ amendment: planAmendments, person: people.name })
    .from(planAmendments)
    .innerJoin(people, eq(people.id, planAmendments.personId))
    .where(eq(planAmendments.testId, testId))
    .orderBy(asc(planAmendments.number));
  return rows.map(({ amendment, person }) => ({
    number: amendment.number,
    at: amendment.at.toISOString(),
    person,
    reason: amendment.reason,
    planHash: amendment.planHash,
    changes: amendment.changes as AmendmentShown['changes'],
  }));
}

/** Amendments of a test as the gates weigh them. */
export async function amendmentsOf(db: Queryable, testId: string): Promise<Amendment[]> {
  return (
    await db
      .select()
      .from(planAmendments)
      .where(eq(planAmendments.testId, testId))
      .orderBy(desc(planAmendments.number))
  ).map((a) => ({
    number: a.number,
    at: a.at.toISOString(),
    fields: a.changes.map((c) => c.field),
    reason: a.reason,
  }));
}

/** Columns of a test that the hash of its plan covers, in the order it covers them. */
const HASHED = [
  'question',
  'fitmentId',
  'vehicleId',
  'partRevisionId',
  'dynoId',
  'standard',
  'fromRpm',
  'toRpm',
  'stepRpm',
  'smoothingRpm',
  'confidence',
  'guard',
  'driftBound',
  'metrics',
  'protocol',
  'runOrder',
  'pullsPerRun',
  'warmUps',
  'remount',
  'coolDownMinutes',
  'gear',
  'fuel',
  'calibration',
  'tyres',
  'controls',
  'photographs',
  'logs',
] as const satisfies readonly (keyof typeof tests.$inferSelect)[];

/** What the hash of a plan is taken over, in a fixed order; kept whole beside the hash. */
async function planContent(tx: Queryable, test: typeof tests.$inferSelect): Promise<Record<string, unknown>> {
  const arms = (await armsOf(tx, test.id)).map(
    ({ key, label, role, fromKey, changes, partRevisionId, scope, scopeText, differences }) => ({
      key,
      label,
      role,
      fromKey,
      changes,
      partRevisionId,
      scope,
      scopeText,
      differences,
    }),
  );
  const sheet = await tx
    .select({ position: pulls.position, arm: pulls.arm, mount: pulls.mount, counted: pulls.counted })
    .from(pulls)
    .where(eq(pulls.testId, test.id))
    .orderBy(asc(pulls.position));
  const [dyno] = await tx.select({ version: dynos.version }).from(dynos).where(eq(dynos.id, test.dynoId));
  const [fitment] = await tx
    .select({ version: fitments.version })
    .from(fitments)
    .where(eq(fitments.id, test.fitmentId));
  const [entry] = await tx
    .select({ number: max(dynoVersions.number) })
    .from(dynoVersions)
    .where(eq(dynoVersions.dynoId, test.dynoId));
  const plannedOn = {
    dyno: { record: dyno?.version, facts: entry?.number },
    fitment: fitment?.version,
    policy: (await policyInForce(tx)).version,
  };
  return { ...Object.fromEntries(HASHED.map((field) => [field, test[field]])), arms, sheet, plannedOn };
}

function currentField(test: typeof tests.$inferSelect, field: string): unknown {
  return field === 'band'
    ? { fromRpm: test.fromRpm, toRpm: test.toRpm, stepRpm: test.stepRpm }
    : (test as unknown as Record<string, unknown>)[field];
}
/** A field of the plan in words, for the list of amendments. */
function shownField(field: string, value: unknown): string {
  if (field === 'band') {
    const b = value as { fromRpm: number; toRpm: number; stepRpm: number };
    return `${b.fromRpm} to ${b.toRpm} rpm, every ${b.stepRpm}`;
  }
  if (field === 'metrics')
    return (value as (keyof typeof METRIC_NAMES)[]).map((m) => METRIC_NAMES[m]).join('; ');
  if (field === 'standard') return STANDARD_NAMES[value as keyof typeof STANDARD_NAMES];
  if (field === 'controls')
    return (
      (value as { quantity: string; target: number | null; tolerance: number; unit: string }[])
        .map((c) => `${c.quantity} ${c.target === null ? 'equal' : c.target} ± ${c.tolerance} ${c.unit}`)
        .join('; ') || 'none'
    );
  if (field === 'coolDownMinutes') return `${String(value)} min`;
  return Array.isArray(value) ? value.join(', ') || 'none' : String(value);
}
