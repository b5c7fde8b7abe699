import { pctFromLp } from '../base/units.ts';
import type { BoostedSchool, Engine } from '../base/standards.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import type { ComparedPull } from '../compare/compared-pull.ts';
import type { ContrastResult } from '../compare/result.ts';
import { factorDifference } from '../correct/factor-difference.ts';
import { contrastWeights } from '../plan/contrast-weights.ts';

/** What correcting for air leaves open in a contrast, %; nothing where a pull of it has no reading of its own. */
export function correctionLeft(
  { pulls: defined, standard, airSensors = {} }: TestDefinition,
  pulls: readonly ComparedPull[],
  { arm }: Pick<ContrastResult, 'arm'>,
  { engine, school, covariate }: { engine: Engine; school: BoostedSchool; covariate: boolean },
): ContrastResult['correction'] {
  const weights = contrastWeights({
    arm: pulls.map((pull) => (pull.arm === arm ? 1 : 0)),
    order: pulls.map((pull) => pull.order),
    covariate,
  });
  const readings = pulls.map(({ id }) => defined.find((pull) => pull.id === id)?.air);
  const weighed = readings.flatMap((reading, i) => (reading ? [{ weight: weights[i], reading }] : []));
  if (weighed.length < pulls.length) return undefined;
  const left = factorDifference(weighed, { standard, engine, school }, airSensors);
  return {
    difference: pctFromLp(left.difference),
    least: pctFromLp(left.least),
    most: pctFromLp(left.most),
    rule: pctFromLp(left.betweenStandards),
    sensors: left.sensors === null ? null : pctFromLp(left.sensors),
  };
}
