import { expect, it, vi } from 'vitest';
import { inParts, unhurried, withRest } from './unhurried.ts';

it('work in steps is done to its end, and lets others in between', async () => {
  const said: string[] = [];
  function* work(): Generator<void, string> {
    for (const step of ['one', 'two', 'three']) {
      said.push(step);
      yield;
    }
    return 'done';
  }
  const waiting = unhurried(work());
  setImmediate(() => said.push('others'));
  expect(await waiting).toBe('done');
  expect(said).toHaveLength(4);
  expect(said.indexOf('others')).toBeLessThan(said.indexOf('three'));
});
it('a list comes whole and in order, whatever the size of its parts', async () => {
  const list = Array.from({ length: 23 }, (_, i) => i);
  for (const size of [1, 4, 23, 100]) {
    const parts: number[][] = [];
    for await (const part of inParts(list, size)) parts.push([...part]);
    expect(parts.flat()).toEqual(list);
    expect(Math.max(...parts.map((part) => part.length))).toBeLessThanOrEqual(size);
  }
});
it('work in the background rests half of its time after each piece, and never long', async () => {
  const restAfter = async (took: number): Promise<number> => {
    let at = 0;
    vi.useFakeTimers();
    try {
      const done = withRest(
        () => Promise.resolve((at += took)),
        () => at,
      );
      let rested = 0;
      let through = false;
      void done.then(() => (through = true));
      for (; !through && rested < 5000; rested += 50) await vi.advanceTimersByTimeAsync(50);
      expect(await done).toBe(took);
      return rested;
    } finally {
      vi.useRealTimers();
    }
  };
  expect(await restAfter(200)).toBe(100);
  expect(await restAfter(60_000)).toBe(500);
});
