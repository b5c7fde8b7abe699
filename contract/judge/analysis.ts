/** An analysis as the interface reads it. The result is the core's own; it is written once and read as it is. */
import { z } from 'zod';
import type { AirShown } from '../correct/air.ts';
import type { PullCurve } from '../../core/compare/pull-results.ts';
import type { TestResult } from '../../core/judge/analyse-test.ts';

export const AnalysisSchema = z.object({
  id: z.string(),
  number: z.number(),
  at: z.string(),
  softwareVersion: z.string(),
  policyVersion: z.string(),
  inputsHash: z.string(),
  result: z.custom<TestResult>(
    (value) =>
      typeof value === 'object' && value !== null && (value as TestResult).format === 'evidentia-result/1',
  ),
  curves: z.custom<{ rpm: number[]; pulls: PullCurve[] }>(
    (value) => typeof value === 'object' && value !== null && 'rpm' in value,
  ),
});
export type Analysis = z.infer<typeof AnalysisSchema>;

/** Either the analysis, or what it waits for. */
export const AnalysisStateSchema = z.object({
  analysis: AnalysisSchema.nullable(),
  waitsFor: z.array(z.string()),
  problem: z.object({ code: z.string(), message: z.string() }).nullable(),
  air: z.record(z.string(), z.custom<AirShown>()),
});
export type AnalysisState = z.infer<typeof AnalysisStateSchema>;
