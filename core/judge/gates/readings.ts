/**
 * Are the samples readings of the engine? A lost decimal point, a dead sensor or a break in the record moves the
 * curve; where such samples lie in the analysed range nothing may be claimed from them.
 */
import type { PullDoubt } from '../../correct/prepare-test.ts';
import { found, quoted, type Found } from '../finding.ts';

/** @param range analysed engine speeds, rpm; @param used pulls that are counted and not left out */
export function readingsGate(
  doubts: readonly PullDoubt[],
  range: { readonly fromRpm: number; readonly toRpm: number },
  used: ReadonlySet<string>,
): Found[] {
  const inRange = ({ fromRpm, toRpm }: PullDoubt): boolean =>
    toRpm >= range.fromRpm && fromRpm <= range.toRpm;
  const findings = doubts.map((doubt) => {
    const state = used.has(doubt.pull) && inRange(doubt) ? 'fail' : 'caution';
    const where = inRange(doubt) ? '' : ' It lies outside the analysed range.';
    return quoted('readings', state, doubt.code, `${doubt.pull}: ${doubt.message}${where}`, MEND);
  });
  return findings.length > 0 ? findings : [found('readings', 'pass', 'READINGS_SOUND')];
}

const MEND =
  'Look at the line in the file. If the logger wrote it so, leave the pull out with that as the reason and repeat it.';
