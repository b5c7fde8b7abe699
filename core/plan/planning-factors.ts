/**
 * What the guards of the interval rules cost on average: the mean half-width of an interval over that of the plain
 * formula, when the arms scatter alike. By simulation (`npm run bench -- planning`, seed 20261, 4 000 sessions an
 * entry, on one mounting); the entries for A-B-A 3, 4, 5, A-B 3, 4 and A-B-B-A 2, 3 agree with the study the rules
 * rest on (1.23, 1.15, 1.12; 1.17, 1.08; 1.18, 1.05).
 */
import type { Guard } from '../base/guard.ts';
import type { Metric } from './metrics.ts';

/** By counted pulls a run, from `LEAST_PULLS` on; the last entry stands for all above it. */
interface Costs {
  readonly strict: readonly number[];
  readonly usual: readonly number[];
  readonly curve: readonly number[];
}
export const LEAST_PULLS = 2;

/** By the runs of the two arms, fewer first; alternating runs with an order line come out as A-B-B-A does. */
const COSTS: Readonly<Record<'1+1' | '1+2' | '2+2', Costs>> = {
  '1+1': {
    strict: [1.859, 1.178, 1.078, 1.047, 1.032, 1.025, 1.02, 1.017, 1.015, 1.013, 1.012],
    usual: [1.113, 1.063, 1.055, 1.052, 1.05, 1.05, 1.049, 1.049, 1.049, 1.049, 1.049],
    curve: [1.067, 1.023, 1.02, 1.019, 1.021, 1.021, 1.022, 1.022, 1.023, 1.023, 1.024],
  },
  '1+2': {
    strict: [1.57, 1.232, 1.153, 1.12, 1.096, 1.085, 1.075, 1.07, 1.064, 1.058, 1.055],
    usual: [1.187, 1.121, 1.102, 1.092, 1.083, 1.08, 1.075, 1.074, 1.071, 1.068, 1.068],
    curve: [1.092, 1.058, 1.049, 1.045, 1.04, 1.039, 1.037, 1.037, 1.036, 1.034, 1.035],
  },
  '2+2': {
    strict: [1.177, 1.046, 1.025, 1.017, 1.013, 1.011, 1.01, 1.009, 1.009, 1.008, 1.008],
    usual: [1.066, 1.051, 1.05, 1.049, 1.049, 1.049, 1.049, 1.049, 1.049, 1.049, 1.049],
    curve: [1.023, 1.02, 1.021, 1.022, 1.024, 1.024, 1.025, 1.025, 1.026, 1.026, 1.027],
  },
};

/**
 * Factor on the plain half-width. Designs that were not simulated take the costliest that has as few runs of an arm.
 * @param runs of the baseline and of the other arm
 */
export function guardCost(
  metric: Metric,
  runs: readonly [number, number],
  pulls: number,
  guard: Guard,
): number {
  const least = Math.min(...runs);
  const costs = COSTS[least >= 2 ? '2+2' : Math.max(...runs) === 1 ? '1+1' : '1+2'];
  const of = metric === 'upTo' ? costs.curve : costs[guard];
  return of[Math.min(Math.max(pulls, LEAST_PULLS) - LEAST_PULLS, of.length - 1)];
}
