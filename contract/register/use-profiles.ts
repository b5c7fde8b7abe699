/** Use profiles as they are entered and read, and gains by them. */
import { z } from 'zod';
import { MOST_POINTS, USE_RANGE } from '../../core/register/use-profile.ts';

const Points = z
  .array(
    z.object({
      at: z.number().min(USE_RANGE.from).max(USE_RANGE.to),
      weight: z.number().min(0).max(1000),
    }),
  )
  .min(2, 'Give at least two points.')
  .max(MOST_POINTS)
  .refine((points) => points.every((p, i) => i === 0 || p.at > points[i - 1].at), {
    message: 'Each point lies at a higher speed than the one before.',
  })
  .refine((points) => points.some((p) => p.weight > 0), { message: 'Some speed has to count.' });

/** Points as a person writes them: “20 0, 30 1, 55 1, 75 0”. */
export const PointsText = z
  .string()
  .trim()
  .max(400)
  .transform((text, context) => {
    const points = text
      .split(/[,;\n]+/)
      .map((pair) => pair.trim().split(/[\s%:]+/))
      .filter((pair) => pair.join('') !== '')
      .map(([at, weight]) => ({ at: Number(at), weight: Number(weight ?? NaN) }));
    const read = Points.safeParse(points);
    if (read.success) return read.data;
    const said = read.error.issues.find((issue) => issue.code === 'custom' || issue.code === 'too_small');
    context.addIssue({
      code: 'custom',
      message:
        said?.message && points.every((p) => Number.isFinite(p.at) && Number.isFinite(p.weight))
          ? said.message
          : `Write pairs of speed and weight, speeds from ${USE_RANGE.from} to ${USE_RANGE.to} %: “20 0, 30 1, 55 1, 75 0”.`,
    });
    return z.NEVER;
  });

const shared = {
  name: z.string().trim().min(2).max(40),
  note: z.string().trim().max(500),
};
export const UseProfileRequest = z.object({ ...shared, points: Points });
export type UseProfileRequest = z.infer<typeof UseProfileRequest>;
/** A next version of one; `after` is the version it was made from. */
export const UseVersionRequest = UseProfileRequest.extend({
  after: z.number().int().positive(),
  retired: z.boolean().default(false),
});
export type UseVersionRequest = z.input<typeof UseVersionRequest>;

export const UseProfileSchema = z.object({
  id: z.string(),
  version: z.number(),
  ...shared,
  points: z.array(z.object({ at: z.number(), weight: z.number() })),
  retired: z.boolean(),
  at: z.string(),
  person: z.string().nullable(),
});
export type UseProfile = z.infer<typeof UseProfileSchema>;
export const UseProfilesSchema = z.object({
  profiles: z.array(UseProfileSchema),
  /** Every version there was; of each use the newest first. */
  versions: z.array(UseProfileSchema),
});
export type UseProfiles = z.infer<typeof UseProfilesSchema>;

const IntervalSchema = z.object({ gain: z.number(), lower: z.number(), upper: z.number() });
/** Gains of a test by the profiles in use; null where too little of a profile lies in what was compared. */
export const GainsByUseSchema = z.object({
  profiles: z.array(z.object({ id: z.string(), name: z.string(), version: z.number() })),
  arms: z.array(
    z.object({
      arm: z.string(),
      uses: z.array(z.object({ covered: z.number(), gain: IntervalSchema.nullable() })),
    }),
  ),
});
export type GainsByUse = z.infer<typeof GainsByUseSchema>;
