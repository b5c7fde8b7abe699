/** Photographs of a test: how the part was fitted, how the car was strapped, what broke. */
import { z } from 'zod';

export const MAX_PHOTO_BYTES = 16 * 1024 * 1024;
export const PhotoQuery = z.object({
  name: z.string().min(1).max(200),
  caption: z.string().trim().max(300).default(''),
  /** Arm that was on the car; left out where it shows none. */ arm: z.string().max(40).optional(),
});
export type PhotoQuery = z.infer<typeof PhotoQuery>;

export const PhotoSchema = z.object({
  id: z.string(),
  name: z.string(),
  caption: z.string(),
  arm: z.string().nullable(),
  sha256: z.string(),
  size: z.number(),
  width: z.number(),
  height: z.number(),
  /** Whether the picture as it came says where it was taken. */ saysWhere: z.boolean(),
  addedAt: z.string(),
  addedBy: z.string(),
});
export const PhotosSchema = z.object({ photographs: z.array(PhotoSchema) });
export type Photo = z.infer<typeof PhotoSchema>;
export type Photos = z.infer<typeof PhotosSchema>;
