import { analyseTest, type TestAnalysis } from '../../core/judge/analyse-test.ts';
import { underEveryStandard, type UnderStandard } from '../../core/judge/by-standard.ts';
import { byUse, type ArmByUse } from '../../core/judge/by-use.ts';
import type { UsePoint } from '../../core/register/use-profile.ts';
import { inWindow, type InWindow, type Window } from '../../core/judge/in-window.ts';
import type { Policy } from '../../core/base/policy.ts';
import type { TestDefinition } from '../../core/capture/test-definition.ts';
import type { Task } from '../base/threads.ts';

/** Analyses a test: its definition, its raw files by hash, the policy it is judged by. */
export const analyseTask: Task<
  [definition: TestDefinition, files: ReadonlyMap<string, Uint8Array>, policy: Policy],
  TestAnalysis
> = {
  name: 'analyse',
  work: (definition, files, policy, onStep) =>
    analyseTest(definition, (file) => files.get(file), { policy, ...(onStep ? { onStep } : {}) }),
};

/** Averages of a test over another window. */
export const inWindowTask: Task<
  [definition: TestDefinition, files: ReadonlyMap<string, Uint8Array>, policy: Policy, window: Window],
  InWindow
> = {
  name: 'in window',
  work: (definition, files, policy, window, onStep) =>
    inWindow(definition, (file) => files.get(file), policy, window, onStep),
};

/** Analyses a test once under every correction standard. */
export const byStandardTask: Task<
  [definition: TestDefinition, files: ReadonlyMap<string, Uint8Array>, policy: Policy],
  UnderStandard[]
> = {
  name: 'by standard',
  work: (definition, files, policy, onStep) =>
    underEveryStandard(definition, (file) => files.get(file), policy, onStep),
};

/** Gains of a test by the weights of several uses. */
export const byUseTask: Task<
  [
    definition: TestDefinition,
    files: ReadonlyMap<string, Uint8Array>,
    policy: Policy,
    profiles: readonly (readonly UsePoint[])[],
  ],
  ArmByUse[]
> = {
  name: 'by use',
  work: (definition, files, policy, profiles, onStep) =>
    byUse(definition, (file) => files.get(file), policy, profiles, onStep),
};
