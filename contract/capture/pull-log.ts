/** A log joined to a pull, as the interface reads and changes it. */
import { z } from 'zod';

/** Further apart no two clocks of one session are meant to be, s. */
export const MOST_SHIFT_S = 86_400;
export const PullLogQuery = z.object({ name: z.string().min(1).max(200) });
export const ShiftRequest = z.object({ offsetS: z.number().min(-MOST_SHIFT_S).max(MOST_SHIFT_S) });

const Trace = z.object({ t: z.array(z.number()), rpm: z.array(z.number()) });
export const PullLogSchema = z.object({
  name: z.string(),
  sha256: z.string(),
  offsetS: z.number(),
  /** Where the engine speeds meet; null where they do so nowhere. */ foundOffsetS: z.number().nullable(),
  correlation: z.number().nullable(),
  /** Channels the log adds to the pull, as people call them. */ adds: z.array(z.string()),
  /** Engine speed of both over their own time, thinned for drawing. */
  pull: Trace,
  log: Trace,
});
export type PullLogShown = z.infer<typeof PullLogSchema>;
