/** Plans: what is decided before the first pull. */
import { z } from 'zod';
import { METRICS } from '../../core/plan/metrics.ts';
import { BandSchema, StandardSchema } from '../base/schemas.ts';

/** Orders of arms offered for two arms; A the baseline, B the part. */
export const PROTOCOLS = {
  'A-B-A': { arms: ['stock', 'part', 'stock'], use: 'The default for claims: the closing baseline cancels a steady drift.', cannot: 'Costs a second install.' },
  'A-B-B-A': { arms: ['stock', 'part', 'part', 'stock'], use: 'Best when every run is strapped down anew.', cannot: 'Costs a second strapping of each arm.' },
  'A-B': { arms: ['stock', 'part'], use: 'A quick look before the whole test.', cannot: 'Cannot tell drift from gain: provisional, never published.' },
} as const;
export type Protocol = keyof typeof PROTOCOLS;

export const CreateTestRequest = z.object({
  question: z.string().trim().min(5, 'Say in a sentence what the test is to show.').max(400),
  fitmentId: z.uuid(), vehicleId: z.uuid(), partRevisionId: z.uuid(), dynoId: z.uuid(), partnerId: z.uuid().nullable().default(null),
  standard: StandardSchema.default('sae-j1349'), band: BandSchema.refine((b) => b.toRpm - b.fromRpm >= 1000, 'The band must span at least 1 000 rpm.'),
  metric: z.enum(METRICS), protocol: z.enum(['A-B-A', 'A-B-B-A', 'A-B']), pullsPerRun: z.number().int().min(2).max(12), warmUps: z.number().int().min(0).max(8), remount: z.boolean(),
  gear: z.string().trim().max(60), fuel: z.string().trim().max(60), calibration: z.string().trim().max(120),
});
export type CreateTestRequest = z.infer<typeof CreateTestRequest>;
