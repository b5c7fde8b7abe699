/** Control vehicles of a dyno: cars on which nothing is changed, measured again and again. */
import { z } from 'zod';
import { StandardSchema } from '../base/schemas.ts';

/** Pulls of one check. */
export const [LEAST_CHECK_PULLS, MOST_CHECK_PULLS] = [3, 8];

const reason = z.string().trim().min(10, 'Give the reason in a sentence.').max(500);
export const ControlVehicleRequest = z
  .object({
    vehicleId: z.uuid({ error: 'Choose a vehicle.' }),
    standard: StandardSchema,
    fromRpm: z.number().positive(),
    toRpm: z.number().positive(),
    gear: z.string().trim().min(1, 'Say in which gear it is driven.').max(60),
    /** A control vehicle that is begun anew, and why its former checks say nothing of the next. */
    anew: z.object({ replaces: z.uuid(), reason }).nullable().default(null),
  })
  .refine((r) => r.toRpm - r.fromRpm >= 1000, {
    message: 'The range must span at least 1 000 rpm.',
    path: ['toRpm'],
  });
export type ControlVehicleRequest = z.infer<typeof ControlVehicleRequest>;

export const CheckFileQuery = z.object({ name: z.string().trim().min(1).max(200) });
export const CheckFileSchema = z.object({ sha256: z.string() });
const CheckPull = z.object({
  sha256: z.string().regex(/^[0-9a-f]{64}$/, 'A file is named by its SHA-256.'),
  name: z.string().trim().min(1).max(200),
  temperatureC: z.number().min(-40).max(60),
  /** As it is read at the site. */
  pressureHpa: z.number().min(500).max(1100),
  humidityPct: z.number().min(0).max(100),
});
export const ControlCheckRequest = z.object({
  /** When the first pull was made, at the site; where the files say so themselves, they are believed. */
  day: z.iso.date(),
  time: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'Write the time as 14:05.'),
  warmUps: z.number().int().min(0).max(12),
  note: z.string().trim().max(500).default(''),
  pulls: z
    .array(CheckPull)
    .min(LEAST_CHECK_PULLS, `A check has ${LEAST_CHECK_PULLS} counted pulls or more.`)
    .max(MOST_CHECK_PULLS),
});
export type ControlCheckRequest = z.infer<typeof ControlCheckRequest>;
export const StrikeCheckRequest = z.object({ reason });

const Known = z.object({ variance: z.number(), df: z.number() });
export const ControlCheckShown = z.object({
  id: z.string(),
  at: z.string(),
  timed: z.enum(['file', 'typed']),
  warmUps: z.number(),
  note: z.string(),
  /** Difference of its mean from the centre of the reference, lp; from the mean of all while that is not whole. */
  off: z.number(),
  sd: z.number(),
  enteredAt: z.string(),
  enteredBy: z.string(),
  files: z.array(z.object({ position: z.number(), name: z.string(), sha256: z.string() })),
  struck: z.object({ reason: z.string(), at: z.string(), by: z.string() }).nullable(),
  /** Its place on the chart, where there is one for it: moving mean and limits, lp from the centre. */
  chart: z
    .object({ ewma: z.number(), limit: z.number(), alarm: z.boolean(), single: z.boolean() })
    .nullable(),
});
export type ControlCheckShown = z.infer<typeof ControlCheckShown>;
export const ControlVehicleShown = z.object({
  id: z.string(),
  vehicleId: z.string(),
  tag: z.string(),
  standard: StandardSchema,
  fromRpm: z.number(),
  toRpm: z.number(),
  gear: z.string(),
  since: z.string(),
  /** Why it was begun anew, and whether it has been since: then it only serves for the sessions of its time. */
  reason: z.string(),
  replaced: z.boolean(),
  /** Mean power it makes, W, by the checks that count. */
  levelW: z.number().nullable(),
  checks: z.array(ControlCheckShown),
  /** Checks still missing to the reference. */ missing: z.number(),
  /** Variances by source, lp²: pulls, mountings and days; null where too few checks tell them. */
  study: z.object({ pull: Known, mount: Known.nullable(), day: Known, days: z.number() }).nullable(),
});
export type ControlVehicleShown = z.infer<typeof ControlVehicleShown>;
export const ControlShown = z.object({ vehicles: z.array(ControlVehicleShown) });
export type ControlShown = z.infer<typeof ControlShown>;
