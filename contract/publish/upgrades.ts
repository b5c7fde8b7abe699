/** What can be done to a car of a fitment, by the tests there are, as the interface reads it. */
import { z } from 'zod';
import { PART_CATEGORIES } from '../../core/register/parts.ts';

export const UpgradesSchema = z.object({
  fitment: z.string(),
  steps: z.array(
    z.object({
      key: z.string(),
      label: z.string(),
      gain: z.object({ gain: z.number(), lower: z.number(), upper: z.number() }),
      priceCents: z.number().nullable(),
      currency: z.string().nullable(),
      hours: z.number().nullable(),
      after: z.array(z.string()),
      parts: z.array(z.enum(PART_CATEGORIES)),
      tests: z.array(z.object({ id: z.string(), number: z.number() })),
    }),
  ),
});
export type Upgrades = z.infer<typeof UpgradesSchema>;
