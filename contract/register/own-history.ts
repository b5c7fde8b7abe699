/** How far pulls of a dyno scatter, by its own finished tests. */
import { z } from 'zod';

const Known = z.object({ variance: z.number(), df: z.number() });
export const OwnHistorySchema = z.object({
  /** Null where the finished tests are too few. */
  history: z
    .object({ curve: Known, bandAverage: Known, peak: Known, sessions: z.number(), dfTotal: z.number() })
    .nullable(),
  /** Numbers of the finished tests that were looked at. */ tests: z.array(z.number()),
});
export type OwnHistoryShown = z.infer<typeof OwnHistorySchema>;
