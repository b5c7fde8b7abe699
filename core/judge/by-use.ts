/**
 * Gains averaged with the weight a use gives each engine speed. Looked at beside the result: what may be claimed is
 * what the plan named, and a profile is none of it.
 */
import type { Policy } from '../base/policy.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import { isRefused, type Interval } from '../compare/result.ts';
import type { UsePoint } from '../register/use-profile.ts';
import type { OnStep } from '../base/on-step.ts';
import { analyseTest } from './analyse-test.ts';

export interface UseGain {
  /** Share of the profile's weight that lies in the range compared. */
  readonly covered: number;
  /** Per cent; null where less than nine tenths of it do. */
  readonly gain: Interval | null;
}
export interface ArmByUse {
  readonly arm: string;
  /** One a profile, in their order. */
  readonly uses: readonly UseGain[];
}

/** @param readFile bytes of a file named in the definition; undefined when it is not there */
export function byUse(
  test: TestDefinition,
  readFile: (file: string) => Uint8Array | undefined,
  policy: Policy,
  profiles: readonly (readonly UsePoint[])[],
  onStep?: OnStep,
): ArmByUse[] {
  // Looked at alone: it pays for the number of parts, not for the metrics of the plan.
  const one = { ...test, metrics: undefined, metric: 'bandAverage' as const };
  const { contrasts } = analyseTest(one, readFile, {
    policy,
    uses: profiles,
    ...(onStep ? { onStep } : {}),
  }).result;
  return contrasts.flatMap((c) => (isRefused(c) || !c.uses ? [] : [{ arm: c.arm, uses: c.uses }]));
}
