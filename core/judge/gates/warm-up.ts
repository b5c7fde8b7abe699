import type { Policy } from '../../base/policy.ts';
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import { found, type Found } from '../finding.ts';

const gate = 'warm-up' as const;

export function warmUpGate({ design }: AnalysedContrast, { warmUpPulls }: Policy): Found {
  const counts = design.warmUpsPerRun;
  const least = Math.min(...counts);
  if (counts.some((w) => w !== counts[0])) return found(gate, 'fail', 'WARM_UP_UNEQUAL', counts, warmUpPulls);
  if (least === 0) return found(gate, 'fail', 'WARM_UP_NONE', warmUpPulls);
  if (least < warmUpPulls)
    return found(gate, least === warmUpPulls - 1 ? 'caution' : 'fail', 'WARM_UP_SHORT', least, warmUpPulls);
  return found(gate, 'pass', 'WARM_UP_EQUAL', least);
}
