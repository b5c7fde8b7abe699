/** Where a session stands on its run sheet: what comes next, and what was done otherwise. */

export interface SheetPull {
  readonly id: string;
  readonly label: string;
  readonly position: number;
  readonly run: number;
  readonly arm: string;
  readonly mount: number;
  readonly counted: boolean;
  /** Has a file, or was left out for a cause. */ readonly settled: boolean;
}
export interface DoneRecording {
  readonly id: string;
  readonly pullId: string | null;
  readonly arm: string;
  readonly state: 'armed' | 'running' | 'complete' | 'incomplete' | 'aborted' | 'withdrawn';
  readonly order: number | null;
  readonly mounting: number | null;
}

/** The first place in order that is still open. */
export function nextPlace<P extends SheetPull>(
  sheet: readonly P[],
  recordings: readonly DoneRecording[],
): P | undefined {
  const taken = new Set(
    recordings.filter((r) => r.state === 'complete' || r.state === 'incomplete').map((r) => r.pullId),
  );
  return [...sheet].sort((a, b) => a.position - b.position).find((p) => !p.settled && !taken.has(p.id));
}

/** How what was done departs from the run sheet. */
export type Departure =
  | { readonly kind: 'order'; readonly label: string; readonly before: string }
  | { readonly kind: 'extra'; readonly order: number; readonly arm: string }
  | { readonly kind: 'aborted'; readonly order: number; readonly label: string | null }
  | { readonly kind: 'incomplete'; readonly order: number; readonly label: string | null }
  | { readonly kind: 'other arm'; readonly label: string; readonly arm: string; readonly planned: string }
  | { readonly kind: 'strapped anew'; readonly label: string; readonly mounting: number }
  | { readonly kind: 'not strapped anew'; readonly label: string }
  | { readonly kind: 'not made'; readonly label: string; readonly counted: boolean };

/**
 * Every departure, in the order in which it was done. Pulls that are still to come are none while later places of
 * the sheet are open too; a place that was passed over is.
 */
export function departures(sheet: readonly SheetPull[], recordings: readonly DoneRecording[]): Departure[] {
  const place = new Map(sheet.map((p) => [p.id, p]));
  const done = recordings
    .filter((r) => r.order !== null && r.state !== 'running')
    .sort((a, b) => a.order! - b.order!);
  const out: Departure[] = [];
  let last: { readonly pull: SheetPull; readonly mounting: number | null } | undefined;
  let furthest: SheetPull | undefined;
  for (const r of done) {
    const pull = r.pullId === null ? undefined : place.get(r.pullId);
    if (r.state === 'aborted') out.push({ kind: 'aborted', order: r.order!, label: pull?.label ?? null });
    else if (r.state === 'incomplete')
      out.push({ kind: 'incomplete', order: r.order!, label: pull?.label ?? null });
    if (!pull) {
      if (r.state === 'complete') out.push({ kind: 'extra', order: r.order!, arm: r.arm });
      continue;
    }
    if (r.state !== 'complete') continue;
    if (pull.arm !== r.arm) out.push({ kind: 'other arm', label: pull.label, arm: r.arm, planned: pull.arm });
    if (furthest && pull.position < furthest.position)
      out.push({ kind: 'order', label: pull.label, before: furthest.label });
    if (last && r.mounting !== null && last.mounting !== null) {
      const planned = pull.mount !== last.pull.mount;
      if (r.mounting !== last.mounting && !planned)
        out.push({ kind: 'strapped anew', label: pull.label, mounting: r.mounting });
      if (r.mounting === last.mounting && planned) out.push({ kind: 'not strapped anew', label: pull.label });
    }
    last = { pull, mounting: r.mounting };
    if (!furthest || pull.position > furthest.position) furthest = pull;
  }
  const made = new Set(done.filter((r) => r.state === 'complete').map((r) => r.pullId));
  for (const p of [...sheet].sort((a, b) => a.position - b.position))
    if (furthest && p.position < furthest.position && !made.has(p.id) && !p.settled)
      out.push({ kind: 'not made', label: p.label, counted: p.counted });
  return out;
}
