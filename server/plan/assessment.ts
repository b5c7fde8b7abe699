import type { Person } from '../../contract/base/http.ts';
import type { PlanRequest } from '../../contract/plan/test.ts';
import { armsInput } from '../../contract/plan/arms-input.ts';
import type { Planning } from '../../contract/register/register.ts';
import { assessArms } from '../../core/plan/arms.ts';
import { type ArmsAssessment, type ArmsInput, type AssessedArm } from '../../core/plan/arm-types.ts';
import { partReference } from '../../core/register/references.ts';
import type { Deviation, StockAnswer } from '../../core/register/ledger.ts';
import { RefusalError } from '../base/refusals.ts';
import type { VehicleService } from '../register/vehicles.ts';

export interface Assessed {
  readonly planning: Planning;
  readonly input: ArmsInput;
  readonly assessment: ArmsAssessment;
  readonly byKey: ReadonlyMap<string, AssessedArm>;
  readonly subjects: ReadonlyMap<string, string | null>;
}

/**
 * Assesses the arms of a plan against the vehicle as it is now. Parts are named by reference: what is kept
 * names none, and each reader is given the name they may know.
 */
export async function assessPlan(
  vehicles: VehicleService,
  person: Person,
  vehicleId: string,
  plan: Pick<PlanRequest, 'arms' | 'fuel'>,
): Promise<Assessed> {
  const known = await vehicles.planning({ ...person, clearance: true }, vehicleId);
  const planning = {
    ...known,
    revisions: known.revisions.map((r) => ({ ...r, name: partReference(r.partId) })),
  };
  const input = armsInput(planning, plan.arms, plan.fuel);
  for (const [i, arm] of plan.arms.entries()) {
    for (const change of arm.changes) {
      if (
        change.kind === 'part fitted' &&
        input.revisions.get(change.partRevisionId)?.category !== change.category
      )
        throw new RefusalError(
          422,
          'UNKNOWN_PART',
          `Arm “${arm.label}” names a part that is not in the register for this vehicle.`,
          'Choose one from the list, or list the part for the fitment first.',
          { path: `arms.${i}` },
        );
      if (
        change.kind === 'calibration' &&
        change.calibrationId &&
        !input.calibrations.has(change.calibrationId)
      )
        throw new RefusalError(
          422,
          'UNKNOWN_CALIBRATION',
          `Arm “${arm.label}” names a calibration that is not in the register for this fitment.`,
          'Choose one from the list.',
          { path: `arms.${i}` },
        );
    }
  }
  const assessment = assessArms(input);
  const all = [assessment.baseline, ...assessment.parts];
  return {
    planning,
    input,
    assessment,
    byKey: new Map(all.map((arm) => [arm.key, arm])),
    subjects: new Map(all.map((arm) => [arm.key, subjectOf(arm, assessment.baseline, input)])),
  };
}

/** The revision an arm is about: the fitted part that no other one merely needs; null where only the calibration differs. */
function subjectOf(arm: AssessedArm, baseline: AssessedArm, { revisions }: ArmsInput): string | null {
  if (arm.key === baseline.key) return null;
  const changed = Object.entries(arm.configuration.parts)
    .filter(([category, fitted]) => {
      const before = baseline.configuration.parts[category as keyof typeof baseline.configuration.parts];
      return (
        before?.partRevisionId !== fitted.partRevisionId ||
        JSON.stringify(before.settings) !== JSON.stringify(fitted.settings)
      );
    })
    .map(([, fitted]) => fitted.partRevisionId);
  const needed = new Set(changed.flatMap((id) => revisions.get(id)?.needs.partIds ?? []));
  return changed.find((id) => !needed.has(revisions.get(id)?.partId ?? '')) ?? changed[0] ?? null;
}

/** How the baseline is named in a claim. */
export const baselineText = ({ baseline }: ArmsAssessment): string =>
  baseline.stock ? baselineNamed(baseline.stock) : 'stock';
export const baselineNamed = (stock: Pick<StockAnswer, 'stock' | 'notStock'>): string => {
  const list = (deviations: readonly Deviation[]): string => deviations.map((d) => d.text).join('; ');
  return stock.stock === 'no' ? `the same vehicle with ${list(stock.notStock)}` : 'stock';
};
