/** Claims: drafted from an analysis, reviewed by another person, shown in the catalogue. */
import { z } from 'zod';
import type { TestFile } from '../judge/test-file.ts';
import { CLAIM_FORMS } from '../../core/base/policy.ts';
import { METRICS } from '../../core/plan/metrics.ts';
import { SUBJECT_KINDS } from '../../core/plan/subject.ts';
import { CATALOGUE_SORTS } from './sorts.ts';
import { GlyphSchema } from '../compare/glyph.ts';
import { AmendmentSchema } from '../plan/amendment.ts';

/** States a claim is kept in. */
export const KEPT_STATES = ['draft', 'in review', 'returned', 'published', 'stale', 'withdrawn'] as const;
export type KeptState = (typeof KEPT_STATES)[number];
/** As shown: a published claim with an input that has changed since and is not answered is “in question”. */
export const CLAIM_STATES = [...KEPT_STATES, 'in question'] as const;
export type ClaimState = (typeof CLAIM_STATES)[number];
/** Order of the register of claims: what waits for a decision first. The view `claim_places_now` has the same. */
export const CLAIM_ORDER: readonly ClaimState[] = [
  'in question',
  'in review',
  'returned',
  'draft',
  'stale',
  'published',
  'withdrawn',
];
export const CLAIM_UNITS = ['kW', 'hp', 'PS', 'N·m', 'lb·ft', '%'] as const;

export const DraftClaimRequest = z.object({
  analysisId: z.uuid(),
  /** The arm to be claimed; the only one where there is one. */ arm: z.string().max(30).optional(),
  metric: z.enum(METRICS),
  unit: z.enum(CLAIM_UNITS),
  /** A gain to be claimed, or a result told as advice: no gain, a loss, what a change gives at the most. */
  tells: z.enum(['gain', 'advice']).default('gain'),
  /** Why changes since the analysis was computed do not touch the claim, where there are any. */
  answer: z
    .string()
    .trim()
    .min(10, 'Say in a sentence why it does not touch the claim.')
    .max(1000)
    .optional(),
});
export type DraftClaimRequest = z.infer<typeof DraftClaimRequest>;
/** What a claim would say, before it is drafted. */
export const WordingQuery = DraftClaimRequest.pick({ metric: true, unit: true, tells: true }).extend({
  arm: z.string().max(30),
});
export type WordingQuery = z.output<typeof WordingQuery>;
export const WordingSchema = z.object({
  said: z
    .object({
      wording: z.string(),
      grade: z.string(),
      conditions: z.array(z.string()),
      disclosures: z.array(z.string()),
    })
    .nullable(),
  /** Why it cannot be said, where it cannot. */ why: z.string().nullable(),
});
export type WordingShown = z.infer<typeof WordingSchema>;

/** That a change under a claim does not touch it, with the reason. */
export const AnswerRequest = z.object({
  changeId: z.number().int().positive(),
  reason: z.string().trim().min(10, 'Say in a sentence why it does not touch the claim.').max(1000),
  /** Of a newer revision: what was compared, by whom; drawings, parts side by side, a test. */
  evidence: z.string().trim().max(1000).default(''),
});
export type AnswerRequest = z.infer<typeof AnswerRequest>;
/** What is written at least as evidence that a newer revision is equivalent. */
export const LEAST_EVIDENCE = 10;
export const ReasonRequest = z.object({
  reason: z.string().trim().min(5, 'Give the reason in a sentence.').max(1000),
});

/** A public claim is taken back; whether its number was wrong is said, and stays to be read. */
export const WithdrawRequest = ReasonRequest.extend({ wrong: z.boolean() });
export type WithdrawRequest = z.infer<typeof WithdrawRequest>;

export const ClaimSchema = z.object({
  id: z.string(),
  code: z.string(),
  testId: z.string(),
  testTitle: z.string(),
  arm: z.string(),
  armLabel: z.string(),
  analysisId: z.string(),
  fitmentSlug: z.string(),
  fitment: z.string(),
  /** What was tested: the headline. */ subject: z.string(),
  subjectKind: z.enum(SUBJECT_KINDS),
  tells: z.enum(['gain', 'advice']),
  metric: z.enum(METRICS),
  value: z.number(),
  /** What the value is. */ says: z.enum(CLAIM_FORMS),
  unit: z.enum(CLAIM_UNITS),
  wording: z.string(),
  interval: z.object({ gain: z.number(), lower: z.number(), upper: z.number() }).nullable(),
  rpm: z.number().nullable(),
  conditions: z.array(z.string()),
  disclosures: z.array(z.string()),
  grade: z.string(),
  state: z.enum(CLAIM_STATES),
  author: z.object({ id: z.string(), name: z.string() }),
  reviewer: z.object({ id: z.string(), name: z.string() }).nullable(),
  draftedAt: z.string(),
  publishedAt: z.string().nullable(),
  staleReason: z.string().nullable(),
  glyph: GlyphSchema.nullable(),
});
export type Claim = z.infer<typeof ClaimSchema>;
/** Orders of the register of claims: what waits for a decision first, or by age or fitment. */
export const CLAIM_SORTS = ['waiting', 'newest', 'published', 'fitment'] as const;
export type ClaimSort = (typeof CLAIM_SORTS)[number];
export const ClaimsQuery = z.object({
  sort: z.enum(CLAIM_SORTS).default('waiting'),
  q: z.string().trim().max(200).default(''),
  /** Claims of one test only. */ testId: z.uuid().optional(),
  state: z.enum(CLAIM_STATES).optional(),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
});
export type ClaimsQuery = z.input<typeof ClaimsQuery>;
export const ClaimPageSchema = z.object({
  items: z.array(ClaimSchema),
  next: z.string().nullable(),
  total: z.number(),
  /** Claims in each state, whatever the page is narrowed to. */
  counts: z.partialRecord(z.enum(CLAIM_STATES), z.number()),
  /** Claims that this person may review. */ mine: z.number(),
});
export type ClaimPage = z.infer<typeof ClaimPageSchema>;

export const ClaimEventSchema = z.object({
  at: z.string(),
  person: z.string(),
  from: z.string().nullable(),
  to: z.string(),
  note: z.string(),
});
/** A change of an input under a claim that nobody has answered. */
export const OpenChangeSchema = z.object({
  id: z.number(),
  kind: z.string(),
  at: z.string(),
  what: z.string(),
});
export const ClaimDetailSchema = z.object({
  claim: ClaimSchema,
  history: z.array(ClaimEventSchema),
  openChanges: z.array(OpenChangeSchema),
  answers: z.array(
    z.object({
      at: z.string(),
      person: z.string(),
      what: z.string(),
      reason: z.string(),
      evidence: z.string(),
    }),
  ),
  /** Figures in what people wrote about it that do not agree with each other or with what was measured. */
  figures: z.array(z.object({ place: z.string(), text: z.string(), message: z.string() })),
});
export type ClaimDetail = z.infer<typeof ClaimDetailSchema>;

export const AuditEntrySchema = z.object({
  at: z.string(),
  person: z.string(),
  action: z.string(),
  subject: z.string(),
  detail: z.record(z.string(), z.unknown()),
});

// ── What anyone may read ────────────────────────────────────────────────────

/** A claim without the people's ids. */
export const PublicClaimSchema = ClaimSchema.omit({
  id: true,
  author: true,
  reviewer: true,
  testId: true,
  analysisId: true,
}).extend({
  /** Left out of what was approved before policy could choose: the lower limit. */
  says: z.enum(CLAIM_FORMS).optional(),
});
export type PublicClaim = z.infer<typeof PublicClaimSchema>;

export const CatalogueEntrySchema = z.object({
  slug: z.string(),
  name: z.string(),
  engine: z.string(),
  years: z.string(),
  claims: z.array(PublicClaimSchema),
});
export const CatalogueQuery = z.object({
  q: z.string().trim().max(200).default(''),
  sort: z.enum(CATALOGUE_SORTS).default('fitment'),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(100).default(20),
});
export type CatalogueQuery = z.input<typeof CatalogueQuery>;
export const CataloguePageSchema = z.object({
  items: z.array(CatalogueEntrySchema),
  next: z.string().nullable(),
  total: z.number(),
});
export type CataloguePage = z.infer<typeof CataloguePageSchema>;
export const CatalogueFitmentSchema = CatalogueEntrySchema.extend({
  rated: z.string(),
  former: z.array(PublicClaimSchema),
});
export type CatalogueFitment = z.infer<typeof CatalogueFitmentSchema>;

/** Everything a published claim rests on. */
export const EvidenceSchema = z.object({
  claim: PublicClaimSchema,
  vehicle: z.string(),
  dyno: z.string(),
  planLockedAt: z.string().nullable(),
  planHash: z.string().nullable(),
  approvedBy: z.string(),
  draftedBy: z.string(),
  amendments: z.array(AmendmentSchema),
  analysis: z.object({
    number: z.number(),
    at: z.string(),
    inputsHash: z.string(),
    softwareVersion: z.string(),
    policyVersion: z.string(),
  }),
  /** What is said of the same part on the same fitment today, where this claim no longer stands. */
  instead: PublicClaimSchema.pick({ code: true, wording: true, publishedAt: true }).nullable().optional(),
  /** Said beside it where the register has moved on since it was approved. */
  since: z.array(z.string()).optional(),
  curve: GlyphSchema,
  result: z.custom<unknown>(),
  pulls: z.array(
    z.object({
      id: z.string(),
      label: z.string(),
      position: z.number(),
      arm: z.string(),
      counted: z.boolean(),
      excluded: z.string().nullable(),
      air: z.string().nullable(),
      factor: z.number().nullable(),
      peakKw: z.number().nullable(),
      file: z.object({ name: z.string(), sha256: z.string(), size: z.number() }).nullable(),
      /** The engine’s log, where it came as a file of its own. */
      log: z
        .object({ name: z.string(), sha256: z.string(), size: z.number(), offsetS: z.number() })
        .optional(),
    }),
  ),
  /** Checks of the control vehicle that a claim without return rests on. */
  controls: z
    .array(
      z.object({
        control: z.string(),
        at: z.string(),
        warmUps: z.number(),
        files: z.array(z.object({ name: z.string(), sha256: z.string(), size: z.number(), air: z.string() })),
      }),
    )
    .optional(),
});
export type Evidence = z.infer<typeof EvidenceSchema>;

/** All that the public reads of a claim, kept as it was approved. Names are those of that day. */
export interface ClaimSnapshot {
  readonly evidence: Evidence;
  readonly testFile: TestFile;
  readonly fitment: { readonly name: string; readonly version: number };
}
