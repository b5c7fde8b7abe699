import type { Policy } from '../../base/policy.ts';
import type { Standard } from '../../base/standards.ts';
import type { CorrectedPull } from '../../correct/pull-correction.ts';
import { found, foundAs, type Found } from '../finding.ts';

const gate = 'factor' as const;
type ByArm = ReadonlyMap<string, readonly CorrectedPull[]>;

export function factorGate(byArm: ByArm, standard: Standard, policy: Policy): Found {
  const remarks = [...byArm.values()].flat().flatMap((pull) => pull.factor.remarks);
  const outside = remarks.find((remark) => remark.code !== 'FUEL_RATE_UNKNOWN');
  if (outside) return foundAs(outside.code, gate, 'fail', 'OUTSIDE_STANDARD', outside.message);
  if (standard === 'none') return uncorrectedGate(byArm, policy);
  const means = armMeans(byArm, (pull) => pull.factor.factor);
  const seen = { standard, least: Math.min(...means), most: Math.max(...means) };
  const apart = seen.most / seen.least - 1;
  if (apart > policy.factorArms.caution) return found(gate, 'fail', 'FACTORS_APART', seen);
  if (apart > policy.factorArms.pass) return found(gate, 'caution', 'FACTORS_SOMEWHAT_APART', seen);
  const unknownFuel = remarks.find((remark) => remark.code === 'FUEL_RATE_UNKNOWN');
  return unknownFuel
    ? found(gate, 'caution', 'FUEL_RATE_UNKNOWN', unknownFuel.message)
    : found(gate, 'pass', 'FACTORS_AGREE', seen);
}

/** Without correction nothing takes the air out: the arms must have had the same, judged by what SAE J1349 would say of it. */
function uncorrectedGate(byArm: ByArm, { factorArms }: Policy): Found {
  const means = armMeans(byArm, (pull) => pull.airFactor);
  const apart = Math.max(...means) / Math.min(...means) - 1;
  if (apart > factorArms.caution) return found(gate, 'fail', 'UNCORRECTED_AIR_APART', apart);
  return apart > factorArms.pass
    ? found(gate, 'caution', 'UNCORRECTED_AIR_SOMEWHAT_APART', apart)
    : found(gate, 'pass', 'UNCORRECTED_SAME_AIR', apart);
}

const armMeans = (byArm: ByArm, of: (pull: CorrectedPull) => number): number[] =>
  [...byArm.values()].map((list) => list.reduce((sum, pull) => sum + of(pull), 0) / list.length);
