/** Baselines of other tests on the same fitment, against that of one test. */
import { z } from 'zod';

export const OtherBaselinesSchema = z.object({
  baselines: z.array(
    z.object({
      testId: z.string(),
      number: z.number(),
      vehicle: z.string(),
      dyno: z.string(),
      /** When its first pull was there; null where nothing says. */
      at: z.string().nullable(),
      sameVehicle: z.boolean(),
      sameDyno: z.boolean(),
      fromRpm: z.number(),
      toRpm: z.number(),
      /** This test's baseline over that one, per cent. */
      pct: z.number(),
    }),
  ),
});
export type OtherBaselines = z.infer<typeof OtherBaselinesSchema>;
