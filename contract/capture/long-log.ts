/** One long log with several pulls, split into them. */
import { z } from 'zod';

export const LongLogQuery = z.object({ name: z.string().min(1).max(200) });
export const LongLogSchema = z.object({
  id: z.string(),
  name: z.string(),
  sha256: z.string(),
  /** Whether its pieces are pulls; else they are what the engine logged during pulls that are there. */
  hasTorque: z.boolean(),
  pieces: z.array(
    z.object({
      fromLine: z.number(),
      toLine: z.number(),
      fromRpm: z.number(),
      toRpm: z.number(),
      atS: z.number().nullable(),
      seconds: z.number().nullable(),
    }),
  ),
});
export type LongLog = z.infer<typeof LongLogSchema>;
export const PlacePieces = z.object({
  places: z
    .array(z.object({ piece: z.number().int().min(0).max(500), pullId: z.uuid() }))
    .min(1, 'Choose a place for at least one pull.')
    .max(200)
    .refine((p) => new Set(p.map((x) => x.pullId)).size === p.length, 'A place is chosen twice.')
    .refine((p) => new Set(p.map((x) => x.piece)).size === p.length, 'A pull is placed twice.'),
});
export type PlacePieces = z.infer<typeof PlacePieces>;
/** What became of each piece: one that is refused bars no other. */
export const PlacedSchema = z.object({
  placed: z.array(z.object({ piece: z.number(), pullId: z.string(), problem: z.string().nullable() })),
});
export type Placed = z.infer<typeof PlacedSchema>;
