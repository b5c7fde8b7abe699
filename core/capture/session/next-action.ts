/** What is to be done next at the dyno, from where the session stands. Advice: nothing here stops anybody. */
import { nextPlace, type DoneRecording, type SheetPull } from './next-place.ts';

export interface BenchStanding<P extends SheetPull = SheetPull> {
  readonly isOpen: boolean;
  /** What is still to be looked after before the first pull. */ readonly unchecked: readonly string[];
  readonly mountings: number;
  /** Arm on the car, as last said; null where nobody has said. */ readonly onCar: string | null;
  readonly sheet: readonly P[];
  readonly recordings: readonly (DoneRecording & { readonly endedAt: number | null })[];
  readonly coolDownMinutes: number;
  /** Minutes before a pull that is not counted. */ readonly warmUpCoolDownMinutes: number;
  /** Temperatures that are not where a counted pull is to start. */ readonly waits: readonly string[];
  /** Moment, ms. */ readonly now: number;
}

export type NextAction<P extends SheetPull = SheetPull> =
  | { readonly is: 'open' }
  | { readonly is: 'check'; readonly left: readonly string[] }
  | { readonly is: 'strap'; readonly again: boolean; readonly next: P | null }
  | { readonly is: 'fit'; readonly arm: string; readonly next: P }
  | { readonly is: 'cool'; readonly secondsLeft: number; readonly waits: readonly string[]; readonly next: P }
  | { readonly is: 'ready'; readonly next: P }
  | { readonly is: 'asked'; readonly recordingId: string; readonly next: P | null }
  | { readonly is: 'running'; readonly recordingId: string; readonly next: P | null }
  | { readonly is: 'done' };

/** Mountings the sheet asks for up to a place: how often it says that the car is strapped down. */
const mountsUpTo = (sheet: readonly SheetPull[], place: SheetPull): number =>
  new Set(sheet.filter((p) => p.position <= place.position).map((p) => p.mount)).size;

export function nextAction<P extends SheetPull>(standing: BenchStanding<P>): NextAction<P> {
  const { sheet, recordings, now } = standing;
  if (!standing.isOpen) return { is: 'open' };
  const active = recordings.find((r) => r.state === 'running' || r.state === 'armed');
  const next = nextPlace(sheet, recordings) ?? null;
  if (active) {
    const place = sheet.find((p) => p.id === active.pullId) ?? null;
    return { is: active.state === 'running' ? 'running' : 'asked', recordingId: active.id, next: place };
  }
  if (standing.unchecked.length > 0) return { is: 'check', left: standing.unchecked };
  if (standing.mountings === 0) return { is: 'strap', again: false, next };
  if (!next) return { is: 'done' };
  if (standing.onCar !== next.arm) return { is: 'fit', arm: next.arm, next };
  if (mountsUpTo(sheet, next) > standing.mountings) return { is: 'strap', again: true, next };
  const last = Math.max(-Infinity, ...recordings.map((r) => r.endedAt ?? -Infinity));
  const minutes = next.counted ? standing.coolDownMinutes : standing.warmUpCoolDownMinutes;
  const secondsLeft = Math.ceil((last + minutes * 60_000 - now) / 1000);
  const waits = next.counted ? standing.waits : [];
  return secondsLeft > 0 || waits.length > 0
    ? { is: 'cool', secondsLeft: Math.max(0, secondsLeft), waits, next }
    : { is: 'ready', next };
}
