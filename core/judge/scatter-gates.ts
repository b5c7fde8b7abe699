/** What the pulls' scatter says beside its size: whether the arms have the same, and whether it is even along rpm. */
import type { AnalysedContrast } from '../compare/contrast-analysis.ts';
import type { Finding } from './gates.ts';

export function armScatterGate({ band }: Pick<AnalysedContrast, 'band'>): Finding {
  const base = {
    gate: 'scatter of the arms' as const,
    why: 'An arm that scatters more than the other is known less well than the two together suggest.',
  };
  if (band.armVariance === null)
    return {
      ...base,
      state: 'fail',
      code: 'ARM_SCATTER_UNKNOWN',
      message: 'One arm has a single pull in every run: nothing tells how much it scatters.',
      mend: 'Run at least three pulls in every run.',
    };
  const [a, b] = [Math.sqrt(band.armVariance.a), Math.sqrt(band.armVariance.b)];
  const found = `Pull-to-pull SD ${a.toFixed(2)} % on the baseline, ${b.toFixed(2)} % on the other arm`;
  if (band.armsDiffer)
    return {
      ...base,
      state: 'caution',
      code: 'ARMS_DIFFER_IN_SCATTER',
      message: `${found}: the interval carries it, ${Math.sqrt(band.variance / band.variances.pooled).toFixed(1)} times as wide as for arms alike.`,
      mend: 'Look for what is loose, hot or still adapting on the noisier arm; run as many pulls with the part as without.',
    };
  return { ...base, state: 'pass', code: 'ARMS_ALIKE', message: `${found}.` };
}

/** Scatter that is far larger at one end of the range; none where it is even. */
export function noisyEndFinding({ result }: Pick<AnalysedContrast, 'result'>): Finding | undefined {
  const end = result.scatter?.noisyEnd;
  if (!end) return undefined;
  const where = end.side === 'low' ? `below ${end.rpm} rpm` : `above ${end.rpm} rpm`;
  return {
    gate: 'repeatability',
    state: 'caution',
    code: 'NOISY_END',
    message: `The pulls scatter up to ${end.times.toFixed(1)} times as much ${where} as elsewhere; the band is wider for it over the whole range.`,
    why: 'Scatter that differs strongly along rpm is taken into account everywhere.',
    mend: `Plan the next window to ${end.side === 'low' ? 'begin' : 'end'} at ${end.rpm} rpm, if the part is not sold for that end.`,
  };
}
