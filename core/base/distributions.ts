/**
 * Tails and quantiles the decision rules need. The distributions come from @stdlib; what it does not
 * offer (inverse trigamma, noncentral t, studentised range) is built on it. Checked against R 4.2.2
 * by `evidentia reference` (group "distributions").
 */
import betainc from '@stdlib/math-base-special-betainc';
import digammaStd from '@stdlib/math-base-special-digamma';
import gammainc from '@stdlib/math-base-special-gammainc';
import gammaln from '@stdlib/math-base-special-gammaln';
import trigammaStd from '@stdlib/math-base-special-trigamma';
import chisqQuantileStd from '@stdlib/stats-base-dists-chisquare-quantile';
import fCdf from '@stdlib/stats-base-dists-f-cdf';
import normalCdfStd from '@stdlib/stats-base-dists-normal-cdf';
import normalQuantileStd from '@stdlib/stats-base-dists-normal-quantile';
import tCdf from '@stdlib/stats-base-dists-t-cdf';
import tQuantileStd from '@stdlib/stats-base-dists-t-quantile';
import { NumericalError } from './errors.ts';
import { gaussPanels } from './gauss-panels.ts';

export const digamma = (x: number): number => digammaStd(x);
export const trigamma = (x: number): number => trigammaStd(x);
export const lgamma = (x: number): number => gammaln(x);
export const normalCdf = (x: number): number => normalCdfStd(x, 0, 1);
export const normalQuantile = (p: number): number => normalQuantileStd(p, 0, 1);
export const chisqQuantile = (p: number, df: number): number => chisqQuantileStd(p, df);
/** Upper tails: P(X > x). */
export const chisqUpper = (x: number, df: number): number => gammainc(x / 2, df / 2, true, true);
/** The reflected argument keeps the digits of a small tail. */
export const normalUpper = (x: number): number => normalCdfStd(-x, 0, 1);
/** Upper tail of F by the reflected argument, so small tails keep their digits. */
export const fUpper = (x: number, df1: number, df2: number): number => fCdf(1 / x, df2, df1);

/** Upper tail of Student's t, P(T > x); df may be fractional or Infinity. */
export function tUpper(x: number, df: number): number {
  return df === Infinity ? normalCdf(-x) : tCdf(-x, df);
}

/**
 * The x with P(T > x) = tail. Starts from @stdlib and takes Newton steps on the tail itself,
 * because deep tails (1e-5) with fractional df are what the Bonferroni bound asks for.
 */
export function tUpperQuantile(tail: number, df: number): number {
  if (!(tail > 0 && tail < 1) || !(df > 0)) {
    throw new NumericalError(
      'BAD_ARGUMENT',
      `t quantile asked for tail ${tail} with ${df} degrees of freedom.`,
      'Both must be above zero, the tail below one.',
    );
  }
  if (df === Infinity) return -normalQuantile(tail);
  let x = -tQuantileStd(tail, df);
  for (let i = 0; i < 4; i++) {
    const step = (tUpper(x, df) - tail) / tDensity(x, df);
    if (!Number.isFinite(step)) break;
    x += step;
    if (Math.abs(step) <= 1e-14 * Math.abs(x)) break;
  }
  return x;
}

/** Density of Student's t. */
export function tDensity(x: number, df: number): number {
  return Math.exp(
    lgamma((df + 1) / 2) -
      lgamma(df / 2) -
      0.5 * Math.log(df * Math.PI) -
      ((df + 1) / 2) * Math.log1p((x * x) / df),
  );
}

/** The y with trigamma(y) = x, x > 0. Newton's method on 1/trigamma, which is nearly linear (Smyth 2004, appendix; memory). */
export function trigammaInverse(x: number): number {
  if (!(x > 0))
    throw new NumericalError('BAD_ARGUMENT', `Inverse trigamma asked for ${x}.`, 'It is defined above zero.');
  if (x > 1e7) return 1 / Math.sqrt(x);
  if (x < 1e-6) return 1 / x;
  let y = 0.5 + 1 / x;
  for (let i = 0; i < 60; i++) {
    const tri = trigamma(y);
    const step = (tri * (1 - tri / x)) / tetragamma(y);
    y += step;
    if (-step / y < 1e-15) return y;
  }
  return y;
}

/** Second derivative of digamma, by recurrence up to 20 and the asymptotic series (Abramowitz & Stegun 6.4.14). */
function tetragamma(x: number): number {
  let sum = 0;
  let z = x;
  while (z < 20) {
    sum -= 2 / z ** 3;
    z += 1;
  }
  const q = 1 / (z * z);
  return sum - q - 1 / z ** 3 - q * q * (1 / 2 - q * (1 / 6 - q * (1 / 6 - q * (3 / 10 - q * (5 / 6)))));
}

/**
 * Upper tail of the noncentral t, P(T > x), for x ≥ 0 and ncp ≥ 0 (the only case a power needs).
 * Series of Lenth (1989), Applied Statistics AS 243, with @stdlib's incomplete beta.
 */
export function nctUpper(x: number, df: number, ncp: number): number {
  if (!(x >= 0) || !(ncp >= 0)) {
    throw new NumericalError(
      'BAD_ARGUMENT',
      `Noncentral t asked for x = ${x}, ncp = ${ncp}.`,
      'Both must be zero or above.',
    );
  }
  if (ncp === 0) return tUpper(x, df);
  if (ncp > 37) return 1; // e^(-ncp²/2) underflows there, and the tail is 1 for any x a power uses
  const y = (x * x) / (x * x + df);
  const half = (ncp * ncp) / 2;
  let p = 0.5 * Math.exp(-half);
  let q = (Math.SQRT2 / Math.sqrt(Math.PI)) * p * ncp;
  let sum = 0;
  // The weights rise to a maximum near j = ncp²/2 before they fall, so a small term alone does not end the sum.
  for (let j = 0; j < 2000; j++) {
    const term = p * betainc(y, j + 0.5, df / 2, true, false) + q * betainc(y, j + 1, df / 2, true, false);
    sum += term;
    if (j > half && term < 1e-16) break;
    p *= half / (j + 1);
    q *= half / (j + 1.5);
  }
  return 1 - (normalCdf(-ncp) + sum);
}

/**
 * Distribution function of the range of k standard normal values, P(range ≤ q), by Gauss-Legendre
 * panels of k∫φ(z)[Φ(z) − Φ(z − q)]^(k−1) dz: the studentised range with unlimited df
 * (R's `ptukey` takes the same limit above 25 000).
 */
export function normalRangeCdf(q: number, k: number): number {
  const f = (z: number): number =>
    k * (Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI)) * (normalCdf(z) - normalCdf(z - q)) ** (k - 1);
  const sum = gaussPanels(-8.5, 8.5 + q, 400).reduce((total, { at, weight }) => total + weight * f(at), 0);
  return Math.min(1, sum);
}
