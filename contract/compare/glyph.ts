import { z } from 'zod';

/** The gain ribbon as a list shows it: a few points of the curve and its band, per cent. */
export const GlyphSchema = z.object({
  rpm: z.array(z.number()),
  gain: z.array(z.number()),
  lower: z.array(z.number()),
  upper: z.array(z.number()),
});
export type Glyph = z.infer<typeof GlyphSchema>;
