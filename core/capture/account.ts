/** Accounts for every pull of a test: nothing that was planned or captured is left without a word. */

export interface AccountedPull {
  readonly counted: boolean;
  /** Whether bytes of it are there. */
  readonly captured: boolean;
  /** The cause from the list, where it was left out. */
  readonly excluded: string | null;
}
export interface Account {
  readonly planned: number;
  readonly warmUps: number;
  readonly captured: number;
  /** Without bytes and without a cause. */
  readonly toCome: number;
  /** Without bytes, for a recorded cause. */
  readonly lost: number;
  readonly usable: number;
  /** Causes by which pulls were left out, captured or not, the most frequent first. */
  readonly causes: readonly { readonly cause: string; readonly pulls: number }[];
}

/** planned = captured + to come + lost, and captured = usable + those left out of them. */
export function accountOf(pulls: readonly AccountedPull[]): Account {
  const counted = pulls.filter((p) => p.counted);
  const captured = counted.filter((p) => p.captured);
  const missing = counted.filter((p) => !p.captured);
  const causes = new Map<string, number>();
  for (const { excluded } of counted)
    if (excluded !== null) causes.set(excluded, (causes.get(excluded) ?? 0) + 1);
  return {
    planned: counted.length,
    warmUps: pulls.length - counted.length,
    captured: captured.length,
    toCome: missing.filter((p) => p.excluded === null).length,
    lost: missing.filter((p) => p.excluded !== null).length,
    usable: captured.filter((p) => p.excluded === null).length,
    causes: [...causes]
      .map(([cause, n]) => ({ cause, pulls: n }))
      .sort((a, b) => b.pulls - a.pulls || a.cause.localeCompare(b.cause)),
  };
}
