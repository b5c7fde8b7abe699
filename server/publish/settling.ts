/** Evaluating again what a new policy or version left open: in slices, so that no job of the queue outlasts its time. */
import type { JudgeService } from '../judge/service.ts';
import type { PublishService } from './service.ts';

/** Well within the time after which the queue takes a job to be lost. */
const SLICE_MS = 5 * 60_000;

/**
 * Claims in question first, for somebody reads them; then tests that nobody claims from.
 * @param again asks for the next slice
 * @param clock milliseconds that only go on
 */
export function createSettling(
  publish: Pick<PublishService, 'settleAll' | 'latestChange'>,
  judge: Pick<JudgeService, 'catchUp'>,
  again: () => Promise<void>,
  clock: () => number = () => performance.now(),
) {
  /** Where a slice stopped. A process that begins anew begins at the first: what is settled is not in question. */
  let stoppedAt: string | null = null;
  /** The last change there was when the pass through the claims began; null before there was one. */
  let seen: number | null = null;
  let through = false;
  return {
    async work(): Promise<void> {
      const end = clock() + SLICE_MS;
      const goOn = (): boolean => clock() < end;
      const latest = await publish.latestChange();
      // What has changed since a pass began may lie before the place it had come to.
      if (!(stoppedAt !== null || (through && seen === latest))) [seen, through] = [latest, false];
      if (!through) {
        stoppedAt = await publish.settleAll(stoppedAt, goOn);
        through = stoppedAt === null;
        if (!through || (await publish.latestChange()) !== seen || !goOn()) return again();
      }
      await judge.catchUp(goOn);
      if (!goOn()) return again();
      through = false;
    },
  };
}
