/** Slopes of results over start temperatures, as a dyno's own finished sessions show them. */
import { z } from 'zod';
import { START_SENSORS, type SlopeReason } from '../../core/register/temperature-slope.ts';

export const StartSlopeSchema = z.object({
  sensor: z.enum(START_SENSORS),
  /** Whose sessions: of the vehicle itself, or of engines of its kind. */
  of: z.enum(['vehicle', 'engines']),
  subject: z.string(),
  registered: z.boolean(),
  reasons: z.array(z.custom<SlopeReason>()),
  /** Sessions in which the temperature moved, degrees of freedom over them, and the tests they are. */
  sessions: z.number(),
  dfTotal: z.number().nullable(),
  tests: z.array(z.number()),
  /** lp per K with its standard error; share of the scatter it explains; scatter of the temperature, K. */
  slope: z.number().nullable(),
  error: z.number().nullable(),
  explains: z.number().nullable(),
  sdK: z.number().nullable(),
});
export type StartSlope = z.infer<typeof StartSlopeSchema>;
export const StartSlopesSchema = z.object({ slopes: z.array(StartSlopeSchema) });
export type StartSlopes = z.infer<typeof StartSlopesSchema>;
export const StartSlopesQuery = z.object({ vehicleId: z.uuid().optional() });
