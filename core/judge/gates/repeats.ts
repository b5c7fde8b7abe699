import type { Policy } from '../../base/policy.ts';
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import { found, type Found } from '../finding.ts';

const gate = 'repeats' as const;
/** So many counted pulls in a run are still a caution, not a failure. */
const BORNE_WITH = 2;

export function repeatsGate({ design }: AnalysedContrast, { pullsPerRun }: Policy): Found {
  const least = Math.min(...design.pullsPerRun);
  return least >= pullsPerRun
    ? found(gate, 'pass', 'REPEATS_ENOUGH', least)
    : found(gate, least === BORNE_WITH ? 'caution' : 'fail', 'REPEATS_FEW', least, pullsPerRun);
}
