/** Public claims that no longer stand: what was said, why it fell, and what is said instead. */
import { z } from 'zod';
import { PublicClaimSchema } from './claim.ts';

/**
 * Why a public claim fell: it grew too old; what it rests on has changed and no longer supports it; a person found its
 * number wrong; or it was set aside for a reason that says nothing against the number.
 */
export const FELL_BY = ['age', 'evidence', 'wrong', 'set aside'] as const;
export type FellBy = (typeof FELL_BY)[number];

export const CorrectionsQuery = z.object({
  q: z.string().trim().max(200).default(''),
  fellBy: z.enum(FELL_BY).optional(),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(100).default(30),
});
export type CorrectionsQuery = z.input<typeof CorrectionsQuery>;

/** A claim that says something of the same part on the same fitment, published later. */
export const ReplacementSchema = PublicClaimSchema.pick({
  code: true,
  wording: true,
  publishedAt: true,
});
export type Replacement = z.infer<typeof ReplacementSchema>;

export const CorrectionSchema = PublicClaimSchema.pick({
  code: true,
  fitmentSlug: true,
  fitment: true,
  subject: true,
  tells: true,
  wording: true,
  publishedAt: true,
}).extend({
  fellAt: z.string(),
  fellBy: z.enum(FELL_BY),
  /** In the words of the application, or of who withdrew it. */ reason: z.string(),
  instead: ReplacementSchema.nullable(),
});
export type Correction = z.infer<typeof CorrectionSchema>;
export const CorrectionsSchema = z.object({
  items: z.array(CorrectionSchema),
  next: z.string().nullable(),
  total: z.number(),
});
export type Corrections = z.infer<typeof CorrectionsSchema>;
