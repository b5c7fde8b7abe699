import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import { found, type Found } from '../finding.ts';

const gate = 'design' as const;
/** Runs of unequal length are borne with after at least this many warm-up pulls before each. */
const WARMED = 2;

export function designGate({ design, average }: AnalysedContrast, drift: 'none' | 'linear'): Found {
  const { label, pullsPerRun, warmUpsPerRun } = design;
  if (design.driftConfounded) {
    if (design.remounted) return found(gate, 'fail', 'AB_REMOUNTED', label);
    return design.equalRuns
      ? found(gate, 'caution', 'AB_PROVISIONAL', label)
      : found(gate, 'fail', 'AB_UNEQUAL', label, pullsPerRun);
  }
  if (!design.equalRuns) {
    const warmed = warmUpsPerRun.every((w) => w === warmUpsPerRun[0] && w >= WARMED);
    return found(gate, warmed ? 'caution' : 'fail', 'UNEQUAL_RUNS', pullsPerRun, warmed);
  }
  if (design.kind === 'alternating' && drift === 'none' && !design.returnsToStart)
    return found(gate, 'caution', 'ALTERNATING_WITHOUT_DRIFT_TERM', label);
  const bounded = average.parts.some((part) => part.source === 'drift' && part.variance > 0);
  return found(gate, 'pass', 'DESIGN_SUPPORTS_CLAIM', label, pullsPerRun[0], bounded);
}
