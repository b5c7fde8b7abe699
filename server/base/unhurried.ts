/** Long work of the thread that answers, done in parts, so that whoever waits is answered between them. */

/** Lets whoever waits be answered. */
export const othersFirst = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** Goes through work that pauses by itself. */
export async function unhurried<T>(work: Generator<void, T>): Promise<T> {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    await othersFirst();
  }
}
/** Share of its time that work in the background rests after each piece, and the longest rest. Own choice. */
const REST = { share: 0.5, mostMs: 500 } as const;
/**
 * One piece of long work in the background, with a rest after it: the database and the thread that answers are for
 * whoever waits at a page.
 */
export async function withRest<T>(
  work: () => Promise<T>,
  clock: () => number = () => performance.now(),
): Promise<T> {
  const from = clock();
  const done = await work();
  const rest = Math.min(REST.share * (clock() - from), REST.mostMs);
  await new Promise((resolve) => setTimeout(resolve, rest));
  return done;
}

const PART = 2000;
/** A list in parts, others first before each. */
export async function* inParts<T>(list: readonly T[], size = PART): AsyncGenerator<readonly T[]> {
  for (let i = 0; i < list.length; i += size) {
    await othersFirst();
    yield list.slice(i, i + size);
  }
}
