import type { KnownVariance } from '../register/repeatability.ts';

/**
 * Guard on the registered mount variance, upwards only: pools the mountings seen in this session with it.
 * For equal runs, each on a mounting of its own, and four mountings or more.
 * @param runMeans band average of each run, lp; @param runArm 0 or 1; @param pullsPerRun
 * @param within within-run variance of the band average, lp²
 */
export function guardedMountVariance(
  runMeans: readonly number[],
  runArm: readonly (0 | 1)[],
  pullsPerRun: number,
  within: number,
  registered: KnownVariance,
) {
  const dfb = runMeans.length - 2;
  if (dfb < 2) return { ...registered, f: 1, msb: NaN };
  const armMean = ([0, 1] as const).map((a) => {
    const own = runMeans.filter((_, i) => runArm[i] === a);
    return own.reduce((x, y) => x + y, 0) / own.length;
  });
  const msb = runMeans.reduce((sum, value, i) => sum + (value - armMean[runArm[i]]) ** 2, 0) / dfb;
  const f = Math.max(1, msb / (registered.variance + within / pullsPerRun));
  const df = registered.df / f + dfb;
  const seen = Math.max(registered.variance, msb - within / pullsPerRun);
  return { variance: (registered.df * registered.variance + dfb * seen) / df, df, f, msb };
}
