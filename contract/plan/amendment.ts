/** A change to a locked plan as it is shown: apart from plans, for readers of evidence. */
import { z } from 'zod';
import { AMENDABLE } from '../../core/plan/amendment.ts';

export const AmendmentSchema = z.object({
  number: z.number(),
  at: z.string(),
  person: z.string(),
  reason: z.string(),
  planHash: z.string(),
  changes: z.array(z.object({ field: z.enum(AMENDABLE), from: z.string(), to: z.string() })),
});
export type AmendmentShown = z.infer<typeof AmendmentSchema>;
