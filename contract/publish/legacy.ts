/** Evidence from before Evidentia: registered to be seen and tested, never claimed. */
import { z } from 'zod';
import {
  FIGURE_OF,
  FIGURE_UNITS,
  LEGACY_KINDS,
  MOST_FIGURES,
  readFigures,
} from '../../core/publish/legacy-figures.ts';

export const MAX_LEGACY_BYTES = 16 * 1024 * 1024;

const FigureSchema = z.object({
  of: z.enum(FIGURE_OF),
  value: z.number(),
  unit: z.enum(FIGURE_UNITS),
  rpm: z.number().nullable(),
  within: z.number(),
});

/** Figures as they are printed, one a line; read by the same words on the page and at the server. */
export const FiguresText = z
  .string()
  .trim()
  .min(1, 'Write down what is printed, one figure a line.')
  .max(20_000)
  .superRefine((text, context) => {
    const { wrong, figures } = readFigures(text);
    for (const { line, why } of wrong.slice(0, 3))
      context.addIssue({ code: 'custom', message: `Line ${line}: ${why}` });
    if (figures.length > MOST_FIGURES)
      context.addIssue({
        code: 'custom',
        message: `At most ${MOST_FIGURES} figures are kept of one source.`,
      });
  });

export const LegacyRequest = z.object({
  fitmentId: z.uuid({ error: 'Choose a fitment.' }),
  partId: z.uuid({ error: 'Choose a part.' }),
  kind: z.enum(LEGACY_KINDS),
  /** Where it comes from: page, issue, folder. */
  source: z.string().trim().min(5, 'Say where it comes from, so that somebody else finds it.').max(300),
  /** What is missing to trust it: air, baseline, number of pulls. */
  missing: z.string().trim().max(1000).default(''),
  figures: FiguresText,
});
export type LegacyRequest = z.infer<typeof LegacyRequest>;

export const LegacyQuery = z.object({
  q: z.string().trim().max(200).default(''),
  fitmentId: z.uuid().optional(),
  partId: z.uuid().optional(),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(100).default(30),
});
export type LegacyQuery = z.input<typeof LegacyQuery>;
export const LegacyFileQuery = z.object({ name: z.string().min(1).max(200) });
export const StrikeRequest = z.object({
  reason: z.string().trim().min(5, 'Give the reason in a sentence.').max(1000),
});

export const LegacySchema = z.object({
  id: z.string(),
  fitmentId: z.string(),
  fitment: z.string(),
  partId: z.string(),
  part: z.string(),
  kind: z.enum(LEGACY_KINDS),
  source: z.string(),
  missing: z.string(),
  figures: z.array(FigureSchema),
  /** Where its figures contradict each other or what is known. */
  doubts: z.array(z.object({ code: z.string(), message: z.string() })),
  /** Tests that measured the part on this fitment since. */
  tests: z.array(z.object({ id: z.string(), number: z.number() })),
  file: z.object({ name: z.string(), sha256: z.string(), size: z.number() }).nullable(),
  enteredAt: z.string(),
  enteredBy: z.string(),
  struck: z.object({ at: z.string(), by: z.string(), reason: z.string() }).nullable(),
});
export type Legacy = z.infer<typeof LegacySchema>;
export const LegacyPageSchema = z.object({
  items: z.array(LegacySchema),
  next: z.string().nullable(),
  total: z.number(),
});
export type LegacyPage = z.infer<typeof LegacyPageSchema>;
