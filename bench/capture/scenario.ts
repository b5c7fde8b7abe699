/** A simulated session, `evidentia-scenario/1`: everything that decides what the bench will write, seed included. */
import { z } from 'zod';
import { BandSchema, RepeatabilitySchema, StandardSchema } from '../../contract/base/schemas.ts';
import { METRICS } from '../../core/plan/metrics.ts';
import { TYPICAL_NOISE } from '../../core/capture/simulated/noise.ts';

/** A part's effect on torque, per cent, as a sum of terms along rpm. */
const Effect = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('constant'), percent: z.number() }),
  z.object({
    kind: z.literal('bump'),
    percent: z.number(),
    centreRpm: z.number(),
    widthRpm: z.number().positive(),
  }),
  z.object({
    kind: z.literal('ramp'),
    fromRpm: z.number(),
    toRpm: z.number(),
    fromPercent: z.number(),
    toPercent: z.number(),
  }),
]);
export type Effect = z.infer<typeof Effect>;

export const ScenarioSchema = z.object({
  format: z.literal('evidentia-scenario/1'),
  seed: z.number().int().positive(),
  title: z.string(),
  engine: z.enum(['na4', 'turbo3', 'turbo5', 'diesel4', 'v8', 'v6']),
  standard: StandardSchema.default('sae-j1349'),
  band: BandSchema,
  metric: z.enum(METRICS).optional(),
  arms: z
    .array(
      z.object({ id: z.string(), role: z.enum(['baseline', 'part']), effect: z.array(Effect).default([]) }),
    )
    .min(2),
  protocol: z.object({
    order: z.array(z.string()).min(2),
    pulls: z.number().int().min(1).max(20).default(3),
    warmUps: z.number().int().min(0).max(10).default(3),
    remount: z.boolean().default(false),
  }),
  noise: z
    .object({
      level: z.number(),
      slow: z.number(),
      quick: z.number(),
      white: z.number(),
      remountStep: z.number(),
    })
    .partial()
    .default({})
    .transform((n) => ({ ...TYPICAL_NOISE, ...n })),
  /** lp per pull over the session. */
  drift: z.number().default(0),
  /** lp by position in a run: low first pulls after a swap. `runs`: which runs adapt. */
  adaptation: z
    .object({ shape: z.array(z.number()), runs: z.enum(['all', 'first', 'part']).default('all') })
    .optional(),
  air: z
    .object({
      temperatureC: z.number(),
      pressureHpa: z.number(),
      humidityPct: z.number(),
      temperaturePerPull: z.number().default(0),
    })
    .default({ temperatureC: 21, pressureHpa: 1003, humidityPct: 48, temperaturePerPull: 0.04 }),
  /** Coolant and oil before each pull; how results follow the coolant, lp/K; arms that start otherwise, K. */
  starts: z
    .object({
      coolantC: z.number().default(88),
      oilC: z.number().default(96),
      sd: z.number().default(0.4),
      lpPerK: z.number().default(0),
      arms: z.record(z.string(), z.number()).default({}),
    })
    .prefault({}),
  /** A gauge in the exhaust: over ambient at a power, growing with its square; how much of it each arm leaves. */
  backPressure: z
    .object({
      kPa: z.number(),
      atKw: z.number().positive(),
      arms: z.record(z.string(), z.number()).default({}),
    })
    .optional(),
  roller: z
    .object({
      kind: z.enum(['inertia', 'loaded']).default('loaded'),
      rampRpmPerS: z.number().positive().default(330),
      inertiaKgM2: z.number().positive().default(3.2),
      startRpm: z.number().positive().default(1900),
      rateHz: z.number().positive().default(40),
    })
    .prefault({}),
  /** Sample noise of torque (per cent) and engine speed (rpm). */
  logger: z
    .object({
      torquePercent: z.number().default(0.35),
      speedRpm: z.number().default(1.2),
      style: z.enum(['comma', 'semicolon', 'tab']).default('comma'),
    })
    .prefault({}),
  /** Pulls with something wrong: by counted number, from 1. */
  faults: z
    .array(
      z.object({ pull: z.number().int().min(1), kind: z.enum(['late start', 'slip']), amount: z.number() }),
    )
    .default([]),
  repeatability: RepeatabilitySchema.optional(),
});
export type Scenario = z.output<typeof ScenarioSchema>;

/** True gain at an rpm, per cent. */
export function effectPercent(effect: readonly Effect[], rpm: number): number {
  return effect.reduce((sum, term) => {
    if (term.kind === 'constant') return sum + term.percent;
    if (term.kind === 'bump')
      return sum + term.percent * Math.exp(-4 * Math.LN2 * ((rpm - term.centreRpm) / term.widthRpm) ** 2);
    const share = Math.min(1, Math.max(0, (rpm - term.fromRpm) / (term.toRpm - term.fromRpm)));
    return sum + term.fromPercent + share * (term.toPercent - term.fromPercent);
  }, 0);
}
