/** How far it is with something that is computed while a person waits. */
import { z } from 'zod';

export const UnderWayQuery = z.object({
  /** The address that was asked, behind /api. */ path: z.string().min(1).max(200),
});
/** Steps done of how many; null where nothing is known of it. */
export const UnderWaySchema = z.object({ done: z.number(), of: z.number() }).nullable();
export type UnderWay = z.infer<typeof UnderWaySchema>;
