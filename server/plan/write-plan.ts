/** A plan as it is asked for, written into the columns, arms and run sheet of a test. */
import { and, eq } from 'drizzle-orm';
import type { PlanRequest } from '../../contract/plan/test.ts';
import { standardOf } from '../../core/base/policy.ts';
import { planHours, sessionBlocks } from '../../core/plan/hours.ts';
import { runSheet } from '../../core/plan/protocols.ts';
import type { Queryable } from '../base/db.ts';
import { policyInForce } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { RefusalError } from '../base/refusals.ts';
import { people } from '../base/tables.ts';
import { stepForGood } from '../../core/register/for-good.ts';
import { protocolOf } from '../../core/plan/protocols.ts';
import { CONTROL_CHECKS } from '../../core/plan/one-way.ts';
import { controlVehicles, dynos, vehicles } from '../register/tables.ts';
import { baselineText, type Assessed } from './assessment.ts';
import { pulls, testArms } from './tables.ts';

/** What cannot be planned, with the field it lies in. */
const refuse = (code: string, message: string, mend: string, path: string): RefusalError =>
  new RefusalError(422, code, message, mend, { path });

/** Writes the arms and the run sheet of an unlocked plan anew. */
export async function writeArms(
  tx: Queryable,
  { newId }: Pick<Needs, 'newId'>,
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

async function vehicleOf(tx: Queryable, plan: PlanRequest, vehicleId: string) {
  const [vehicle] = await tx.select().from(vehicles).where(eq(vehicles.id, vehicleId));
  if (!vehicle || vehicle.fitmentId !== plan.fitmentId)
    throw refuse(
      'VEHICLE_NOT_OF_FITMENT',
      'The vehicle is not of this fitment.',
      'Choose a vehicle of the fitment, or the vehicle’s own fitment.',
      'vehicleId',
    );
  return vehicle;
}
async function dynoOf(tx: Queryable, dynoId: string) {
  const [dyno] = await tx.select().from(dynos).where(eq(dynos.id, dynoId));
  if (!dyno)
    throw refuse('UNKNOWN_DYNO', 'This dyno is not in the register.', 'Choose one from the list.', 'dynoId');
  return dyno;
}
export async function partnerIsOne(tx: Queryable, partnerId: string | null): Promise<void> {
  if (partnerId === null) return;
  const found = await tx
    .select({ id: people.id })
    .from(people)
    .where(and(eq(people.id, partnerId), eq(people.role, 'partner shop')));
  if (found.length === 0)
    throw refuse(
      'UNKNOWN_PARTNER',
      'This partner shop is not known.',
      'Choose one from the list.',
      'partnerId',
    );
}
/** Tyres of the baseline: by the ledger, else by the record of the vehicle. */
function tyresOf(plan: PlanRequest, assessed: Assessed, vehicle: { tag: string; wheels: string }): string {
  const baseline = plan.arms.find((arm) => arm.role === 'baseline')!;
  const tyres = assessed.byKey.get(baseline.key)!.configuration.tyres ?? (vehicle.wheels.trim() || null);
  if (tyres === null)
    throw refuse(
      'TYRES_UNKNOWN',
      `The tyres of ${vehicle.tag} are not on record.`,
      'Look at the car and write them into its ledger or its record.',
      'vehicleId',
    );
  return tyres;
}
/** What the first arm under test runs on, in words. */
function calibrationOf(plan: PlanRequest, assessed: Assessed): string {
  const firstPart = plan.arms.find((arm) => arm.role === 'part')!;
  const { calibrationId } = assessed.byKey.get(firstPart.key)!.configuration;
  return calibrationId === null ? 'unchanged, stock' : assessed.input.names.calibration(calibrationId);
}

/** A plan without return is for what cannot come off again, on a dyno that knows its mountings and days. */
async function oneWayHolds(
  tx: Queryable,
  plan: PlanRequest,
  vehicleId: string,
  dynoId: string,
  { planning }: Assessed,
): Promise<void> {
  if (plan.controlId === null) return;
  const fitted = new Set(
    plan.arms.flatMap((arm) =>
      arm.changes.flatMap((c) => (c.kind === 'part fitted' ? [c.partRevisionId] : [])),
    ),
  );
  if (!planning.revisions.some((r) => fitted.has(r.id) && stepForGood(r.irreversibleSteps) !== null))
    throw refuse(
      'PART_CAN_COME_OFF',
      'By the register no part of this plan has a step that cannot be undone.',
      'Return to the baseline (A-B-A); or write the step into the part’s revision, if there is one.',
      'protocol',
    );
  const [control] = await tx
    .select()
    .from(controlVehicles)
    .where(and(eq(controlVehicles.id, plan.controlId), eq(controlVehicles.dynoId, dynoId)));
  if (!control)
    throw refuse(
      'NOT_CONTROL_OF_DYNO',
      'This is no control vehicle of the dyno.',
      'Choose one of the dyno’s control vehicles.',
      'controlId',
    );
  if (control.vehicleId === vehicleId)
    throw refuse(
      'CONTROL_IS_TESTED',
      'The car under test cannot be its own control.',
      'Choose another control vehicle.',
      'controlId',
    );
}

/** Columns of a test with this plan on one vehicle and dyno; refused where it cannot be run. */
export async function columnsOfPlan(
  tx: Queryable,
  plan: PlanRequest,
  vehicleId: string,
  dynoId: string,
  assessed: Assessed,
) {
  const vehicle = await vehicleOf(tx, plan, vehicleId);
  const dyno = await dynoOf(tx, dynoId);
  await partnerIsOne(tx, plan.partnerId);
  if (plan.arms.every((arm) => assessed.byKey.get(arm.key)!.differences.length === 0))
    throw refuse(
      'NOTHING_DIFFERS',
      'No arm differs from the baseline in anything.',
      'Say what is changed in an arm.',
      'arms',
    );
  await oneWayHolds(tx, plan, vehicleId, dynoId, assessed);
  const tyres = tyresOf(plan, assessed, vehicle);
  const policy = await policyInForce(tx);
  const timing = {
    order: plan.order,
    arms: assessed.byKey,
    revisions: assessed.input.revisions,
    pullsPerRun: plan.pullsPerRun,
    warmUps: plan.warmUps,
    coolDownMinutes: plan.coolDownMinutes,
    remount: plan.remount,
    ...(protocolOf(plan.protocol).oneWay ? { controlChecks: CONTROL_CHECKS } : {}),
    dynoHourly: dyno.hourlyRate,
    labourHourly: dyno.labourRate,
  };
  // What is written as it was asked for; the rest is worked out below.
  const { band, order, arms, series: _series, ...asked } = plan;
  return {
    ...asked,
    ...band,
    vehicleId,
    dynoId,
    runOrder: order,
    standard: plan.standard ?? standardOf(policy),
    metric: plan.metrics[0],
    partRevisionId: arms.map((arm) => assessed.subjects.get(arm.key)).find((id) => id) ?? null,
    smoothingRpm: policy.smoothingRpm,
    confidence: policy.confidence,
    guard: policy.guard,
    boostedSchool: policy.boostedSchool,
    driftBound: dyno.driftBound ?? policy.driftBoundLpPerPull,
    calibration: calibrationOf(plan, assessed),
    tyres,
    hours: planHours(timing),
    ...sessionBlocks(timing),
  };
}
