/** Tests as they are listed and opened: every stage seen at once. */
import { z } from 'zod';
import { GUARDS } from '../core/base/guard.ts';
import { BOOSTED_SCHOOLS } from '../core/base/standards.ts';
import type { ArmCost } from '../core/compare/value.ts';
import type { DriveOf } from '../core/plan/drive-speed.ts';
import type { PlanHours } from '../core/plan/hours.ts';
import type { PlannedSlope } from '../core/plan/planned-slope.ts';
import { START_SENSORS } from '../core/register/temperature-slope.ts';
import { METRICS } from '../core/plan/metrics.ts';
import type { ClaimFacts } from '../core/publish/claim.ts';
import type { Difference } from '../core/register/ledger.ts';
import { BandSchema, StandardSchema } from './base/schemas.ts';
import { PullSchema } from './capture/capture.ts';
import { GlyphSchema } from './compare/glyph.ts';
import { AmendmentSchema } from './plan/amendment.ts';
import { ControlSchema, PlannedArmSchema } from './plan/test.ts';
import { DynoSchema, FitmentSchema, PartRevisionSchema, VehicleSchema } from './register/register.ts';

export const TEST_STAGES = ['plan', 'pulls', 'air', 'compare', 'judge', 'claim'] as const;
export type TestStage = (typeof TEST_STAGES)[number];
/** Where a stage stands: done, open (can be worked on), asks (a person must decide), waits (for an earlier stage). */
export const StageStateSchema = z.object({
  stage: z.enum(TEST_STAGES),
  state: z.enum(['done', 'open', 'asks', 'waits']),
  note: z.string(),
});

export const TestSummarySchema = z.object({
  id: z.string(),
  number: z.number(),
  title: z.string(),
  fitment: z.string(),
  vehicle: z.string(),
  dyno: z.string(),
  protocol: z.string(),
  metric: z.enum(METRICS),
  lockedAt: z.string().nullable(),
  amendments: z.number(),
  pullsCounted: z.number(),
  pullsCaptured: z.number(),
  verdict: z.string().nullable(),
  grade: z.string().nullable(),
  upToKw: z.number().nullable(),
  upToRpm: z.number().nullable(),
  bandAveragePct: z.object({ gain: z.number(), lower: z.number(), upper: z.number() }).nullable(),
  glyph: GlyphSchema.nullable(),
  claimState: z.string().nullable(),
  stages: z.array(StageStateSchema),
  updatedAt: z.string(),
});
export type TestSummary = z.infer<typeof TestSummarySchema>;

/** What the list of tests can be narrowed to. */
export const TEST_FILTERS = ['all', 'asks', 'capturing', 'published'] as const;
export type TestFilter = (typeof TEST_FILTERS)[number];
/** Orders of the list of tests; each is towards what one looks for first. */
export const TEST_SORTS = ['newest', 'oldest', 'changed', 'fitment', 'gain'] as const;
export type TestSort = (typeof TEST_SORTS)[number];
export const TestsQuery = z.object({
  q: z.string().trim().max(200).default(''),
  show: z.enum(TEST_FILTERS).default('all'),
  sort: z.enum(TEST_SORTS).default('newest'),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
});
export type TestsQuery = z.input<typeof TestsQuery>;
export const TestPageSchema = z.object({
  items: z.array(TestSummarySchema),
  next: z.string().nullable(),
  total: z.number(),
  /** Tests of each filter that fit the words; with the first page only. */
  counts: z.partialRecord(z.enum(TEST_FILTERS), z.number()),
});
export type TestPage = z.infer<typeof TestPageSchema>;

/** What the finder finds: a few of each kind. */
export const FindQuery = z.object({ q: z.string().trim().max(200).default('') });
export const FoundSchema = z.object({
  tests: z.array(z.object({ id: z.string(), number: z.number(), title: z.string(), vehicle: z.string() })),
  claims: z.array(
    z.object({ id: z.string(), wording: z.string(), state: z.string(), testTitle: z.string() }),
  ),
  fitments: z.array(z.object({ id: z.string(), name: z.string() })),
  parts: z.array(z.object({ id: z.string(), name: z.string(), sku: z.string() })),
  vehicles: z.array(z.object({ id: z.string(), tag: z.string(), fitment: z.string() })),
  dynos: z.array(z.object({ id: z.string(), name: z.string(), site: z.string() })),
  calibrations: z.array(z.object({ id: z.string(), name: z.string(), fitment: z.string() })),
});
export type Found = z.infer<typeof FoundSchema>;

export const TestArmSchema = PlannedArmSchema.extend({
  part: z.string().nullable(),
  scope: z.string(),
  scopeText: z.string(),
  differences: z.array(z.custom<Difference>()),
  /** What the arm changes, in words. */ subject: z.string().nullable(),
  facts: z.custom<ClaimFacts>().nullable(),
  /** Of its parts; null where it fits none, or one the reader may not know. */
  cost: z.custom<ArmCost>().nullable(),
  /** Of what a belt drives in it; null where nothing does, or its drive is not entered. */
  drive: z.custom<DriveOf>().nullable(),
});
export type TestArm = z.infer<typeof TestArmSchema>;

export const TestDetailSchema = z.object({
  summary: TestSummarySchema,
  question: z.string(),
  fitment: FitmentSchema,
  vehicle: VehicleSchema,
  /** The first part an arm is about; none where only a calibration or a condition is tested. */
  part: PartRevisionSchema.nullable(),
  dyno: DynoSchema,
  arms: z.array(TestArmSchema),
  amendments: z.array(AmendmentSchema),
  series: z.array(z.object({ id: z.string(), number: z.number(), vehicle: z.string(), dyno: z.string() })),
  booking: z.object({ start: z.string(), end: z.string() }).nullable(),
  plan: z.object({
    standard: StandardSchema,
    band: BandSchema,
    metric: z.enum(METRICS),
    metrics: z.array(z.enum(METRICS)),
    protocol: z.string(),
    order: z.array(z.string()),
    pullsPerRun: z.number(),
    warmUps: z.number(),
    remount: z.boolean(),
    coolDownMinutes: z.number(),
    gear: z.string(),
    fuel: z.string(),
    calibration: z.string(),
    driftBound: z.number(),
    smoothingRpm: z.number(),
    confidence: z.number(),
    guard: z.enum(GUARDS),
    boostedSchool: z.enum(BOOSTED_SCHOOLS),
    startSensor: z.enum(START_SENSORS).nullable(),
    startSlope: z.custom<PlannedSlope>().nullable(),
    controls: z.array(ControlSchema),
    photographs: z.array(z.string()),
    logs: z.array(z.string()),
    hours: z.custom<PlanHours>().nullable(),
    notBefore: z.string().nullable(),
    due: z.string().nullable(),
    priority: z.number(),
    partnerId: z.string().nullable(),
    controlId: z.string().nullable(),
    /** Tag of the control vehicle that stands in for a return. */ control: z.string().nullable(),
    lockedAt: z.string().nullable(),
    lockedBy: z.string().nullable(),
    hash: z.string().nullable(),
    createdBy: z.string(),
    createdAt: z.string(),
    partner: z.string().nullable(),
  }),
  pulls: z.array(PullSchema),
});
export type TestDetail = z.infer<typeof TestDetailSchema>;
