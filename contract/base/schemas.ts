/** Shapes that several stages share. */
import { z } from 'zod';
import { COLUMN_KEYS } from '../../core/base/quantities.ts';
import { STANDARDS } from '../../core/base/standards.ts';

export const StandardSchema = z.enum(STANDARDS);
export const EngineSchema = z.object({
  ignition: z.enum(['spark', 'compression']),
  aspiration: z.enum(['natural', 'turbo', 'turbo-intercooled', 'supercharged']),
  displacementL: z.number().positive().optional(),
  fuelMgPerLitreCycle: z.number().positive().optional(),
  boostRatio: z.number().min(1).optional(),
});
export const AirSchema = z
  .object({
    temperatureC: z.number(),
    pressureHpa: z.number(),
    pressureKind: z.enum(['station', 'sea level']).optional(),
    siteHeightM: z.number().optional(),
    humidityPct: z.number().optional(),
    dewPointC: z.number().optional(),
    wetBulbC: z.number().optional(),
  })
  .refine(
    (air) => [air.humidityPct, air.dewPointC, air.wetBulbC].filter((v) => v !== undefined).length === 1,
    'Give one of humidityPct, dewPointC and wetBulbC.',
  );
export type Air = z.infer<typeof AirSchema>;

const Column = z.union([
  z
    .string()
    .min(1)
    .transform((column) => ({ column, unit: undefined as string | undefined })),
  z.object({ column: z.string().min(1), unit: z.string().optional() }),
]);
export const ColumnsSchema = z.partialRecord(z.enum(COLUMN_KEYS), Column);
const Known = z.object({ variance: z.number().nonnegative(), df: z.number().positive() });
export const RepeatabilitySchema = z.object({
  curve: Known.optional(),
  bandAverage: Known.optional(),
  peak: Known.optional(),
  mount: Known.optional(),
  day: Known.optional(),
});
export const BandSchema = z.object({
  fromRpm: z.number().positive(),
  toRpm: z.number().positive(),
  stepRpm: z.number().positive(),
});
export const AppliedSchema = z.object({
  standard: StandardSchema,
  factor: z.number().positive().optional(),
  air: AirSchema.optional(),
});
