import { lp } from '../../core/base/units.ts';
import type { TestDefinition } from '../../core/capture/test-definition.ts';
import type { ContrastResult } from '../../core/compare/result.ts';
import type { TogetherSession } from '../../core/judge/together.ts';
import { runsOf } from '../../core/plan/design.ts';
import type { Held } from './every-test.ts';

const totalOf = ({ budget }: ContrastResult): number => budget.reduce((sum, part) => sum + part.variance, 0);
const partOf = ({ budget }: ContrastResult, source: string): number =>
  budget.find((part) => part.source === source)?.variance ?? 0;

/** A held test as it is put together with others. */
export function sessionOf(one: Held): TogetherSession {
  const { contrast, inputs, day, vehicle, dyno } = one;
  const definition = inputs.definition as TestDefinition;
  const { gain, lower, upper, df } = contrast.relative.bandAverage;
  const base = {
    vehicle,
    dyno,
    day,
    gain: lp(1 + gain / 100),
    lower: lp(1 + lower / 100),
    upper: lp(1 + upper / 100),
    variance: totalOf(contrast),
    df,
    drift: partOf(contrast, 'drift'),
    mount: definition.repeatability?.mount,
    guard: definition.guard ?? ('strict' as const),
  };
  // Moved by a start temperature, compared by mountings, fitted with a drift, without return or with pulls left out:
  // as it stands.
  const isPlain =
    !contrast.startTemperature &&
    definition.oneWay === undefined &&
    contrast.rule === 'pooled, guarded' &&
    definition.model?.drift !== 'linear' &&
    definition.pulls.every((pull) => pull.excluded === undefined);
  const pulls = isPlain ? pullsOf(one, definition) : undefined;
  return { ...base, ...(pulls ? { pulls } : {}) };
}

/** Counted pulls of the two arms with their curves, from where all of them have one. */
function pullsOf({ contrast, result, curves }: Held, { pulls }: TestDefinition): TogetherSession['pulls'] {
  const runs = runsOf(pulls).filter((run) => run.arm === contrast.arm || run.arm === contrast.against);
  const each = runs.flatMap((run, r) => run.counted.map((pull) => ({ pull, r })));
  const found = each.map(({ pull, r }) => ({
    pull,
    r,
    average: result.pulls.find((p) => p.id === pull.id)?.averageLp,
    curve: curves.pulls.find((p) => p.id === pull.id)?.powerKw,
  }));
  const at = contrast.power.curve.map(({ rpm }) => curves.rpm.indexOf(rpm));
  const rows = found.map(({ curve }) => at.map((j) => (curve?.[j] ? lp(curve[j]) : NaN)));
  if (rows.some((row) => row.some((v) => !Number.isFinite(v)))) return undefined;
  if (found.some(({ average }) => average === undefined)) return undefined;
  return {
    arm: found.map(({ pull }) => (pull.arm === contrast.arm ? 1 : 0)),
    run: found.map(({ r }) => r),
    mount: found.map(({ pull }) => pull.mount),
    order: found.map(({ pull }) => pull.order),
    averages: found.map(({ average }) => average!),
    curves: rows,
  };
}
