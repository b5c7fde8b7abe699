import type { ClaimFacts } from '../../core/publish/claim.ts';
import type { TestRow } from '../plan/repository.ts';
import type { ArmRow } from '../plan/service.ts';

/**
 * What a claim about an arm would name, its option settings with it. Where more than the part differs, everything that differs is
 * the subject; surroundings (fuel, tyres) are told with it.
 * @param partNames names of revisions as the reader may see them
 */
export function claimFacts(
  row: TestRow,
  arms: readonly ArmRow[],
  arm: ArmRow,
  partNames: ReadonlyMap<string, string>,
): ClaimFacts {
  const baseline = arms.find((a) => a.role === 'baseline');
  const ownName = partNames.get(arm.partRevisionId ?? row.revision.id) ?? arm.label;
  const parts = arm.differences.filter(
    (d) => d.subject !== 'fuel' && d.subject !== 'tyres' && d.subject !== 'other change',
  );
  const calibration = arm.differences.find((d) => d.subject === 'calibration');
  const rest = arm.differences
    .filter((d) => d.subject === 'fuel' || d.subject === 'tyres' || d.subject === 'other change')
    .map((d) => `${d.subject} ${d.to}`);
  const named = parts.map((d) =>
    d.subject === 'calibration'
      ? `calibration ${d.to}`
      : d.to === 'stock'
        ? `${d.subject} back to stock`
        : d.to,
  );
  return {
    part: named.length === 0 ? ownName : [...named, ...rest].join(' with '),
    against: baseline?.scope === 'no' ? baseline.scopeText : 'stock',
    fitment: `${row.fitment.maker} ${row.fitment.model}, ${row.fitment.outputVariant}`,
    vehicle: row.vehicle.tag,
    fuel: arm.differences.find((d) => d.subject === 'fuel')?.to ?? row.test.fuel,
    calibration: calibration?.to ?? row.test.calibration,
    gear: row.test.gear,
    dyno: `${row.dyno.name}, ${row.dyno.kind}`,
  };
}
