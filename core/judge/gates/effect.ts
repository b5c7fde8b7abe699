import type { ContrastResult } from '../../compare/result.ts';
import { METRIC_NAMES, type Metric } from '../../plan/metrics.ts';
import { found, type Found } from '../finding.ts';
import { limitsOfBoth } from '../metric-limits.ts';

const gate = 'effect' as const;

/**
 * Holds where any metric the plan names shows a gain: each has paid for their number.
 * @param results the contrast, and the same with excluded pulls put back where there are any
 */
export function effectGate(results: readonly ContrastResult[], metrics: readonly Metric[]): Found {
  const limits = metrics.flatMap((metric) => {
    const of = limitsOfBoth(results, metric);
    return of ? [{ name: METRIC_NAMES[metric], ...of }] : [];
  });
  if (limits.length === 0) return found(gate, 'fail', 'PEAK_AT_EDGE');
  const shown = limits.filter(({ lower }) => lower > 0);
  if (shown.length > 0) return found(gate, 'pass', 'GAIN_SHOWN', shown);
  const names = limits.map(({ name }) => name).join('; ');
  const average = limitsOfBoth(results, 'bandAverage')!;
  if (average.upper < 0) return found(gate, 'fail', 'LOSS_ON_AVERAGE', average.upper);
  const loses = results.every((result) => result.relative.losses.length > 0);
  return limits.every(({ upper }) => upper < 0) || loses
    ? found(gate, 'fail', 'LOSS_SHOWN', names)
    : found(gate, 'fail', 'NO_GAIN_SHOWN', names, Math.max(0, ...limits.map(({ upper }) => upper)));
}
