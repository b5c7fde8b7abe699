import type { Policy } from '../../base/policy.ts';
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import type { CorrectedPull } from '../../correct/pull-correction.ts';
import { found, type Found } from '../finding.ts';

const gate = 'same sweep' as const;

export function sweepGate(
  { common }: AnalysedContrast,
  grid: readonly number[],
  corrected: readonly CorrectedPull[],
  policy: Policy,
): Found {
  const lost = 1 - common.rpm.length / grid.length;
  const kept = { fromRpm: common.rpm[0], toRpm: common.rpm.at(-1)! };
  if (lost > policy.trimmedShare) return found(gate, 'caution', 'RANGE_LOST', kept, lost);
  if (lost > 0) return found(gate, 'caution', 'TRIMMED', kept);
  const rates = corrected.map((pull) => pull.sweep.rampRpmPerS).filter(Number.isFinite);
  const [least, most] = [Math.min(...rates), Math.max(...rates)];
  return rates.length > 0 && most / least - 1 > policy.rampSpread
    ? found(gate, 'caution', 'RAMP_RATES_DIFFER', least, most)
    : found(gate, 'pass', 'SAME_SWEEP', kept, rates.length > 0);
}
