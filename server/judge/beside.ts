/** Gates that look beyond the session: the other tests of the part, and the car on the day. Nothing of it is kept. */
import { everyTestGate } from '../../core/judge/every-test.ts';
import { told, type Finding } from '../../core/judge/finding.ts';
import { trueBaselineGate } from '../../core/judge/gates/true-baseline.ts';
import type { Person } from '../../contract/base/http.ts';
import type { Queryable } from '../base/db.ts';
import { baselineFacts } from './baseline-facts.ts';
import type { Every } from './every-test.ts';
import type { Inputs } from './inputs.ts';

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
    ...(every.own ? [everyTestGate(every.own.contrast, every)] : []),
  ].map((finding) => told(finding));
}
