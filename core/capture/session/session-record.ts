/** What was done at the dyno otherwise than on the run sheet: told to the judgement, never smoothed over. */
import type { Departure } from './next-place.ts';

/** Something that was changed on car or cell between two pulls. */
export interface SettingChange {
  readonly what: string;
  readonly text: string;
  /** Whether counted pulls lie on both sides of it. */ readonly amongCounted: boolean;
}
export interface SessionRecord {
  readonly departures: readonly Departure[];
  readonly changes: readonly SettingChange[];
  /** Pulls whose file is another than was recorded at the dyno. */ readonly replaced?: readonly string[];
  /** What was renewed or changed beside the part, by arm. */
  readonly renewed: readonly { readonly arm: string; readonly text: string }[];
}

export interface RecordedPull {
  readonly pullId: string | null;
  readonly arm: string;
  /** True place over all sessions of the test. */ readonly order: number;
  /** Strapping over all sessions; null where nobody said. */ readonly mount: string | null;
  readonly counted: boolean;
}

/**
 * Extra pulls that belong to the warm-up of a run: those before its first counted pull. An extra pull among counted
 * ones neither warms anything up nor begins a run.
 */
export function warmingExtras(recorded: readonly RecordedPull[]): RecordedPull[] {
  const out: RecordedPull[] = [];
  let block: { arm: string; mount: string | null; hasCounted: boolean } | undefined;
  for (const r of [...recorded].sort((a, b) => a.order - b.order)) {
    if (!block || block.arm !== r.arm || block.mount !== r.mount)
      block = { arm: r.arm, mount: r.mount, hasCounted: false };
    if (r.pullId === null && !block.hasCounted) out.push(r);
    if (r.counted) block.hasCounted = true;
  }
  return out;
}
