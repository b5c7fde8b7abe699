/** How long a recording that is over waits for its log before it is made a file without the rest of it. */

/** How long the log goes on after the end of a pull, and how long one that is away is waited for, ms. */
export const LOG_TAIL_MS = 900;
const LOG_WAIT_MS = 12_000;
/** It is looked at well within so many ms: whatever more has gone by, this process stood still and could hear nothing. */
const LOOK_MS = 500;

export interface LogWait {
  /** The logger's buffer is to be asked for: nothing is made without the answer while others are served first. */
  asked(): void;
  /** All of an answer is here, or there was nothing to ask. */ answered(): void;
  /** The logger is away: what was asked comes to nothing. */ away(): void;
  /**
   * @param of the recording that waits
   * @param ended when it was over, ms
   * @returns how long it is still to be waited for, ms
   */
  left(of: object, ended: number, now: number, isConnected: boolean): number;
}

/** @param since when this process began to listen, ms: it has waited for nothing before */
export function logWait(since: number): LogWait {
  let open = 0;
  const waited = new WeakMap<object, { ms: number; seen: number }>();
  const waitedFor = (of: object, ended: number, now: number): number => {
    const { ms, seen } = waited.get(of) ?? { ms: 0, seen: Math.max(ended, since) };
    const then = { ms: ms + Math.min(LOOK_MS, Math.max(0, now - seen)), seen: now };
    waited.set(of, then);
    return then.ms;
  };
  return {
    asked: () => void (open += 1),
    answered: () => void (open = Math.max(0, open - 1)),
    away: () => void (open = 0),
    left: (of, ended, now, isConnected) =>
      (isConnected && open === 0 ? LOG_TAIL_MS : LOG_WAIT_MS) - waitedFor(of, ended, now),
  };
}
