/**
 * Why a gain is there, as far as it may be told: what was measured with it, or what is consistent with the log. A
 * hypothesis is no reason and is not told. The words come from the log; nobody writes them.
 */
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
  const list = rows.map(changed).join('; ');
  return log.mechanism === 'measured'
    ? [`Mechanism, measured: with the part ${list}, mean over the range, as logged in the same pulls`]
    : [
        `Mechanism, consistent with the log: with the part ${list}, mean over the range, beside ${difference(log.power.gain, 1)} % power, all as observed; ` +
          'what the part itself acts upon is not shown',
      ];
}
