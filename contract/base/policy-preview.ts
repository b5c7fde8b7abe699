/** What a policy that is not in force yet would change among the claims that are public. */
import { z } from 'zod';
import { PolicySchema } from './policy.ts';

/** Claims that would change, shown at the most. */
export const PREVIEW_MOST = 200;
export const PolicyPreviewSchema = z.object({
  id: z.string(),
  state: z.enum(['running', 'done', 'cancelled']),
  policy: PolicySchema,
  reason: z.string(),
  askedAt: z.string(),
  /** Claims that are public, and of them looked at. */ total: z.number(),
  done: z.number(),
  /** Of those so many would go stale. */ change: z.number(),
  claims: z.array(
    z.object({
      id: z.string(),
      subject: z.string(),
      fitment: z.string(),
      wording: z.string(),
      instead: z.string(),
    }),
  ),
});
export type PolicyPreview = z.infer<typeof PolicyPreviewSchema>;
