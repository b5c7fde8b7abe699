import { nctUpper, tUpperQuantile } from '../base/distributions.ts';

/**
 * Chance that the one-sided lower limit of a pre-declared scalar gain lies above zero, by the plug-in
 * noncentral t: `pw = 2·sd²/(n·k)`, `pm = stepVariance/k`, effective df by Welch-Satterthwaite.
 * With no step variance this is R's `power.t.test` (two samples, one-sided).
 * @param n pulls per mounting; @param delta true gain, lp; @param sd SD of one pull, lp
 * @param remount variance of the difference of two mountings (lp²) with its df, and mountings per arm
 */
export function scalarPower(
  n: number,
  delta: number,
  sd: number,
  alpha = 0.025,
  remount?: { stepVariance: number; df: number; mountings: number },
): number {
  const k = remount?.mountings ?? 1;
  const pw = (2 * sd * sd) / (n * k);
  const pm = (remount?.stepVariance ?? 0) / k;
  const u2 = pw + pm;
  const within = 2 * k * (n - 1);
  const nu =
    u2 ** 2 / (pw ** 2 / within + (remount && Number.isFinite(remount.df) ? pm ** 2 / remount.df : 0));
  return nctUpper(tUpperQuantile(alpha, nu), nu, delta / Math.sqrt(u2));
}
