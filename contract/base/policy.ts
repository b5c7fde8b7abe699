/** House policy as it is entered and read; every field of it is read by the core. */
import { z } from 'zod';
import { GUARDS } from '../../core/base/guard.ts';
import { CLAIM_FORMS } from '../../core/base/policy.ts';
import { SHOWN_STEP } from '../../core/base/rounding.ts';
import { BOOSTED_SCHOOLS } from '../../core/base/standards.ts';
import { StandardSchema } from './schemas.ts';

const share = z.number().min(0).max(1);
const isShown = (step: number): boolean => {
  const tenths = step / SHOWN_STEP;
  return Math.abs(tenths - Math.round(tenths)) < 1e-9;
};
/** A step of claims: nothing finer than what is shown, nothing so coarse that a claim says nothing. */
export const ClaimStepSchema = z
  .number()
  .min(SHOWN_STEP)
  .max(10)
  .refine(isShown, 'Claims are rounded to tenths, or to something coarser.');
export const ClaimRulesSchema = z.object({
  says: z.enum(CLAIM_FORMS),
  steps: z.object({
    kW: ClaimStepSchema,
    hp: ClaimStepSchema,
    PS: ClaimStepSchema,
    'N·m': ClaimStepSchema,
    'lb·ft': ClaimStepSchema,
    '%': ClaimStepSchema,
  }),
});
export const PolicySchema = z.object({
  version: z.string().trim().min(1).max(40),
  warmUpPulls: z.number().int().min(1).max(10),
  pullsPerRun: z.number().int().min(2).max(20),
  driftBoundLpPerPull: z.number().min(0).max(5),
  factorArms: z.object({ pass: share, caution: share }),
  rampSpread: share,
  trimmedShare: share,
  scatter: z.object({
    cautionTimes: z.number().min(1).max(10),
    mostPct: z.number().positive().max(20),
    tooLowChance: z.number().min(0).max(0.1),
  }),
  claimAgeMonths: z.number().int().min(1).max(240),
  smoothingRpm: z.number().min(50).max(1000),
  confidence: z.number().min(0.8).max(0.999),
  /** Policies of before this field was there are read as strict. */
  guard: z.enum(GUARDS).default('strict'),
  boostedSchool: z.enum(BOOSTED_SCHOOLS).default('correct'),
  standard: StandardSchema.optional(),
  claims: ClaimRulesSchema.optional(),
});
export const PolicyRequest = z.object({
  policy: PolicySchema,
  reason: z.string().trim().min(10, 'Give the reason in a sentence.').max(1000),
});
export type PolicyRequest = z.infer<typeof PolicyRequest>;
export const PolicyEntrySchema = z.object({
  policy: PolicySchema,
  reason: z.string(),
  at: z.string(),
  person: z.string().nullable(),
});
export type PolicyEntry = z.infer<typeof PolicyEntrySchema>;
export const PoliciesSchema = z.object({ inForce: z.string(), entries: z.array(PolicyEntrySchema) });
