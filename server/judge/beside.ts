/** Gates that look beyond the session: the other tests of the part, and the car on the day. Nothing of it is kept. */
import { everyTestGate, kinFindings } from '../../core/judge/every-test.ts';
import { bestOfSeveral } from '../../core/judge/best-of-several.ts';
import { oneCarFindings } from '../../core/judge/one-car.ts';
import { found, told, type Finding, type Found } from '../../core/judge/finding.ts';
import { trueBaselineGate } from '../../core/judge/gates/true-baseline.ts';
import type { Person } from '../../contract/base/http.ts';
import type { Queryable } from '../base/db.ts';
import { baselineFacts } from './baseline-facts.ts';
import type { Every } from './every-test.ts';
import type { Inputs } from './inputs.ts';

/** The best setting of a sweep, until another test of it counts with this one. */
function pickedByItsResult({ definition }: Inputs, arm: string, { own, used }: Every): Found[] {
  const settings = own ? bestOfSeveral(own.result, definition.arms, arm) : null;
  const isConfirmed = used.some((one) => one.testId !== own?.testId);
  return settings === null || isConfirmed
    ? []
    : [found('every test counts', 'fail', 'BEST_OF_SEVERAL', settings)];
}

/** The vehicles put together, each once. */
const carsOf = ({ used }: Every): { tag: string; odometerKm: number }[] => [
  ...new Map(used.map(({ vehicle, odometerKm }) => [vehicle, { tag: vehicle, odometerKm }])).values(),
];

export async function findingsBeside(
  tx: Queryable,
  inputs: Inputs,
  arm: string,
  every: Every,
  /** Who looks, and sees what they may see; nobody: everything there is. */ person?: Person,
): Promise<Finding[]> {
  const facts = await baselineFacts(tx, inputs, person);
  return [
    ...(facts ? trueBaselineGate(facts, arm) : []),
    ...(every.own
      ? [everyTestGate(every.own.contrast, every), ...kinFindings(every.own.contrast, every)]
      : []),
    ...pickedByItsResult(inputs, arm, every),
    ...oneCarFindings(carsOf(every)),
  ].map((finding) => told(finding));
}
