import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import { found, type Found } from '../finding.ts';

const gate = 'scatter of the arms' as const;

/** Whether the pulls of both arms scatter alike; an arm that says nothing of its own scatter is not claim grade. */
export function armScatterGate({ band }: Pick<AnalysedContrast, 'band'>): Found {
  if (band.armVariance === null) return found(gate, 'fail', 'ARM_SCATTER_UNKNOWN');
  const sds = { baseline: Math.sqrt(band.armVariance.a), other: Math.sqrt(band.armVariance.b) };
  return band.armsDiffer
    ? found(gate, 'caution', 'ARMS_DIFFER_IN_SCATTER', sds, Math.sqrt(band.variance / band.variances.pooled))
    : found(gate, 'pass', 'ARMS_ALIKE', sds);
}
