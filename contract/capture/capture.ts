/** Air readings, pull files and exclusions as they are sent to the server. */
import { z } from 'zod';
import { AIR_SOURCES } from './air-file.ts';
import { ColumnsSchema } from '../base/schemas.ts';

export const EXCLUSION_REASONS = [
  'wheel slip',
  'fault code',
  'boost leak',
  'aborted pull',
  'sensor lost',
  'wrong gear',
  'never recorded',
  'log lost in transfer',
  'air not read',
  'other cause, see note',
] as const;
export type ExclusionReason = (typeof EXCLUSION_REASONS)[number];
/** Causes by which there are no bytes; they do not fit a pull that has a file. */
export const NOTHING_RECORDED: ReadonlySet<string> = new Set(['never recorded', 'log lost in transfer']);

export const PullSchema = z.object({
  id: z.string(),
  label: z.string(),
  position: z.number(),
  run: z.number(),
  arm: z.string(),
  mount: z.number(),
  counted: z.boolean(),
  /** Label of the pull that this one repeats. */ repeats: z.string().nullable(),
  file: z
    .object({
      name: z.string(),
      sha256: z.string(),
      size: z.number(),
      attachedAt: z.string(),
      attachedBy: z.string(),
      found: z.custom<PullFound>(),
    })
    .nullable(),
  /** The engine’s log that is joined to the file; left out where there is none. */
  log: z
    .object({
      name: z.string(),
      sha256: z.string(),
      offsetS: z.number(),
      foundOffsetS: z.number().nullable(),
      /** It has no engine speed, and was placed by the clocks of both files. */ byClock: z
        .boolean()
        .optional(),
    })
    .nullish(),
  air: z
    .object({
      temperatureC: z.number(),
      pressureHpa: z.number(),
      pressureKind: z.enum(['station', 'sea level']),
      humidityKind: z.enum(['relative', 'dew point', 'wet bulb']),
      humidityValue: z.number(),
      source: z.enum(AIR_SOURCES),
      /** Name of the station’s file it was joined from. */ sourceFile: z.string().nullable(),
      enteredAt: z.string(),
      enteredBy: z.string(),
    })
    .nullable(),
  excluded: z
    .object({ reason: z.string(), note: z.string(), by: z.string(), at: z.string(), seenResult: z.boolean() })
    .nullable(),
});
export type Pull = z.infer<typeof PullSchema>;

/** What the importer found in a pull file. */
export interface PullFound {
  encoding: string;
  delimiter: string;
  decimal: string;
  lineEnd: string;
  headerLine: number;
  samples: number;
  torqueFrom: string;
  /** When the file says it was recorded, in its own words. */
  recorded?: string | null;
  columns: { header: string; quantity: string | null; unit: string | null; unitFrom: string | null }[];
  sweep: { fromRpm: number; toRpm: number; beganRpm: number; samples: number; rampRpmPerS: number | null };
  findings: { code: string; message: string; line?: number | undefined }[];
}

export const AirRequest = z.object({
  temperatureC: z.number(),
  pressureHpa: z.number(),
  pressureKind: z.enum(['station', 'sea level']).default('station'),
  humidityKind: z.enum(['relative', 'dew point', 'wet bulb']).default('relative'),
  humidityValue: z.number(),
  /** How it came onto the page; typed where it is left out. */ source: z
    .enum(['typed', 'pasted'])
    .optional(),
});
export type AirRequest = z.infer<typeof AirRequest>;

/** Sent beside the bytes of a pull file, in the query. */
export const PullFileQuery = z.object({
  name: z.string().min(1).max(200),
  /** As the sender has it: other bytes on arrival are refused. */
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
  /** Columns a person chose, as JSON; kept for the next file of the same layout. */
  columns: z
    .string()
    .max(2000)
    .transform((text, context) => {
      try {
        return ColumnsSchema.parse(JSON.parse(text));
      } catch {
        context.addIssue({ code: 'custom', message: 'columns is not readable' });
        return z.NEVER;
      }
    })
    .optional(),
});

export const ExclusionRequest = z
  .object({ reason: z.enum(EXCLUSION_REASONS), note: z.string().trim().max(500).default('') })
  .refine((r) => r.reason !== 'other cause, see note' || r.note.length >= 5, {
    message: 'Describe the cause in the note.',
    path: ['note'],
  });
