/** What a plan can see, as the planner shows it: smallest gains, pulls needed, and how they grow with pulls and re-mounting. */
import { pctFromLp } from '../base/units.ts';
import type { Guard } from '../base/guard.ts';
import type { Repeatability } from '../register/repeatability.ts';
import type { Metric } from './metrics.ts';
import {
  pullsNeeded,
  scatterFor,
  smallestGain,
  designPrecision,
  type PlannedContrast,
  type Scatter,
} from './sample-size.ts';

export interface PrecisionInput {
  /** Keys of arms in run order, and which is the baseline. */
  readonly order: readonly string[];
  readonly baseline: string;
  readonly arm: string;
  readonly pullsPerRun: number;
  readonly warmUps: number;
  readonly remount: boolean;
  /** Whether the plan has no return because the part cannot come off again. */ readonly oneWay?: boolean;
  readonly metrics: readonly Metric[];
  readonly partArms: number;
  readonly repeatability: Repeatability;
  readonly driftBound: number;
  readonly confidence: number;
  readonly guard: Guard;
  /** Gain one would like to see, %. */
  readonly wantedPct: number;
}
export interface MetricPrecision {
  readonly metric: Metric;
  readonly assumed: boolean;
  /** Smallest gain shown with 80 and 90 % power, %; null where the design cannot be analysed. */ readonly pct80:
    number | null;
  readonly pct90: number | null;
  /** Counted pulls a run for the gain wanted at 90 %; null where no number up to forty does. */ readonly pulls:
    number | null;
}
export interface Precision {
  readonly metrics: readonly MetricPrecision[];
  /** Smallest gain at 90 % power over counted pulls a run, %, for the first metric. */
  readonly curve: readonly {
    readonly pulls: number;
    readonly oneMount: number | null;
    readonly remounted: number | null;
  }[];
  /** The same plan as A-B and as A-B-A, on one mounting, for the first metric: what the return to baseline buys. */
  readonly returns: readonly {
    readonly design: 'A-B' | 'A-B-A';
    readonly pct90: number | null;
    readonly driftShare: number;
  }[];
  /** The same part without return, its day and mountings carried: beside A-B-A, what not coming off costs. */
  readonly oneWay: { readonly pct90: number | null; readonly registered: boolean };
  /** Where twelve pulls are planned as A-B-A: what the same twelve see with the part run twice. */
  readonly twice: { readonly pct90: number | null; readonly instead: number | null } | null;
  readonly mountAssumed: boolean;
}

const MOST_PULLS = 12;
/** Twelve counted pulls give more as four equal runs than as three: the part is then run as often as the baseline. */
export const TWELVE_AS_FOUR_RUNS = { order: ['A', 'B', 'B', 'A'], pullsPerRun: 3 } as const;
const isTwelveAsThreeRuns = ({ order, pullsPerRun }: PlannedContrast): boolean =>
  order.join('') === 'ABA' && pullsPerRun === 4;

const pct = (lp: number | undefined): number | null => (lp === undefined ? null : pctFromLp(lp));

const RETURNS = ['A-B', 'A-B-A'] as const;
const WITHOUT_RETURN = { order: ['A', 'A', 'B', 'B'], remount: true, oneWay: true } as const;

function returnOf(
  design: (typeof RETURNS)[number],
  contrast: PlannedContrast,
  metric: Metric,
  scatter: Scatter,
  alpha: number,
): Precision['returns'][number] {
  const own: PlannedContrast = {
    ...contrast,
    remount: false,
    oneWay: false,
    order: design.split('-') as ('A' | 'B')[],
  };
  const known = designPrecision(own, scatter);
  return {
    design,
    pct90: pct(smallestGain(metric, own, scatter, 0.9, alpha)),
    driftShare: known ? known.driftVariance / known.uc ** 2 : 0,
  };
}

export function precisionOf(input: PrecisionInput): Precision {
  const alpha = (1 - input.confidence) / 2 / Math.max(1, input.partArms) / Math.max(1, input.metrics.length);
  const letters = input.order.map((key) =>
    key === input.baseline ? ('A' as const) : key === input.arm ? ('B' as const) : ('other' as const),
  );
  const contrast: PlannedContrast = {
    order: letters,
    pullsPerRun: input.pullsPerRun,
    warmUps: input.warmUps,
    remount: input.remount,
    oneWay: input.oneWay,
  };
  const scattered = (metric: Metric) =>
    scatterFor(metric, input.repeatability, input.driftBound, input.guard);
  const scatters = new Map(input.metrics.map((metric) => [metric, scattered(metric)]));
  const wanted = 100 * Math.log1p(input.wantedPct / 100);
  const [first] = input.metrics;
  const scatter = scatters.get(first)!;
  const at = (n: number, remount: boolean): number | null =>
    pct(
      smallestGain(
        first,
        { ...contrast, pullsPerRun: n, remount, oneWay: remount && input.oneWay },
        scatter,
        0.9,
        alpha,
      ),
    );
  return {
    metrics: input.metrics.map((metric) => {
      const own = scatters.get(metric)!;
      return {
        metric,
        assumed: own.assumed.scatter,
        pct80: pct(smallestGain(metric, contrast, own, 0.8, alpha)),
        pct90: pct(smallestGain(metric, contrast, own, 0.9, alpha)),
        pulls: wanted > 0 ? (pullsNeeded(metric, contrast, own, wanted, 0.9, alpha) ?? null) : null,
      };
    }),
    curve: Array.from({ length: MOST_PULLS - 1 }, (_, i) => ({
      pulls: i + 2,
      oneMount: input.oneWay ? null : at(i + 2, false),
      remounted: at(i + 2, true),
    })),
    returns: RETURNS.map((design) => returnOf(design, contrast, first, scatter, alpha)),
    twice: isTwelveAsThreeRuns(contrast)
      ? {
          pct90: pct(smallestGain(first, { ...contrast, ...TWELVE_AS_FOUR_RUNS }, scatter, 0.9, alpha)),
          instead: pct(smallestGain(first, contrast, scatter, 0.9, alpha)),
        }
      : null,
    oneWay: {
      pct90: pct(smallestGain(first, { ...contrast, ...WITHOUT_RETURN }, scatter, 0.9, alpha)),
      registered: input.repeatability.mount !== undefined && input.repeatability.day !== undefined,
    },
    mountAssumed: scatter.assumed.mount,
  };
}
