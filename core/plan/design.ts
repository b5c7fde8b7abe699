/**
 * The design of a comparison as it was run: which pulls form a run, what the order of arms is
 * called, and what that order can and cannot support.
 */

/** The facts about a pull that the design rests on. */
export interface PlacedPull {
  readonly arm: string;
  /** True position in the session, warm-up pulls included. */
  readonly order: number;
  /** Strapping id: pulls with the same id were run without re-mounting the vehicle. */
  readonly mount: number | string;
  readonly counted: boolean;
}

export interface Run<P extends PlacedPull = PlacedPull> {
  readonly arm: string;
  readonly mount: number | string;
  /** Counted pulls in order. */
  readonly counted: readonly P[];
  /** Uncounted pulls before the first counted one. */
  readonly warmUps: number;
}

/**
 * Groups pulls into runs: uninterrupted blocks of one arm in one mounting, warm-up pulls first. Anything of
 * another arm or mounting begins a new run, and so do warm-up pulls after counted ones: the part stays on the
 * car, but the car has been warmed up anew. Runs without a counted pull are left out.
 */
export function runsOf<P extends PlacedPull>(pulls: readonly P[]): Run<P>[] {
  const runs: { arm: string; mount: number | string; counted: P[]; warmUps: number }[] = [];
  for (const pull of [...pulls].sort((a, b) => a.order - b.order)) {
    let current = runs.at(-1);
    const begunAnew = current !== undefined && current.counted.length > 0 && !pull.counted;
    if (!current || current.arm !== pull.arm || current.mount !== pull.mount || begunAnew) {
      current = { arm: pull.arm, mount: pull.mount, counted: [], warmUps: 0 };
      runs.push(current);
    }
    if (pull.counted) current.counted.push(pull);
    else if (current.counted.length === 0) current.warmUps += 1;
  }
  return runs.filter((run) => run.counted.length > 0);
}

export type DesignKind = 'A-B' | 'A-B-A' | 'A-B-B-A' | 'alternating' | 'other';

export interface Design {
  /** The order of runs with A the baseline, e.g. `A-B-A`; a re-mount within an arm makes a run of its own. */
  readonly label: string;
  readonly kind: DesignKind;
  /** True when all pulls of one arm come before all of the other: a drift then looks like a gain. */
  readonly driftConfounded: boolean;
  readonly equalRuns: boolean;
  readonly pullsPerRun: readonly number[];
  readonly warmUpsPerRun: readonly number[];
  /** True when some mounting carries more weight of one arm than of the other. */
  readonly remounted: boolean;
  /** True when the session ends on the arm it began with. */
  readonly returnsToStart: boolean;
}

/** Names the design of a two-arm comparison from its runs. */
export function designOf(runs: readonly Run[], baseline: string): Design {
  const letters = runs.map((run) => (run.arm === baseline ? 'A' : 'B'));
  const label = letters.join('-');
  const sizes = runs.map((run) => run.counted.length);
  const changes = letters.filter((letter, i) => i > 0 && letter !== letters[i - 1]).length;
  const collapsed = letters.filter((letter, i) => i === 0 || letter !== letters[i - 1]).join('-');
  const kind: DesignKind =
    collapsed === 'A-B' || collapsed === 'B-A'
      ? 'A-B'
      : collapsed === 'A-B-A'
        ? label === 'A-B-B-A'
          ? 'A-B-B-A'
          : 'A-B-A'
        : changes >= 3
          ? 'alternating'
          : 'other';
  return {
    label,
    kind,
    driftConfounded: changes <= 1,
    equalRuns: sizes.every((n) => n === sizes[0]),
    pullsPerRun: sizes,
    warmUpsPerRun: runs.map((run) => run.warmUps),
    remounted: new Set(runs.map((run) => run.mount)).size > 1,
    returnsToStart: letters.length > 2 && letters[0] === letters.at(-1),
  };
}
