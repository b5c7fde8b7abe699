/** What would decide a test that shows nothing yet: the least that a new session would have to be, by the planner’s own rules. */
import { drivenMinutes, USUAL_TIMES, type PlanHours } from './hours.ts';
import type { Metric } from './metrics.ts';
import { designPower, pullsNeeded, type Scatter } from './sample-size.ts';

export type MendingOrder = 'A-B-A' | 'A-B-B-A';
export interface Mended {
  /** Chance asked for, and the one it has if the gain is what the test read. */
  readonly asked: number;
  readonly chance: number;
  readonly order: MendingOrder;
  readonly remount: boolean;
  readonly pullsPerRun: number;
  /** Pulls driven, uncounted ones too. */ readonly driven: number;
  readonly hours: number;
  /** In the dyno’s currency; null where the plan before had no hours. */ readonly cost: number | null;
}
export interface MendingInput {
  readonly metric: Metric;
  /** The gain that is to be shown, lp: what the test read. */ readonly gain: number;
  readonly scatter: Scatter;
  readonly alpha: number;
  readonly warmUps: number;
  readonly coolDownMinutes: number;
  /** Hours of the plan before, for set-up, installs and rates; and how often it changed between arms. */
  readonly before: (PlanHours & { readonly swaps: number }) | null;
  /** Whether the runs have to be strapped down anew: a swap that cannot be done on the rollers. */
  readonly remount: boolean;
}

/** Chances that are asked for, and pulls a run beyond which a plan is none. */
export const MENDING_CHANCES = [0.8, 0.9] as const;
const MOST_PULLS = 12;
/** Both change to the part once and back once. */
const SWAPS = 2;
const ORDERS: readonly MendingOrder[] = ['A-B-A', 'A-B-B-A'];

/** The cheapest session for each chance; those that no number of pulls reaches are left out. */
export function mendingPlans(input: MendingInput): Mended[] {
  return MENDING_CHANCES.flatMap((asked) => {
    const all = ORDERS.flatMap((order) => plansFor(input, order, asked));
    return all.sort((a, b) => a.hours - b.hours || a.driven - b.driven).slice(0, 1);
  });
}

function plansFor(input: MendingInput, order: MendingOrder, asked: number): Mended[] {
  const { metric, gain, scatter, alpha, warmUps, remount } = input;
  if (!(gain > 0)) return [];
  const letters = order.split('-') as ('A' | 'B')[];
  const contrast = { order: letters, warmUps, remount };
  const pulls = pullsNeeded(metric, contrast, scatter, gain, asked, alpha, MOST_PULLS);
  if (pulls === undefined) return [];
  // Fewer than three a run are not claim grade, whatever their chance.
  const pullsPerRun = Math.max(3, pulls);
  const driven = letters.length * (pullsPerRun + warmUps);
  const hours = hoursOf(input, letters.length, pullsPerRun);
  const cost = input.before ? (input.before.cost * hours) / wholeHours(input.before) : null;
  const chance = designPower(metric, { ...contrast, pullsPerRun }, scatter, gain, alpha);
  return [{ asked, chance, order, remount, pullsPerRun, driven, hours, cost }];
}

const wholeHours = ({ dynoHours, offDynoHours }: PlanHours): number => dynoHours + offDynoHours;

function hoursOf(input: MendingInput, runs: number, pullsPerRun: number): number {
  const { before } = input;
  const { strapping, pulls, coolDowns } = drivenMinutes({ ...input, runs, pullsPerRun });
  const setUp = before?.minutes.setUp ?? USUAL_TIMES.setUpMinutes;
  const swaps = before
    ? (SWAPS / Math.max(1, before.swaps)) * (before.minutes.installs + before.minutes.settings)
    : 0;
  return (setUp + strapping + pulls + coolDowns + swaps) / 60;
}
