import type { ContrastResult } from '../compare/result.ts';
import type { Metric } from '../plan/metrics.ts';

/** One-sided lower limit of the metric named, in per cent; none where a peak lies at the edge of the window and is no peak. */
export function metricLimits(
  result: ContrastResult,
  metric: Metric,
): { lower: number; upper: number } | null {
  switch (metric) {
    case 'upTo':
      return {
        lower: result.relative.upTo.gain,
        upper: Math.max(...result.relative.curve.map((point) => point.upper)),
      };
    case 'bandAverage':
      return result.relative.bandAverage;
    case 'peakToPeak':
      return result.power.peakToPeak.atEdge
        ? null
        : { lower: result.power.peakToPeak.lowerPct, upper: result.power.peakToPeak.upperPct };
  }
}

/** The limits that hold with and without excluded pulls: the smaller lower one, the larger upper one. */
export function limitsOfBoth(results: readonly ContrastResult[], metric: Metric) {
  const limits = results.map((result) => metricLimits(result, metric));
  return limits.every((l) => l !== null)
    ? { lower: Math.min(...limits.map((l) => l.lower)), upper: Math.max(...limits.map((l) => l.upper)) }
    : null;
}
