/** The file of a weather station, as it is sent for a test, and what it gives for each pull. */
import { z } from 'zod';

/** Where an air reading came from. */
export const AIR_SOURCES = ['typed', 'pasted', 'station file', 'live station'] as const;
export type AirSource = (typeof AIR_SOURCES)[number];

/** What a person says of a file where it does not say so itself. */
export const AirFileSaid = z.object({
  pressureKind: z.enum(['station', 'sea level']).optional(),
  /** Header of the temperature that is meant, where there are several. */
  temperature: z.string().max(200).optional(),
  /** How far the station’s clock is ahead of the site’s, s. */
  clockAheadS: z.coerce.number().min(-86_400).max(86_400).optional(),
});
export type AirFileSaid = z.infer<typeof AirFileSaid>;
export const AirFileQuery = AirFileSaid.extend({ name: z.string().min(1).max(200) });

const Humidity = z.union([
  z.object({ kind: z.literal('relative'), percent: z.number() }),
  z.object({ kind: z.enum(['dew point', 'wet bulb']), temperatureC: z.number() }),
]);
export const AirFileSchema = z.object({
  id: z.string(),
  name: z.string(),
  sha256: z.string(),
  sentAt: z.string(),
  sentBy: z.string(),
  said: AirFileSaid,
  pressureKind: z.enum(['station', 'sea level']),
  readings: z.number(),
  from: z.string(),
  to: z.string(),
  findings: z.array(z.object({ code: z.string(), message: z.string(), line: z.number().optional() })),
  /** What it gives for each pull of the test; or why it gives nothing. */
  pulls: z.array(
    z.object({
      pullId: z.string(),
      label: z.string(),
      /** When the recording began, by its own file. */ at: z.string().nullable(),
      air: z
        .object({
          temperatureC: z.number(),
          pressureHpa: z.number(),
          humidity: Humidity,
          lines: z.array(z.number()),
          nearestS: z.number(),
        })
        .nullable(),
      why: z.string().nullable(),
    }),
  ),
});
export type AirFileShown = z.infer<typeof AirFileSchema>;

/** Pulls whose air is taken from a file. */
export const TakeAirRequest = z.object({ pullIds: z.array(z.uuid()).min(1).max(500) });
