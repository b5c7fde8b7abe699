import type { Pull } from '../../contract/capture/capture.ts';

/** Pulls that the pieces of an engine’s log belong to, in order: those with a file and no log yet. */
export function pullsToLog(pieces: number, pulls: readonly Pull[]): string[] {
  const open = pulls.filter((p) => p.file !== null && !p.log);
  const counted = open.filter((p) => p.counted);
  const taken = counted.length === pieces ? counted : open;
  return Array.from({ length: pieces }, (_, k) => taken[k]?.id ?? '');
}

/**
 * Places on the run sheet for the pulls of a long log, in order: the open ones. As many as there are pulls of the log,
 * they are all of them; else the counted ones, as many as fit.
 * @returns one id for each pull of the log; empty where there is no place left
 */
export function placesFor(pieces: number, pulls: readonly Pull[]): string[] {
  const open = pulls.filter((p) => p.file === null && p.excluded === null);
  const counted = open.filter((p) => p.counted);
  const whole = pulls.filter((p) => p.file === null);
  const taken =
    open.length === pieces || (whole.length === pieces && counted.length !== pieces) ? open : counted;
  return Array.from({ length: pieces }, (_, k) => taken[k]?.id ?? '');
}
