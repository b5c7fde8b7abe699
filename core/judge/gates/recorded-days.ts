import { found, type Found } from '../finding.ts';
import type { HeldPull } from './held-pull.ts';

const DAY_MS = 86_400_000;
/** Pulls of one mounting that were recorded on different days, by what the files say. */
export function days(pulls: readonly HeldPull[]): Found[] {
  const dated = pulls.filter((p) => p.file.recorded);
  const findings: Found[] = [];
  for (const mount of new Set(dated.map((p) => p.mount))) {
    const on = dated.filter((p) => p.mount === mount);
    const sorted = [...on].sort((a, b) => (a.file.recorded!.day < b.file.recorded!.day ? -1 : 1));
    const [first, last] = [sorted[0], sorted.at(-1)!];
    const apart = (Date.parse(last.file.recorded!.day) - Date.parse(first.file.recorded!.day)) / DAY_MS;
    if (apart < 1) continue;
    findings.push(
      found(
        'plausible',
        apart > 1 ? 'fail' : 'caution',
        'RECORDED_ON_OTHER_DAY',
        { id: first.id, day: first.file.recorded!.day },
        { id: last.id, day: last.file.recorded!.day },
      ),
    );
  }
  return findings;
}
