/** Engine speed over the clock of each pull, from where the window of the test begins. */
import type { TestChannels } from '../../contract/capture/channels.ts';

export interface TimedPull {
  readonly label: string;
  readonly arm: string;
  /** Seconds since its first grid point with a time, at each grid point; null where there is none. */
  readonly seconds: readonly (number | null)[];
}
export interface TimedSweeps {
  /** Grid points that every pull passes: times are held against each other between the first and the last. */
  readonly from: number;
  readonly to: number;
  readonly pulls: readonly TimedPull[];
}

/** Pulls without a clock are left out; nothing where no two points are passed by all. */
export function timedSweeps({ rpm, pulls }: TestChannels): TimedSweeps | null {
  const clocked = pulls.flatMap(({ label, arm, excluded, channels }) =>
    channels.time && !excluded ? [{ label, arm, values: channels.time.values }] : [],
  );
  const passed = rpm.flatMap((_, j) => (clocked.every((p) => p.values[j] != null) ? [j] : []));
  const [from, to] = [passed[0], passed.at(-1)];
  if (clocked.length === 0 || from === undefined || to === undefined || from === to) return null;
  return {
    from,
    to,
    pulls: clocked.map(({ label, arm, values }) => ({
      label,
      arm,
      seconds: values.map((v) => (v == null ? null : v - values[from]!)),
    })),
  };
}

/** Mean time of an arm to a grid point, s; null where it has no pull with a clock. */
export function meanSeconds({ pulls }: TimedSweeps, arm: string, at: number): number | null {
  const own = pulls.filter((p) => p.arm === arm).map((p) => p.seconds[at]);
  const known = own.filter((v): v is number => v != null);
  return known.length > 0 && known.length === own.length
    ? known.reduce((a, b) => a + b, 0) / known.length
    : null;
}
