/** Coverage: how far the evidence has come for each part on each fitment. */
import { z } from 'zod';
import { EVIDENCE_STATES } from '../../core/register/worth-testing.ts';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import { GlyphSchema } from '../compare/glyph.ts';

export const CoverageQuery = z.object({
  q: z.string().trim().max(200).default(''),
  part: z.string().trim().max(200).default(''),
  family: z.string().max(40).optional(),
  category: z.enum(PART_CATEGORIES).optional(),
  launchFrom: z.iso.date().optional(),
  launchTo: z.iso.date().optional(),
  state: z.enum(EVIDENCE_STATES).optional(),
  group: z.enum(['fitments', 'families']).default('fitments'),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(30),
});
export type CoverageQuery = z.input<typeof CoverageQuery>;
/** What is left out of a cell is none: no test, no curve, no sibling with a finding. */
export const CoverageCellSchema = z.object({
  partId: z.string(),
  state: z.enum(EVIDENCE_STATES),
  testId: z.string().optional(),
  tests: z.number().optional(),
  glyph: GlyphSchema.optional(),
  /** A sibling fitment has a finding that could be told here as advice. */ familyServed: z
    .boolean()
    .optional(),
  /** Something from before is registered: a printed graph, a number on a page. */ legacy: z
    .boolean()
    .optional(),
});
export type CoverageCell = z.infer<typeof CoverageCellSchema>;
export const CoverageRowSchema = z.object({
  id: z.string(),
  name: z.string(),
  family: z.string(),
  outputVariant: z.string(),
  unitsPerYear: z.number(),
  cells: z.array(CoverageCellSchema),
  /** Number of the group of the family that one test serves; rows of one number share it. */
  group: z.number().nullable(),
});
export type CoverageRow = z.infer<typeof CoverageRowSchema>;
export const CoverageSchema = z.object({
  parts: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      sku: z.string(),
      category: z.enum(PART_CATEGORIES),
      launchDate: z.string().nullable(),
    }),
  ),
  rows: z.array(CoverageRowSchema),
  next: z.string().nullable(),
  total: z.number(),
  counts: z.record(z.string(), z.number()),
});
export type Coverage = z.infer<typeof CoverageSchema>;
export const NextQuery = CoverageQuery.omit({ group: true, state: true });
export const WorthRowSchema = z.object({
  fitmentId: z.string(),
  fitment: z.string(),
  partId: z.string(),
  part: z.string(),
  sku: z.string(),
  category: z.string(),
  state: z.enum(EVIDENCE_STATES),
  testId: z.string().nullable(),
  familyServed: z.boolean(),
  unitsPerYear: z.number(),
  launchDate: z.string().nullable(),
  dynoHours: z.number(),
  score: z.number(),
  alsoServes: z.array(z.string()),
});
export type WorthRow = z.infer<typeof WorthRowSchema>;
export const WorthSchema = z.object({ items: z.array(WorthRowSchema), next: z.string().nullable() });
