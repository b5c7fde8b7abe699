/** The calendar of dyno days. */
import { z } from 'zod';

const instant = z.iso.datetime({ offset: true });
export const SpanSchema = z.object({ start: z.string(), end: z.string() });
export const BookingSchema = z.object({
  testId: z.string(),
  number: z.number(),
  title: z.string(),
  vehicleId: z.string(),
  vehicle: z.string(),
  dynoId: z.string(),
  start: z.string(),
  end: z.string(),
  blocks: z.array(SpanSchema),
  pulls: z.number(),
  placedBy: z.string(),
  locked: z.boolean(),
  begun: z.boolean(),
});
export type Booking = z.infer<typeof BookingSchema>;
export const WaitingSchema = z.object({
  testId: z.string(),
  number: z.number(),
  title: z.string(),
  vehicle: z.string(),
  vehicleId: z.string(),
  dynoId: z.string(),
  minutes: z.number(),
  dynoMinutes: z.number(),
  pulls: z.number(),
  priority: z.number(),
  notBefore: z.string().nullable(),
  due: z.string().nullable(),
  locked: z.boolean(),
});
export type Waiting = z.infer<typeof WaitingSchema>;
export const ClosureSchema = z.object({
  id: z.string(),
  dynoId: z.string(),
  start: z.string(),
  end: z.string(),
  reason: z.string(),
});
export const ScheduleSchema = z.object({
  from: z.string(),
  to: z.string(),
  dynos: z.array(
    z.object({ id: z.string(), name: z.string(), timeZone: z.string(), openings: z.array(SpanSchema) }),
  ),
  bookings: z.array(BookingSchema),
  /** Tests without a place, those due first; the first hundred of them. */
  waiting: z.array(WaitingSchema),
  waitingTotal: z.number(),
  closures: z.array(ClosureSchema),
});
export type ScheduleShown = z.infer<typeof ScheduleSchema>;
export const ScheduleQuery = z.object({
  from: z.iso.date(),
  days: z.coerce.number().int().min(1).max(62).default(7),
});
export const PlaceRequest = z.object({
  testId: z.uuid(),
  dynoId: z.uuid(),
  start: instant,
  placedBy: z.enum(['person', 'suggestion']).default('person'),
});
export type PlaceRequest = z.input<typeof PlaceRequest>;
/** The next place of a test, from a moment on; none where its dyno or vehicle has no room in the days looked through. */
export const FreeQuery = z.object({ from: instant });
export const FreeSchema = z.object({ start: z.string().nullable() });
export const PlaceManyRequest = z.object({ placements: z.array(PlaceRequest).min(1).max(200) });
export const SuggestRequest = z.object({ from: instant, days: z.number().int().min(1).max(62).default(28) });
export const SuggestionSchema = z.object({
  placements: z.array(
    z.object({
      testId: z.string(),
      number: z.number(),
      title: z.string(),
      vehicle: z.string(),
      dynoId: z.string(),
      dyno: z.string(),
      start: z.string(),
      end: z.string(),
      blocks: z.array(SpanSchema),
      pulls: z.number(),
    }),
  ),
  unplaced: z.array(
    z.object({
      testId: z.string(),
      number: z.number(),
      title: z.string(),
      pulls: z.number(),
      reason: z.string(),
    }),
  ),
});
export type Suggestion = z.infer<typeof SuggestionSchema>;
export const ClosureRequest = z
  .object({
    dynoId: z.uuid(),
    start: instant,
    end: instant,
    reason: z.string().trim().min(3, 'Say why it is closed.').max(200),
  })
  .refine((c) => Date.parse(c.end) > Date.parse(c.start), {
    message: 'It would end before it begins.',
    path: ['end'],
  });
