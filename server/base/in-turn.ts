/** Work that is done one after the other, in the order in which it was asked for. */
export interface InTurn {
  next(work: () => Promise<unknown>): void;
  /** Resolves once nothing is left. */ idle(): Promise<void>;
}

/** @param onError told of work that failed; what comes after it is done all the same */
export function inTurn(onError: (error: Error) => void): InTurn {
  let last: Promise<unknown> = Promise.resolve();
  return {
    next(work) {
      last = last.then(work).catch((error: unknown) => {
        onError(error instanceof Error ? error : new Error(String(error)));
      });
    },
    async idle() {
      let seen: Promise<unknown>;
      do {
        seen = last;
        await seen;
      } while (seen !== last);
    },
  };
}
