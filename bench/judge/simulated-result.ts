/** A simulated session from its scenario to its result, through the files it writes. */
import { readTestFile, type TestFile } from '../../contract/judge/test-file.ts';
import { analyseTest, type TestResult } from '../../core/judge/analyse-test.ts';
import { ScenarioSchema, type Scenario } from '../capture/scenario.ts';
import { simulateSession } from './simulate.ts';
import type { z } from 'zod';

export interface SimulatedResult {
  readonly result: TestResult;
  readonly test: TestFile;
  readonly read: (path: string) => Uint8Array;
}
type ScenarioGiven = Partial<z.input<typeof ScenarioSchema>> & Pick<Scenario, 'seed'>;

/**
 * @param change what the test definition says beside the scenario @param rewrite changes the text of each file
 */
export function simulatedResult(
  scenario: ScenarioGiven,
  change: (test: TestFile) => Partial<TestFile> = () => ({}),
  rewrite: (text: string) => string = (text) => text,
): SimulatedResult {
  const { test, files } = simulateSession(
    ScenarioSchema.parse({
      format: 'evidentia-scenario/1',
      title: 'simulated',
      engine: 'na4',
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      protocol: { order: ['stock', 'part', 'stock'] },
      ...scenario,
    }),
  );
  const read = (path: string): Uint8Array =>
    new TextEncoder().encode(rewrite(files.find((f) => f.path === path)!.text));
  return { result: analyseTest(readTestFile({ ...test, ...change(test) }), read).result, test, read };
}
