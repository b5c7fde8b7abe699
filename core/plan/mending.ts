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
  /** Days on which it is run: from two on it may be graded repeated. */ readonly days: 1 | 2;
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

/** A way of running it: strapped down once or for every run, on one day or on two. */
interface Way {
  readonly orders: readonly MendingOrder[];
  readonly remount: boolean;
  readonly days: 1 | 2;
}
const waysOf = ({ remount }: MendingInput): Way[] => [
  { orders: ORDERS, remount, days: 1 },
  { orders: ORDERS, remount: !remount, days: 1 },
  { orders: ['A-B-A'], remount, days: 2 },
];
const cheapest = (plans: readonly Mended[]): Mended[] =>
  [...plans].sort((a, b) => a.hours - b.hours || a.driven - b.driven).slice(0, 1);

/**
 * The cheapest session for each chance, run as the one before was or on two days; those that no number of pulls
 * reaches are left out.
 */
export function mendingPlans(input: MendingInput): Mended[] {
  const [asBefore, , days] = waysOf(input);
  return MENDING_CHANCES.flatMap((asked) =>
    cheapest([asBefore, days].flatMap((way) => plansOf(input, way, asked))),
  );
}
/** The other ways that have the larger chance, the cheapest of each: other mountings, other days. */
export function otherWays(input: MendingInput): Mended[] {
  const asked = MENDING_CHANCES.at(-1)!;
  const chosen = mendingPlans(input).find((plan) => plan.asked === asked);
  return waysOf(input)
    .flatMap((way) => cheapest(plansOf(input, way, asked)))
    .filter((plan) => plan.days !== chosen?.days || plan.remount !== chosen.remount);
}
const plansOf = (input: MendingInput, way: Way, asked: number): Mended[] =>
  way.orders.flatMap((order) => plansFor(input, order, way, asked));

function plansFor(input: MendingInput, order: MendingOrder, { remount, days }: Way, asked: number): Mended[] {
  const { metric, gain, scatter, alpha, warmUps } = input;
  if (!(gain > 0)) return [];
  const letters = order.split('-') as ('A' | 'B')[];
  const contrast = { order: letters, warmUps, remount, days };
  const pulls = pullsNeeded(metric, contrast, scatter, gain, asked, alpha, MOST_PULLS);
  if (pulls === undefined) return [];
  // Fewer than three a run are not claim grade, whatever their chance.
  const pullsPerRun = Math.max(3, pulls);
  const driven = days * letters.length * (pullsPerRun + warmUps);
  const hours = days * hoursOf({ ...input, remount }, letters.length, pullsPerRun);
  const cost = input.before ? (input.before.cost * hours) / wholeHours(input.before) : null;
  const chance = designPower(metric, { ...contrast, pullsPerRun }, scatter, gain, alpha);
  return [{ asked, chance, order, remount, days, pullsPerRun, driven, hours, cost }];
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
