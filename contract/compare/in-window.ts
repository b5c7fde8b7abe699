/** Averages over a window that somebody chose after seeing the result. */
import { z } from 'zod';

export const WindowQuery = z
  .object({ fromRpm: z.coerce.number().min(0).max(30_000), toRpm: z.coerce.number().min(0).max(30_000) })
  .refine((w) => w.toRpm - w.fromRpm >= 1000, 'The window must span at least 1 000 rpm.');
const IntervalSchema = z.object({ gain: z.number(), lower: z.number(), upper: z.number() });
export const InWindowSchema = z.object({
  fromRpm: z.number(),
  toRpm: z.number(),
  averages: z.array(
    z.object({ arm: z.string(), pct: IntervalSchema, kw: IntervalSchema, nm: IntervalSchema }),
  ),
  refused: z.array(z.object({ arm: z.string(), code: z.string() })),
});
export type InWindowShown = z.infer<typeof InWindowSchema>;
