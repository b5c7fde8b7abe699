/** What the catalogue editor takes over into the shop: claims published, gone stale or withdrawn. */
import { z } from 'zod';
import { PublicClaimSchema } from './claim.ts';

export const SHELF_EVENTS = ['published', 'stale', 'withdrawn'] as const;
export const ShelfItemSchema = z.object({
  /** The event of the claim: the newest of its kind. */ eventId: z.number(),
  what: z.enum(SHELF_EVENTS),
  at: z.string(),
  /** Published, and something under it has changed without an answer. */ inQuestion: z.boolean(),
  claim: PublicClaimSchema,
  takenOver: z.object({ by: z.string(), at: z.string() }).nullable(),
});
export type ShelfItem = z.infer<typeof ShelfItemSchema>;
export const ShelfSchema = z.object({
  /** What has not been taken over, oldest first. */ open: z.array(ShelfItemSchema),
  /** What was taken over last, newest first. */ done: z.array(ShelfItemSchema),
});
export type Shelf = z.infer<typeof ShelfSchema>;
export const ShelfEvent = z.object({ eventId: z.coerce.number().int().positive() });
