/** What is not there yet while the car still stands on the rollers: afterwards much of it cannot be had. */
import type { DoneRecording, SheetPull } from './next-place.ts';

export interface MissingPull extends SheetPull {
  readonly hasFile: boolean;
  readonly hasAir: boolean;
  readonly excluded: boolean;
}

const listed = (labels: readonly string[]): string =>
  labels.length > 6 ? `${labels.slice(0, 6).join(', ')} and ${labels.length - 6} more` : labels.join(', ');
const one = (n: number, singular: string, plural: string): string => (n === 1 ? singular : plural);

/** One sentence a kind of thing, the gravest first; nothing when all is there. */
export function stillMissing(
  sheet: readonly MissingPull[],
  recordings: readonly DoneRecording[],
  withoutChannel: readonly string[],
): string[] {
  const out: string[] = [];
  const about = (list: readonly { label: string }[], text: (n: number, labels: string) => string): void => {
    if (list.length > 0) out.push(text(list.length, listed(list.map((p) => p.label))));
  };
  const place = new Map(sheet.map((p) => [p.id, p]));
  const broken = recordings.filter((r) => r.state === 'incomplete');
  about(
    broken.map((r) => ({
      label: (r.pullId && place.get(r.pullId)?.label) ?? `pull ${r.order ?? ''}`.trim(),
    })),
    (n, labels) => `${one(n, 'A recording is', 'Recordings are')} not whole: ${labels}.`,
  );
  const asked = new Set([...broken, ...recordings.filter((r) => r.state === 'running')].map((r) => r.pullId));
  about(
    sheet.filter((p) => p.counted && !p.settled && !asked.has(p.id)),
    (n, labels) => `${n} counted ${one(n, 'pull is', 'pulls are')} still to come: ${labels}.`,
  );
  about(
    sheet.filter((p) => p.counted && p.hasFile && !p.hasAir && !p.excluded),
    (_n, labels) => `No air reading for ${labels}.`,
  );
  about(
    withoutChannel.map((label) => ({ label })),
    (_n, labels) => `Channels or log missing: ${labels}.`,
  );
  return out;
}
