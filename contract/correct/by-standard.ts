/** One test under every standard, as the interface reads it. */
import { z } from 'zod';
import { BOOSTED_SCHOOLS, STANDARDS } from '../../core/base/standards.ts';

export const ByStandardSchema = z.object({
  standards: z.array(
    z.object({
      standard: z.enum(STANDARDS),
      school: z.enum(BOOSTED_SCHOOLS),
      gains: z.array(
        z.object({
          arm: z.string(),
          average: z.object({ gain: z.number(), lower: z.number(), upper: z.number() }),
          upToPct: z.number(),
          upToKw: z.number(),
          upToRpm: z.number(),
        }),
      ),
      why: z.string().nullable(),
    }),
  ),
});
export type ByStandard = z.infer<typeof ByStandardSchema>;
