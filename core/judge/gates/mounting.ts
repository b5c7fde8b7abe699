import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import type { ReturnCheck } from '../../compare/return-check.ts';
import type { Repeatability } from '../../register/repeatability.ts';
import { found, type Found } from '../finding.ts';

const gate = 'mounting' as const;

const strayed = (returned: ReturnCheck): boolean => Math.abs(returned.difference) > returned.limit;
const didNotReturn = ({ difference, limit }: ReturnCheck, remounted: boolean): Found =>
  found(gate, 'caution', 'BASELINE_DID_NOT_RETURN', difference, limit, remounted);

export function mountingGate(
  { design, returned, result, oneWay }: AnalysedContrast,
  repeatability: Repeatability,
): Found {
  if (!design.remounted)
    return returned && strayed(returned) ? didNotReturn(returned, false) : found(gate, 'pass', 'ONE_MOUNT');
  if (result.rule === 'mounting means') return found(gate, 'caution', 'MOUNTINGS_AS_UNITS');
  if (!repeatability.mount) return found(gate, 'pass', 'MOUNTS_BALANCED');
  if (!returned) return found(gate, 'fail', 'REMOUNTED_WITHOUT_RETURN');
  if (oneWay)
    return strayed(returned)
      ? found(gate, 'caution', 'BASELINE_MOUNTINGS_APART', returned.difference, returned.limit)
      : found(gate, 'pass', 'MOUNTINGS_WITHOUT_RETURN', repeatability.mount.variance);
  return strayed(returned)
    ? didNotReturn(returned, true)
    : found(gate, 'pass', 'REMOUNTED_REGISTERED', repeatability.mount.variance);
}
