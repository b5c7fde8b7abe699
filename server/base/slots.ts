/** How many may do at once what takes much memory; a few more wait, the rest are asked to come back. */
import { RefusalError } from './refusals.ts';

export interface Slots {
  /** Does the work when there is room. Throws `RefusalError` BUSY when too many wait already. */
  use<T>(work: () => Promise<T>): Promise<T>;
}

export function slots(atOnce: number, waiting: number): Slots {
  let taken = 0;
  const queue: (() => void)[] = [];
  const enter = (): Promise<void> => {
    if (taken < atOnce) {
      taken += 1;
      return Promise.resolve();
    }
    if (queue.length >= waiting)
      throw new RefusalError(
        503,
        'BUSY',
        'Many files are coming in at this moment.',
        'Nothing was stored; send it again in a minute.',
      );
    return new Promise((resolve) => queue.push(resolve));
  };
  const leave = (): void => {
    const next = queue.shift();
    // The place goes from hand to hand.
    if (next) next();
    else taken -= 1;
  };
  return {
    async use(work) {
      await enter();
      try {
        return await work();
      } finally {
        leave();
      }
    },
  };
}
