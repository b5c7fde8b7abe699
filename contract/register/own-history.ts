/** How far pulls of a dyno scatter, by its own finished tests. */
import { z } from 'zod';

const Known = z.object({ variance: z.number(), df: z.number() });
export const OwnHistorySchema = z.object({
  /** Null where the finished tests are too few. */
  history: z
    .object({ curve: Known, bandAverage: Known, peak: Known, sessions: z.number(), dfTotal: z.number() })
    .nullable(),
  /** Gains from day to day, by parts that were measured more than once on one car; null where none was. */
  days: z
    .object({
      registered: z.boolean(),
      /** Sessions beyond the first of each. */ repeats: z.number(),
      variance: z.number(),
      df: z.number(),
      tests: z.array(z.array(z.number())),
    })
    .nullable(),
  /** Numbers of the finished tests that were looked at. */ tests: z.array(z.number()),
});
export type OwnHistoryShown = z.infer<typeof OwnHistorySchema>;
