import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import type { OneWay } from '../../compare/one-way.ts';
import type { Design } from '../../plan/design.ts';
import { found, type Found } from '../finding.ts';

const gate = 'design' as const;
/** Runs of unequal length are borne with after at least this many warm-up pulls before each. */
const WARMED = 2;

export function designGate({ design, average, oneWay }: AnalysedContrast, drift: 'none' | 'linear'): Found {
  const { label, pullsPerRun, warmUpsPerRun } = design;
  if (design.driftConfounded) {
    if (oneWay) return oneWayFinding(design, oneWay);
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

/** Without return: held where the part cannot come off again and the control vehicle stands in for the baseline. */
function oneWayFinding({ label, equalRuns, pullsPerRun }: Design, oneWay: OneWay): Found {
  const { gaps, moved, control } = oneWay;
  if (gaps.length > 0 || !moved) return found(gate, 'fail', 'ONE_WAY_NOT_HELD', label, control, gaps);
  if (!equalRuns) return found(gate, 'fail', 'ONE_WAY_UNEQUAL', label, pullsPerRun);
  return Math.abs(moved.difference) > moved.limit
    ? found(gate, 'fail', 'ONE_WAY_CONTROL_MOVED', control, moved)
    : found(gate, 'caution', 'ONE_WAY_HELD', label, oneWay, moved);
}
