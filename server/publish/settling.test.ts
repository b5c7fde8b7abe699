import { expect, it } from 'vitest';
import { createSettling } from './settling.ts';

const MINUTE = 60_000;
/** Tests in question by name; settling one takes two minutes of a clock that only this moves. */
function house(inQuestion: readonly string[], toCatchUp: number) {
  let time = 0;
  const told: string[] = [];
  const state = { change: 1, asked: 0, left: toCatchUp };
  const publish = {
    latestChange: () => Promise.resolve(state.change),
    settleAll(after: string | null = null, goOn: () => boolean = () => true): Promise<string | null> {
      for (const test of inQuestion.filter((t) => after === null || t > after)) {
        told.push(test);
        time += 2 * MINUTE;
        if (!goOn()) return Promise.resolve(test);
      }
      return Promise.resolve(null);
    },
  };
  const judge = {
    catchUp(goOn: () => boolean = () => true): Promise<number> {
      let done = 0;
      while (state.left > 0 && goOn()) {
        time += 2 * MINUTE;
        state.left -= 1;
        done += 1;
      }
      return Promise.resolve(done);
    },
  };
  const again = (): Promise<void> => {
    state.asked += 1;
    return Promise.resolve();
  };
  const settling = createSettling(publish, judge, again, () => time);
  return {
    told,
    state,
    /** Slices until none is asked for, as the queue would run them. */
    run: async (most = 20): Promise<number> => {
      for (let slice = 1; slice <= most; slice++) {
        const before = state.asked;
        await settling.work();
        if (state.asked === before) return slice;
      }
      throw new Error('it never ends');
    },
  };
}

it('goes through everything once, slice by slice, and then catches up', async () => {
  const { told, state, run } = house(['a', 'b', 'c', 'd', 'e', 'f', 'g'], 4);
  expect(await run()).toBeGreaterThan(2);
  expect(told).toEqual(['a', 'b', 'c', 'd', 'e', 'f', 'g']);
  expect(state.left).toBe(0);
});

it('ends although claims stay in question that wait for a person', async () => {
  // They stay in the list for good: a second run meets all of them once more, and ends as well.
  const { told, run } = house(['a', 'b', 'c', 'd', 'e'], 0);
  await run();
  await run();
  expect(told).toEqual([...'abcde', ...'abcde']);
});

it('begins anew after what changed meanwhile', async () => {
  const { told, state, run } = house(['a', 'b', 'c', 'd'], 0);
  const first = run(1).catch(() => undefined);
  state.change = 2;
  await first;
  await run();
  expect(told.filter((t) => t === 'a').length).toBe(2);
});
