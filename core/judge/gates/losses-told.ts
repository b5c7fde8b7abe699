import type { ContrastResult } from '../../compare/result.ts';
import { found, type Found } from '../finding.ts';

/** @param results the contrast, and the same with excluded pulls put back: a loss proven in either is told */
export function lossesGate(results: readonly ContrastResult[]): Found {
  const losses = results.flatMap((result) => result.relative.losses);
  return losses.length === 0
    ? found('losses told', 'pass', 'NO_PROVEN_LOSS')
    : found('losses told', 'caution', 'LOSS_TO_DISCLOSE', losses);
}
