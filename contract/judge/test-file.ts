/** The test file `evidentia-test/1`: one comparison with the files it rests on. Layout in docs/formats.md. */
import { z } from 'zod';
import { TestDefinitionError } from '../../core/base/errors.ts';
import { GUARDS } from '../../core/base/guard.ts';
import { BOOSTED_SCHOOLS } from '../../core/base/standards.ts';
import type { AirReading } from '../../core/capture/air-reading.ts';
import type { TestDefinition } from '../../core/judge/analyse-test.ts';
import { STOICHIOMETRIC_AFR, type Fuel } from '../../core/base/units.ts';
import { DEFAULT_POLICY, type Policy } from '../../core/base/policy.ts';
import { METRICS } from '../../core/plan/metrics.ts';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import { START_SENSORS } from '../../core/register/temperature-slope.ts';
import { PolicySchema } from '../base/policy.ts';
import {
  AirSchema,
  AppliedSchema,
  BandSchema,
  ColumnsSchema,
  EngineSchema,
  RepeatabilitySchema,
  StandardSchema,
  type Air,
} from '../base/schemas.ts';

export function airReading({ humidityPct, dewPointC, wetBulbC, ...rest }: Air): AirReading {
  const humidity =
    humidityPct !== undefined
      ? { kind: 'relative' as const, percent: humidityPct }
      : dewPointC !== undefined
        ? { kind: 'dew point' as const, temperatureC: dewPointC }
        : { kind: 'wet bulb' as const, temperatureC: wetBulbC! };
  return { ...rest, humidity };
}

const FUELS = Object.keys(STOICHIOMETRIC_AFR) as [Fuel, ...Fuel[]];

export const TestFileSchema = z.object({
  format: z.literal('evidentia-test/1'),
  title: z.string().default(''),
  standard: StandardSchema,
  engine: EngineSchema,
  /** What the engine is rated at, kW; readings far from it are doubted. */
  ratedPowerKw: z.number().positive().max(5000).optional(),
  band: BandSchema,
  smoothingRpm: z.number().nonnegative().optional(),
  confidence: z.number().gt(0.5).lt(1).optional(),
  /** Guard of the intervals of single numbers; left out: that of the policy. */
  guard: z.enum(GUARDS).optional(),
  /** How the plan corrects boosted engines; left out: as the policy says. */
  boostedSchool: z.enum(BOOSTED_SCHOOLS).optional(),
  model: z
    .object({ drift: z.enum(['none', 'linear']).optional(), driftBound: z.number().nonnegative().optional() })
    .optional(),
  repeatability: RepeatabilitySchema.optional(),
  /** How well the air was read: standard uncertainties in K, hPa, % of relative humidity. */
  airSensors: z
    .object({
      temperature: z.number().positive().optional(),
      pressure: z.number().positive().optional(),
      humidity: z.number().positive().optional(),
    })
    .optional(),
  arms: z
    .array(
      z.object({
        id: z.string().min(1),
        role: z.enum(['baseline', 'part']),
        label: z.string().optional(),
        product: z.string().optional(),
        /** The part arm it builds on, where arms are stages of a ladder. */
        from: z.string().optional(),
        /** Kinds of parts in which it differs from the baseline. */
        parts: z.array(z.enum(PART_CATEGORIES)).readonly().optional(),
        /** Of a sweep through an ordered setting: this arm's. */
        setting: z.object({ name: z.string(), value: z.number(), unit: z.string() }).optional(),
      }),
    )
    .min(2),
  /** What the register knows and a pull file may leave out. */
  reading: z
    .object({
      fuel: z.enum(FUELS).optional(),
      rollerRadiusM: z.number().positive().optional(),
      rpmPerKmh: z.number().positive().optional(),
    })
    .optional(),
  /** House policy it was judged by; what is left out is as the application ships it. */
  policy: PolicySchema.partial().optional(),
  pulls: z
    .array(
      z.object({
        id: z.string().min(1),
        arm: z.string().min(1),
        order: z.number(),
        mount: z.union([z.number(), z.string()]).default(1),
        counted: z.boolean().default(true),
        file: z.string().min(1).optional(),
        columns: ColumnsSchema.optional(),
        /** The engine’s log as a file of its own; its time plus the offset is the pull’s. */
        log: z
          .object({
            file: z.string().min(1),
            offsetS: z.number(),
            byHand: z.boolean().optional(),
            byClock: z.boolean().optional(),
          })
          .optional(),
        air: AirSchema.optional(),
        applied: AppliedSchema.optional(),
        excluded: z.string().min(1).optional(),
        excludedAfterResult: z.boolean().optional(),
        repeats: z.string().optional(),
      }),
    )
    .min(1),
  metric: z.enum(METRICS).optional(),
  metrics: z.array(z.enum(METRICS)).optional(),
  /** The start temperature the plan names, and the slope that was registered when it was locked. */
  startTemperature: z
    .object({
      sensor: z.enum(START_SENSORS),
      slope: z.object({ b: z.number(), V: z.number().positive(), df: z.number().positive() }).optional(),
    })
    .optional(),
  /** Without return: steps that cannot be undone, mountings with their times, and the control vehicle’s checks. */
  oneWay: z
    .object({
      forGood: z.array(z.string()).readonly(),
      control: z.string(),
      controlChanged: z.boolean(),
      checks: z
        .array(
          z.object({
            at: z.string(),
            day: z.string(),
            warmUps: z.number().int().min(0),
            values: z.array(z.number()).min(2).readonly(),
          }),
        )
        .readonly(),
      mountings: z
        .array(
          z.object({
            mount: z.union([z.number(), z.string()]),
            arm: z.string(),
            from: z.string(),
            to: z.string(),
            day: z.string(),
          }),
        )
        .readonly(),
    })
    .optional(),
  /** The dyno’s control vehicle, where it was out of its limits around the session. */
  control: z
    .object({ control: z.string(), when: z.enum(['before', 'after']), off: z.number(), limit: z.number() })
    .optional(),
  plan: z
    .object({
      lockedAt: z.string().nullable(),
      firstPullAt: z.string().nullable(),
      amendments: z
        .array(
          z.object({ number: z.number(), at: z.string(), fields: z.array(z.string()), reason: z.string() }),
        )
        .optional(),
    })
    .optional(),
});
export type TestFile = z.input<typeof TestFileSchema>;

/** Test definition of a parsed JSON value; throws `TestDefinitionError` with the path of the first thing that is wrong. */
export function readTestFile(value: unknown, file?: string): TestDefinition {
  const parsed = TestFileSchema.safeParse(value);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    throw new TestDefinitionError(
      'TEST_FILE_INVALID',
      `The test file does not fit the format: ${issue.message}.`.replace('..', '.'),
      'See docs/formats.md, “Test file”.',
      { ...(file ? { file } : {}), path: issue.path.join('.') || 'the whole file' },
      { issues: parsed.error.issues.length },
    );
  }
  const { pulls, policy: _policy, ...rest } = parsed.data;
  return {
    ...rest,
    pulls: pulls.map(({ air, applied, ...pull }) => ({
      ...pull,
      ...(air ? { air: airReading(air) } : {}),
      ...(applied
        ? {
            applied: {
              standard: applied.standard,
              factor: applied.factor,
              ...(applied.air ? { air: airReading(applied.air) } : {}),
            },
          }
        : {}),
    })),
  };
}

/** The policy a test file names, whole. */
export function policyOf(value: unknown): Policy {
  const parsed = TestFileSchema.safeParse(value);
  return { ...DEFAULT_POLICY, ...(parsed.success ? parsed.data.policy : {}) };
}
