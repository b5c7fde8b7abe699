import { isProduct, claimSubject } from '../../core/plan/subject.ts';
import type { ClaimFacts } from '../../core/publish/claim.ts';
import type { ClaimScope } from '../../core/plan/arm-types.ts';
import type { PartOption } from '../../core/register/parts.ts';
import { notAsSold } from '../../core/register/sold-setting.ts';
import type { TestRow } from '../plan/repository.ts';
import type { ArmRow } from '../plan/arms.ts';

/** Options of the revisions that the arms of a test put on the car, by revision. */
export type OptionsOf = ReadonlyMap<string, readonly PartOption[]>;

/**
 * What a claim about an arm would name: everything that differs from the baseline, with option settings, and the
 * baseline where it is not stock. Names of parts stand as references; they are resolved for whoever reads them.
 */
export function claimFacts(
  row: TestRow,
  arms: readonly ArmRow[],
  arm: ArmRow,
  options: OptionsOf,
): ClaimFacts {
  const baseline = arms.find((a) => a.role === 'baseline');
  const against = baseline?.scope === 'no' ? baseline.scopeText : null;
  const subject = claimSubject({
    scope: arm.scope as ClaimScope,
    differences: arm.differences,
    label: arm.label,
    against,
  });
  const calibration = arm.differences.find((d) => d.subject === 'calibration');
  return {
    subject,
    product: isProduct(subject.kind),
    notAsSold: notAsSold(
      arm,
      arms.filter((a) => a.role === 'part'),
      options,
    ),
    fitment: `${row.fitment.maker} ${row.fitment.model}, ${row.fitment.outputVariant}`,
    vehicle: row.vehicle.tag,
    fuel: arm.differences.find((d) => d.subject === 'fuel')?.to ?? row.test.fuel,
    calibration: calibration?.to ?? row.test.calibration,
    gear: row.test.gear,
    tyres: arm.differences.find((d) => d.subject === 'tyres')?.to ?? row.test.tyres,
    dyno: `${row.dyno.name}, ${row.dyno.kind}`,
  };
}
