import { describe, expect, it } from 'vitest';
import { LOG_TAIL_MS, logWait } from './log-wait.ts';

/** Looks every so many ms whether it is still to be waited; how long it was, ms. */
function waited(left: (now: number) => number, from: number, every: number): number {
  for (let now = from; ; now += every) if (left(now) <= 0) return now - from;
}

describe('how long a recording waits for its log', () => {
  it('is a moment where the logger is here, and longer where it is away or has not answered', () => {
    const wait = logWait(0);
    const [here, away] = [{}, {}];
    expect(waited((now) => wait.left(here, 1000, now, true), 1000, 100)).toBe(LOG_TAIL_MS);
    expect(waited((now) => wait.left(away, 1000, now, false), 1000, 100)).toBeGreaterThan(LOG_TAIL_MS);
    const asked = {};
    wait.asked();
    expect(wait.left(asked, 1000, 1000 + LOG_TAIL_MS, true)).toBeGreaterThan(0);
    wait.answered();
    expect(waited((now) => wait.left(asked, 1000, now, true), 1000 + LOG_TAIL_MS, 100)).toBeLessThan(
      LOG_TAIL_MS,
    );
  });
  it('begins when this process begins to listen', () => {
    const wait = logWait(60_000);
    expect(waited((now) => wait.left(wait, 1000, now, true), 60_000, 100)).toBe(LOG_TAIL_MS);
  });
  it('does not count the time in which nothing could be heard', () => {
    const wait = logWait(0);
    const [one, other] = [{}, {}];
    expect(wait.left(one, 1000, 1100, true)).toBe(LOG_TAIL_MS - 100);
    // The machine stood still for a minute.
    expect(wait.left(one, 1000, 61_100, true)).toBeGreaterThan(0);
    expect(wait.left(other, 1000, 61_100, true)).toBeGreaterThan(0);
    expect(wait.left(one, 1000, 61_600, true)).toBeLessThanOrEqual(0);
  });
});
