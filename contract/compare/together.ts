/** All finished tests of one part on one kind of car, as the interface reads them. */
import { z } from 'zod';

const Interval = z.object({ gain: z.number(), lower: z.number(), upper: z.number() });
export const TOGETHER_GRADES = [
  'single',
  'repeated',
  'days disagree',
  'two vehicles',
  'not shown',
  'fleet',
] as const;

/** Gains in per cent, band averages. */
export const TogetherSchema = z.object({
  sessions: z.array(
    z.object({
      testId: z.string(),
      number: z.number(),
      vehicle: z.string(),
      dyno: z.string(),
      at: z.string().nullable(),
      gain: Interval,
      /** Why it is not put together with the others; null where it is. */ left: z.string().nullable(),
    }),
  ),
  vehicles: z.array(
    z.object({
      vehicle: z.string(),
      tests: z.array(z.number()),
      gain: Interval,
      disagree: z.boolean().nullable(),
    }),
  ),
  grade: z.enum(TOGETHER_GRADES).nullable(),
  /** Over vehicles, with two or more: the mean, and where another vehicle is expected (with three or more). */
  mean: Interval.nullable(),
  another: z.object({ lower: z.number(), upper: z.number() }).nullable(),
  /** Share of the differences between vehicles that is not chance, %, and the chance of so much if they were alike. */
  differ: z.object({ share: z.number(), chance: z.number() }).nullable(),
  day: z.object({ sd: z.number(), registered: z.boolean() }),
});
export type TogetherShown = z.infer<typeof TogetherSchema>;
export const TogetherQuery = z.object({ arm: z.string().max(40).default('') });
