/** The audit trail: who did what to which record, newest first, in pages. */
import { z } from 'zod';

export const TRAIL_KINDS = [
  'test',
  'claim',
  'vehicle',
  'part',
  'fitment',
  'dyno',
  'calibration',
  'policy',
  'import',
  'person',
] as const;
export const TrailQuery = z.object({
  /** Letters of a person’s name or of what was done. */ q: z.string().trim().max(200).default(''),
  kind: z.enum(TRAIL_KINDS).optional(),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(60),
});
export type TrailQuery = z.input<typeof TrailQuery>;
export const TrailEntrySchema = z.object({
  id: z.number(),
  at: z.string(),
  person: z.string(),
  action: z.string(),
  kind: z.string(),
  subjectId: z.string(),
  /** What the record is called now, for who reads; its id where it has no name. */ about: z.string(),
  /** Page of the record, where it has one. */ href: z.string().nullable(),
  detail: z.record(z.string(), z.unknown()),
});
export type TrailEntry = z.infer<typeof TrailEntrySchema>;
export const TrailPageSchema = z.object({
  items: z.array(TrailEntrySchema),
  next: z.string().nullable(),
  total: z.number(),
});
export type TrailPage = z.infer<typeof TrailPageSchema>;
