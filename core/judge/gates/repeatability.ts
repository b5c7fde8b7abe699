import { fUpper } from '../../base/distributions.ts';
import type { Policy } from '../../base/policy.ts';
import { deletionTests } from '../../compare/flyers.ts';
import type { AnalysedContrast } from '../../compare/contrast-analysis.ts';
import type { Repeatability } from '../../register/repeatability.ts';
import { found, type Found } from '../finding.ts';

const gate = 'repeatability' as const;

export function repeatabilityGate(
  { average }: AnalysedContrast,
  { bandAverage: known }: Repeatability,
  { scatter }: Policy,
): Found {
  const sd = Math.sqrt(average.s2);
  const low = average.flags.includes('SCATTER_TOO_LOW');
  if (sd > scatter.mostPct) return found(gate, 'fail', 'SCATTER_TOO_HIGH', sd, scatter.mostPct);
  if (known === undefined)
    return low
      ? found(gate, 'caution', 'SCATTER_TOO_LOW', sd, false)
      : found(gate, 'caution', 'NO_HISTORY', sd);
  const history = Math.sqrt(known.variance);
  if (sd > scatter.cautionTimes * history)
    return found(gate, 'fail', 'SCATTER_ABOVE_HISTORY', { sd, history });
  const below = fUpper(known.variance / Math.max(average.s2, 1e-12), known.df, average.split.nu);
  if (below < scatter.tooLowChance)
    return found(gate, 'fail', 'SCATTER_FAR_BELOW_HISTORY', { sd, history }, scatter.tooLowChance);
  if (low) return found(gate, 'caution', 'SCATTER_TOO_LOW', sd, true);
  return sd > history
    ? found(gate, 'caution', 'SCATTER_SOMEWHAT_HIGH', { sd, history })
    : found(gate, 'pass', 'SCATTER_AS_USUAL', { sd, history });
}

/** Pulls unlike the others of their run: pointed out to be asked about, never left out by it. */
export function flyerFinding(
  { averages, runs, pulls }: Pick<AnalysedContrast, 'averages' | 'runs' | 'pulls'>,
  { bandAverage: known }: Repeatability,
): Found[] {
  const tests = deletionTests(averages, runs, known);
  const flyers = tests.flatMap(({ t, flag }, i) => (flag ? [{ pull: pulls[i].id, low: t < 0 }] : []));
  return flyers.length > 0 ? [found(gate, 'caution', 'FLYER', flyers)] : [];
}

/** Scatter that is far larger at one end of the range; none where it is even. */
export function noisyEndFinding({ result }: Pick<AnalysedContrast, 'result'>): Found[] {
  const end = result.scatter?.noisyEnd;
  return end ? [found(gate, 'caution', 'NOISY_END', end)] : [];
}
