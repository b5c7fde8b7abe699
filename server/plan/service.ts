import { and, eq, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { AmendmentShown } from '../../contract/plan/amendment.ts';
import type { AmendRequest, PlanRequest } from '../../contract/plan/test.ts';
import { protocolOf } from '../../core/plan/protocols.ts';
import type { PlannedSlope } from '../../core/plan/planned-slope.ts';
import type { StartSensor } from '../../core/register/temperature-slope.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { lockTest } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, RefusalError } from '../base/refusals.ts';
import { keptDeep } from '../register/references.ts';
import type { VehicleService } from '../register/vehicles.ts';
import { amendPlan, type PlanAmended } from './amend.ts';
import { armsOf } from './arms.ts';
import { assessPlan, baselineText } from './assessment.ts';
import { amendmentsShown, documentOf, fieldsOf, keepVersion, sheetOf } from './plan-document.ts';
import { findTest } from './repository.ts';
import { testArms, tests } from './tables.ts';
import { columnsOfPlan, partnerIsOne, writeArms } from './write-plan.ts';

/** Nobody changes or locks a plan that is another than the one they have read. */
function refuseUnseen(test: { updatedAt: Date }, basedOn: string | undefined): void {
  if (basedOn !== undefined && test.updatedAt.getTime() !== new Date(basedOn).getTime())
    throw conflict(
      'PLAN_CHANGED',
      'Somebody else has changed the plan since you opened it.',
      'What they changed is shown; look at it and do it again.',
    );
}

export type PlanService = ReturnType<typeof createPlanService>;
/** The slope that is registered for a plan at this moment; told by a later stage, which knows results. */
export type RegisteredSlope = (
  tx: Queryable,
  plan: { id: string; dynoId: string; vehicleId: string; startSensor: StartSensor },
) => Promise<PlannedSlope | null>;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createPlanService(
  needs: Needs,
  vehicleService: VehicleService,
  planAmended: PlanAmended,
  registeredSlope: RegisteredSlope,
) {
  const { db, now, newId } = needs;
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
            ...(await columnsOfPlan(tx, plan, visit.vehicleId, visit.dynoId, assessed[i])),
            seriesId,
            createdBy: person.id,
            createdAt: now(),
            updatedAt: now(),
          });
          await writeArms(tx, needs, id, plan, assessed[i]);
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
    async replace(person: Person, id: string, asked: PlanRequest, basedOn?: string): Promise<void> {
      const plan = await keptDeep(db, asked, person);
      const assessed = await assessPlan(vehicleService, person, plan.vehicleId, plan);
      await db.transaction(async (tx) => {
        const { test } = await openForChange(tx, person, id);
        if (test.lockedAt) throw conflict('PLAN_LOCKED', 'The plan is locked.', 'Amend it with a reason.');
        refuseUnseen(test, basedOn);
        if (
          (
            await tx.execute(
              sql`select 1 from pull_files f join pulls p on p.id = f.pull_id where p.test_id = ${id} union all
                select 1 from air_readings a join pulls p on p.id = a.pull_id where p.test_id = ${id} limit 1`,
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
          .set({
            ...(await columnsOfPlan(tx, plan, plan.vehicleId, plan.dynoId, assessed)),
            updatedAt: now(),
          })
          .where(eq(tests.id, id));
        await writeArms(tx, needs, id, plan, assessed);
        await tx.execute(sql`delete from bookings where test_id = ${id}`);
        await recordAudit(tx, now(), person, 'changed plan', 'test', id, { question: plan.question });
      });
    },

    /** Says who is to run a test; as long as its plan is not locked. */
    async assign(person: Person, id: string, partnerId: string | null): Promise<void> {
      await db.transaction(async (tx) => {
        const { test } = await openForChange(tx, person, id);
        if (test.lockedAt)
          throw conflict('PLAN_LOCKED', 'The plan is locked.', 'Plan a new test for the other shop.');
        await partnerIsOne(tx, partnerId);
        await tx.update(tests).set({ partnerId, updatedAt: now() }).where(eq(tests.id, id));
        await recordAudit(tx, now(), person, 'assigned test', 'test', id, { partnerId });
      });
    },

    /** Locks the plan: time, person and hash of everything planned, arms assessed against the vehicle as it is now. */
    async lock(person: Person, id: string, basedOn?: string): Promise<void> {
      await db.transaction(async (tx) => {
        const { test } = await openForChange(tx, person, id);
        if (test.lockedAt)
          throw conflict(
            'ALREADY_LOCKED',
            'The plan is locked already.',
            'A locked plan is amended, with a reason.',
          );
        refuseUnseen(test, basedOn);
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
        const { startSensor } = test;
        const startSlope = startSensor && (await registeredSlope(tx, { ...test, startSensor }));
        const document = await documentOf(tx, id, {
          version: 1,
          reason: null,
          fields: { ...fieldsOf(test), startSlope },
          sheet: await sheetOf(tx, id),
        });
        const planHash = await keepVersion(tx, id, document, { at: now(), person });
        await tx
          .update(tests)
          .set({ lockedAt: now(), lockedBy: person.id, planHash, startSlope, updatedAt: now() })
          .where(eq(tests.id, id));
        await recordAudit(tx, now(), person, 'locked plan', 'test', id, { planHash });
      });
    },

    /** Changes a locked plan, with a reason; what was locked stays readable beside it. */
    async amend(person: Person, id: string, request: AmendRequest): Promise<void> {
      await db.transaction(async (tx) => {
        const { test } = await openForChange(tx, person, id);
        if (!test.lockedAt)
          throw conflict(
            'NOT_LOCKED',
            'The plan is not locked.',
            'Change it directly; an amendment is for a locked plan.',
          );
        await amendPlan(tx, needs, person, test, request, planAmended);
      });
    },

    amendments: (id: string): Promise<AmendmentShown[]> => amendmentsShown(db, id),
  };
}
