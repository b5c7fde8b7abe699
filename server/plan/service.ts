import { createHash } from 'node:crypto';
import { asc, eq, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { PROTOCOLS, type CreateTestRequest } from '../../contract/plan/test.ts';
import { DEFAULT_POLICY } from '../../core/base/policy.ts';
import { recordAudit } from '../base/audit.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, RefusalError } from '../base/refusals.ts';
import { partRevisions, vehicles, dynos } from '../register/tables.ts';
import { findTest } from './repository.ts';
import { pulls, tests } from './tables.ts';

export type PlanService = ReturnType<typeof createPlanService>;

/** Pulls of a run sheet in order: warm-up pulls before every run, counted pulls numbered through the session. */
export function runSheet(plan: Pick<CreateTestRequest, 'protocol' | 'pullsPerRun' | 'warmUps' | 'remount'>) {
  const sheet: { position: number; label: string; run: number; arm: 'stock' | 'part'; mount: number; counted: boolean }[] = [];
  let counted = 0;
  PROTOCOLS[plan.protocol].arms.forEach((arm, run) => {
    for (let k = 0; k < plan.warmUps + plan.pullsPerRun; k++) {
      const isCounted = k >= plan.warmUps;
      if (isCounted) counted += 1;
      const position = sheet.length + 1;
      sheet.push({ position, label: isCounted ? `p${counted}` : `w${position}`, run: run + 1, arm, mount: plan.remount ? run + 1 : 1, counted: isCounted });
    }
  });
  return sheet;
}

export function createPlanService({ db, now, newId }: Needs) {
  return {
    /** Creates a test with its run sheet; the plan stays open until it is locked. */
    async create(person: Person, plan: CreateTestRequest): Promise<string> {
      return db.transaction(async (tx) => {
        const [vehicle] = await tx.select().from(vehicles).where(eq(vehicles.id, plan.vehicleId));
        if (!vehicle || vehicle.fitmentId !== plan.fitmentId) throw new RefusalError(422, 'VEHICLE_NOT_OF_FITMENT', 'The vehicle is not of this fitment.', 'Choose a vehicle of the fitment, or the vehicle’s own fitment.', { path: 'vehicleId' });
        if ((await tx.select().from(partRevisions).where(eq(partRevisions.id, plan.partRevisionId))).length === 0) throw new RefusalError(422, 'UNKNOWN_PART', 'This part revision is not in the register.', 'Choose one from the list.', { path: 'partRevisionId' });
        if ((await tx.select().from(dynos).where(eq(dynos.id, plan.dynoId))).length === 0) throw new RefusalError(422, 'UNKNOWN_DYNO', 'This dyno is not in the register.', 'Choose one from the list.', { path: 'dynoId' });
        const id = newId();
        const { band, ...rest } = plan;
        await tx.insert(tests).values({
          id, ...rest, ...band, smoothingRpm: DEFAULT_POLICY.smoothingRpm, confidence: DEFAULT_POLICY.confidence, driftBound: DEFAULT_POLICY.driftBoundLpPerPull, createdBy: person.id, createdAt: now(), updatedAt: now(),
        });
        await tx.insert(pulls).values(runSheet(plan).map((pull) => ({ id: newId(), testId: id, ...pull })));
        await recordAudit(tx, now(), person, 'created test', 'test', id, { question: plan.question });
        return id;
      });
    },

    /** Locks the plan: time, person and hash of everything planned. */
    async lock(person: Person, id: string): Promise<void> {
      await db.transaction(async (tx) => {
        await tx.execute(sql`select 1 from tests where id = ${id} for update`);
        const { test } = await findTest(tx, id, person);
        if (test.lockedAt) throw conflict('ALREADY_LOCKED', 'The plan is locked already.', 'A locked plan stays as it is.');
        const sheet = await tx.select({ position: pulls.position, arm: pulls.arm, mount: pulls.mount, counted: pulls.counted }).from(pulls).where(eq(pulls.testId, id)).orderBy(asc(pulls.position));
        const planHash = createHash('sha256').update(JSON.stringify(planContent(test, sheet))).digest('hex');
        await tx.update(tests).set({ lockedAt: now(), lockedBy: person.id, planHash, updatedAt: now() }).where(eq(tests.id, id));
        await recordAudit(tx, now(), person, 'locked plan', 'test', id, { planHash });
      });
    },
  };
}

/** What the hash of a plan is taken over, in a fixed order. */
function planContent(test: typeof tests.$inferSelect, sheet: readonly object[]): object {
  const { question, fitmentId, vehicleId, partRevisionId, dynoId, standard, fromRpm, toRpm, stepRpm, smoothingRpm, confidence, driftBound, metric, protocol, pullsPerRun, warmUps, remount, gear, fuel, calibration } = test;
  return { question, fitmentId, vehicleId, partRevisionId, dynoId, standard, fromRpm, toRpm, stepRpm, smoothingRpm, confidence, driftBound, metric, protocol, pullsPerRun, warmUps, remount, gear, fuel, calibration, sheet };
}
