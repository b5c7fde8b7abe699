/** The bench with what the records say of each other: what is off, what is missing, what departs from the plan. */
import { z } from 'zod';
import { BenchSchema } from '../capture/bench.ts';
import { NOTICE_CODES } from '../../core/correct/watch/notice.ts';
import type { Departure } from '../../core/capture/session/next-place.ts';

const NoticeSchema = z.object({
  code: z.enum(NOTICE_CODES),
  recordingId: z.string().nullable(),
  tone: z.enum(['stop', 'ask', 'know']),
  message: z.string(),
  advice: z.string(),
});
export const WatchedBenchSchema = BenchSchema.extend({
  /** Grid of the curves of the recordings, rpm. */ rpm: z.array(z.number()),
  notices: z.array(NoticeSchema),
  /** SD of the counted pulls about their runs, and the dyno's own, per cent. */
  spread: z.object({ sd: z.number(), pulls: z.number() }).nullable(),
  historySd: z.number().nullable(),
  /** Why the car is not to be unstrapped yet; empty when all is there. */ missing: z.array(z.string()),
  departures: z.array(z.custom<Departure>((value) => typeof value === 'object' && value !== null)),
});
export type WatchedBench = z.infer<typeof WatchedBenchSchema>;
