/**
 * Second step of an analysis: contrasts between arms, from curves alone. A contrast is named as a pair, so that a
 * ladder can ask stage against stage as well as each against the baseline.
 */
import type { Family } from '../base/family-quantile.ts';
import type { Guard } from '../base/guard.ts';
import { runsOf } from '../plan/design.ts';
import type { OneWayFacts } from '../plan/one-way.ts';
import type { Repeatability } from '../register/repeatability.ts';
import type { TemperatureSlope } from '../register/temperature-slope.ts';
import type { ComparedPull } from './compared-pull.ts';
import { analyseContrast, type AnalysedContrast, type ContrastOutcome } from './contrast-analysis.ts';

export interface ContrastPair {
  readonly arm: string;
  readonly against: string;
}
/** A pull with a curve (NaN throughout where there is none) and whether it stands in the comparison. */
export interface CurvePull extends ComparedPull {
  readonly excluded: boolean;
  /** Whether there is a curve, so that the result is also known with an excluded pull put back. */
  readonly comparable: boolean;
}
export interface CurveSession {
  readonly pulls: readonly CurvePull[];
  readonly grid: readonly number[];
  readonly stepRpm: number;
}
/** How all contrasts of a test are compared. */
export interface Comparison {
  readonly smoothingRpm: number;
  /** One-sided error of all contrasts together. */
  readonly alpha: number;
  /** In what way they belong together, where they are several. */
  readonly together: Family['kind'];
  readonly drift: 'none' | 'linear';
  readonly driftBound: number;
  readonly bracketed: boolean;
  readonly guard: Guard;
  readonly repeatability: Repeatability;
  readonly oneWay?: OneWayFacts | undefined;
  /** Slope over the start temperature the plan names; null where it names none. */
  readonly slope: TemperatureSlope | null;
}
export interface ComparedPair {
  readonly pair: ContrastPair;
  readonly outcome: ContrastOutcome;
  /** The same with excluded pulls put back, where there are any and both can be analysed. */
  readonly withExcluded: AnalysedContrast | null;
}

export function compareTest(
  session: CurveSession,
  pairs: readonly ContrastPair[],
  comparison: Comparison,
): ComparedPair[] {
  // A band is shared out evenly; single numbers hold together as the family allows.
  const error = { alpha: comparison.alpha / pairs.length, family: familyOf(session, pairs, comparison) };
  const contrastOf = ({ arm, against }: ContrastPair, pulls: readonly CurvePull[]): ContrastOutcome =>
    analyseContrast({
      ...comparison,
      ...error,
      arm,
      against,
      grid: session.grid,
      stepRpm: session.stepRpm,
      runs: runsOf(pulls).filter((run) => run.arm === arm || run.arm === against),
    });
  const standing = session.pulls.filter((pull) => !pull.excluded);
  const all = session.pulls.filter((pull) => !pull.excluded || pull.comparable);
  const someBack = session.pulls.some((pull) => pull.excluded && pull.counted && pull.comparable);
  return pairs.map((pair) => {
    const outcome = contrastOf(pair, standing);
    const restored = outcome.ok && someBack ? contrastOf(pair, all) : undefined;
    return { pair, outcome, withExcluded: restored?.ok ? restored.value : null };
  });
}

/** None where a contrast stands alone. */
function familyOf(
  { pulls }: CurveSession,
  pairs: readonly ContrastPair[],
  { alpha, together }: Comparison,
): Family | undefined {
  if (pairs.length < 2) return undefined;
  const arms = new Set(pairs.flatMap(({ arm, against }) => [arm, against]));
  if (together === 'all pairs') return { kind: together, alpha, arms: arms.size };
  if (together === 'stages') return { kind: together, alpha, stages: pairs.length };
  const counted = (arm: string): number =>
    Math.max(1, pulls.filter((p) => p.arm === arm && p.counted && !p.excluded).length);
  const shares = pairs.map(({ arm, against }) => {
    const [own, common] = [1 / counted(arm), 1 / counted(against)];
    return common / (own + common);
  });
  return { kind: together, alpha, shares };
}
