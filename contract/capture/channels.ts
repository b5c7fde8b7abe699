/** What the logger recorded beside torque, as the interface reads it. */
import { z } from 'zod';
import { QUANTITIES } from '../../core/base/quantities.ts';

const Curve = z.object({ unit: z.string(), values: z.array(z.number().nullable()) });
const Curves = z.partialRecord(z.enum(QUANTITIES), Curve);

/** Channels of every pull on the grid of the test, as observed; rounded to five digits, far finer than a line. */
export const ChannelsSchema = z.object({
  rpm: z.array(z.number()),
  pulls: z.array(
    z.object({
      pullId: z.string(),
      label: z.string(),
      arm: z.string(),
      excluded: z.boolean(),
      /** By which version of the reading they were derived from the raw bytes. */ reading: z.string(),
      channels: Curves,
    }),
  ),
});
export type TestChannels = z.infer<typeof ChannelsSchema>;

/** Channels of one pull in full, sample by sample in time order, in internal units. */
export const PullChannelsSchema = z.object({
  label: z.string(),
  sha256: z.string(),
  reading: z.string(),
  samples: z.number(),
  channels: Curves,
});
export type PullChannels = z.infer<typeof PullChannelsSchema>;
