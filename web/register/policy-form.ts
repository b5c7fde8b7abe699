/** House policy as it is entered and shown: fields, and how they make up a policy. */
import { z } from 'zod';
import { ClaimStepSchema, PolicySchema } from '../../contract/base/policy.ts';
import { StandardSchema } from '../../contract/base/schemas.ts';
import { GUARDS } from '../../core/base/guard.ts';
import { CLAIM_FORMS, rulesOf, standardOf, type ClaimRules, type Policy } from '../../core/base/policy.ts';
import { BOOSTED_SCHOOLS, STANDARD_NAMES, STANDARDS, type Standard } from '../../core/base/standards.ts';
import type { FieldSpec } from '../base/record-fields.tsx';
import type { FieldGroup } from '../base/record-form.tsx';

/** The policy as one row of fields; per cents where people think in them. */
export const PolicyForm = z
  .object({
    version: PolicySchema.shape.version,
    reason: z.string().trim().min(10, 'Give the reason in a sentence.').max(1000),
    pullsPerRun: PolicySchema.shape.pullsPerRun,
    warmUpPulls: PolicySchema.shape.warmUpPulls,
    driftBoundLpPerPull: PolicySchema.shape.driftBoundLpPerPull,
    factorPassPct: z.number().min(0).max(100),
    factorCautionPct: z.number().min(0).max(100),
    rampPct: z.number().min(0).max(100),
    trimmedPct: z.number().min(0).max(100),
    scatterTimes: PolicySchema.shape.scatter.shape.cautionTimes,
    scatterMostPct: PolicySchema.shape.scatter.shape.mostPct,
    tooLowPct: z.number().min(0).max(10),
    claimAgeMonths: PolicySchema.shape.claimAgeMonths,
    smoothingRpm: PolicySchema.shape.smoothingRpm,
    confidencePct: z.number().min(80).max(99.9),
    guard: z.enum(GUARDS),
    boostedSchool: z.enum(BOOSTED_SCHOOLS),
    standard: StandardSchema,
    says: z.enum(CLAIM_FORMS),
    stepKw: ClaimStepSchema,
    stepHp: ClaimStepSchema,
    stepPs: ClaimStepSchema,
    stepNm: ClaimStepSchema,
    stepLbFt: ClaimStepSchema,
    stepPct: ClaimStepSchema,
  })
  .refine((p) => p.factorCautionPct >= p.factorPassPct, {
    message: 'Not below the limit that passes.',
    path: ['factorCautionPct'],
  });
export type PolicyForm = z.infer<typeof PolicyForm>;

export const GROUPS: readonly FieldGroup<keyof PolicyForm>[] = [
  {
    title: 'Version',
    fields: [
      { name: 'version', label: 'Name', kind: 'text', span: 3, hint: 'a new one; the old stays readable' },
      { name: 'reason', label: 'Why', kind: 'text', span: 9 },
    ],
  },
  {
    title: 'What a test needs',
    fields: [
      { name: 'pullsPerRun', label: 'Counted pulls a run', kind: 'number', span: 3 },
      { name: 'warmUpPulls', label: 'Warm-up pulls before it', kind: 'number', span: 3 },
      { name: 'driftBoundLpPerPull', label: 'Drift bound, % a pull', kind: 'number', span: 3 },
      { name: 'claimAgeMonths', label: 'A claim stands, months', kind: 'number', span: 3 },
    ],
  },
  {
    title: 'Limits of the gates',
    note: 'A tighter limit puts every published claim in question at once; each is evaluated again, and goes stale if it no longer holds.',
    fields: [
      { name: 'factorPassPct', label: 'Arms’ factors apart, % (pass)', kind: 'number', span: 3 },
      { name: 'factorCautionPct', label: 'Arms’ factors apart, % (most)', kind: 'number', span: 3 },
      { name: 'rampPct', label: 'Ramp rates apart, %', kind: 'number', span: 3 },
      { name: 'trimmedPct', label: 'Rpm range lost by trimming, %', kind: 'number', span: 3 },
      { name: 'scatterTimes', label: 'Scatter over history, times', kind: 'number', span: 3 },
      { name: 'scatterMostPct', label: 'Scatter at the most, %', kind: 'number', span: 3 },
      { name: 'tooLowPct', label: 'Scatter believed down to, chance in %', kind: 'number', span: 3 },
    ],
  },
  {
    title: 'How curves are read and corrected',
    note: 'For plans made from now on; a locked plan keeps its own.',
    fields: [
      { name: 'smoothingRpm', label: 'Smoothing, rpm', kind: 'number', span: 3 },
      { name: 'confidencePct', label: 'Confidence of the band, %', kind: 'number', span: 3 },
      {
        name: 'guard',
        label: 'Guard against unequal scatter',
        kind: 'select',
        options: [...GUARDS],
        span: 6,
        hint: 'of averages and peaks; strict is wider at three pulls a run',
      },
      {
        name: 'boostedSchool',
        label: 'School of boosted engines',
        kind: 'select',
        options: [...BOOSTED_SCHOOLS],
        span: 6,
        hint: 'a boost control that holds absolute pressure makes up for part of the air',
      },
      {
        name: 'standard',
        label: 'Standard that plans begin with',
        kind: 'select',
        options: STANDARDS.map((value) => ({ value, label: STANDARD_NAMES[value] })),
        span: 6,
        hint: 'a plan may name another, before it is locked',
      },
    ],
  },
  {
    title: 'How claims are worded',
    note:
      'A gain is rounded towards less and the upper end of a range towards more, whatever the step; ' +
      'a loss is told to 0.1 %. A claim that says more than this allows goes stale; one that says less stays as it is.',
    fields: [
      {
        name: 'says',
        label: 'The number of a claim',
        kind: 'select',
        options: [...CLAIM_FORMS],
        span: 12,
        hint: 'the lower limit reads “at least”; a mean stands with its range beside it. “Up to” is a limit either way',
      },
      { name: 'stepKw', label: 'Rounded to, kW', kind: 'number', span: 4 },
      { name: 'stepHp', label: 'Rounded to, hp', kind: 'number', span: 4 },
      { name: 'stepPs', label: 'Rounded to, PS', kind: 'number', span: 4 },
      { name: 'stepNm', label: 'Rounded to, N·m', kind: 'number', span: 4 },
      { name: 'stepLbFt', label: 'Rounded to, lb·ft', kind: 'number', span: 4 },
      { name: 'stepPct', label: 'Rounded to, %', kind: 'number', span: 4 },
    ],
  },
];

const percent = (share: number): number => Number((100 * share).toFixed(6));
export const formOf = (p: Policy): PolicyForm => ({
  version: '',
  reason: '',
  pullsPerRun: p.pullsPerRun,
  warmUpPulls: p.warmUpPulls,
  driftBoundLpPerPull: p.driftBoundLpPerPull,
  factorPassPct: percent(p.factorArms.pass),
  factorCautionPct: percent(p.factorArms.caution),
  rampPct: percent(p.rampSpread),
  trimmedPct: percent(p.trimmedShare),
  scatterTimes: p.scatter.cautionTimes,
  scatterMostPct: p.scatter.mostPct,
  tooLowPct: percent(p.scatter.tooLowChance),
  claimAgeMonths: p.claimAgeMonths,
  smoothingRpm: p.smoothingRpm,
  confidencePct: percent(p.confidence),
  guard: p.guard,
  boostedSchool: p.boostedSchool,
  standard: standardOf(p),
  ...wordingOf(rulesOf(p)),
});
const wordingOf = ({ says, steps }: ClaimRules) => ({
  says,
  stepKw: steps.kW,
  stepHp: steps.hp,
  stepPs: steps.PS,
  stepNm: steps['N·m'],
  stepLbFt: steps['lb·ft'],
  stepPct: steps['%'],
});
export const policyOf = (f: PolicyForm): Policy => ({
  version: f.version,
  pullsPerRun: f.pullsPerRun,
  warmUpPulls: f.warmUpPulls,
  driftBoundLpPerPull: f.driftBoundLpPerPull,
  factorArms: { pass: f.factorPassPct / 100, caution: f.factorCautionPct / 100 },
  rampSpread: f.rampPct / 100,
  trimmedShare: f.trimmedPct / 100,
  scatter: {
    cautionTimes: f.scatterTimes,
    mostPct: f.scatterMostPct,
    tooLowChance: f.tooLowPct / 100,
  },
  claimAgeMonths: f.claimAgeMonths,
  smoothingRpm: f.smoothingRpm,
  confidence: f.confidencePct / 100,
  guard: f.guard,
  boostedSchool: f.boostedSchool,
  standard: f.standard,
  claims: {
    says: f.says,
    steps: {
      kW: f.stepKw,
      hp: f.stepHp,
      PS: f.stepPs,
      'N·m': f.stepNm,
      'lb·ft': f.stepLbFt,
      '%': f.stepPct,
    },
  },
});

/** A field of a policy as it is read on its page. */
export function shownOf(field: FieldSpec<keyof PolicyForm>, policy: Policy): string | number {
  const value = formOf(policy)[field.name];
  return field.name === 'standard' ? STANDARD_NAMES[value as Standard] : value;
}
