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
const PART = 2000;
/** A list in parts, others first before each. */
export async function* inParts<T>(list: readonly T[], size = PART): AsyncGenerator<readonly T[]> {
  for (let i = 0; i < list.length; i += size) {
    await othersFirst();
    yield list.slice(i, i + size);
  }
}
