/**
 * Why a gain is there, as far as it may be told: what was measured with it, or what is consistent with the log. A
 * hypothesis is no reason and is not told. The words come from the log; nobody writes them.
 */
import { WITHIN_POINTS } from '../compare/corroboration.ts';
import type { ContrastResult, LogEvidence } from '../compare/result.ts';
import { signed as difference } from '../base/signed.ts';

const DIGITS: Readonly<Record<LogEvidence['unit'], number>> = { '%': 1, K: 1, hPa: 0, rpm: 0 };

const changed = ({ of, unit, change }: LogEvidence): string => {
  const [gain, lower, upper] = [change.gain, change.lower, change.upper].map((v) =>
    difference(v, DIGITS[unit]),
  );
  return `${of} ${gain} ${unit} (${lower} to ${upper})`;
};

/** The line that stands with a claim; none where the log shows no reason, or there is no log. */
export function mechanismTold({ log, relative }: Pick<ContrastResult, 'log' | 'relative'>): string[] {
  if (!log || log.mechanism === 'hypothesis' || !(relative.bandAverage.gain > 0)) return [];
  const rows = log.rows.filter(
    (row) => row.says === 'supports' && (log.mechanism === 'measured' ? row.direct : !row.direct),
  );
  if (rows.length === 0) return [];
  if (log.mechanism === 'measured')
    return [
      `Mechanism, measured: with the part ${rows.map(changed).join('; ')}, mean over the range, as logged in the same pulls`,
    ];
  // Without numbers: a flow as observed is no gain, and may read larger than what is claimed.
  return [
    `Mechanism, consistent with the log: ${rows.map((row) => row.of).join(' and ')} changed as the power did, within ` +
      `${WITHIN_POINTS} percentage points, as observed in the same pulls; what the part itself acts upon is not shown`,
  ];
}
