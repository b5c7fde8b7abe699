import { NumericalError } from './errors.ts';

/**
 * Root of a continuous function in a bracket by Brent's method (Brent 1973, ch. 4).
 * Throws when f has the same sign at both ends or the cap on steps is reached.
 */
// eslint-disable-next-line max-lines-per-function -- the published algorithm, step by step as it is printed
export function brent(
  f: (x: number) => number,
  low: number,
  high: number,
  tolerance = 1e-15,
  maxSteps = 500,
): number {
  let a = low,
    b = high,
    fa = f(a),
    fb = f(b);
  if (fa === 0) return a;
  if (fb === 0) return b;
  if (fa > 0 === fb > 0) {
    throw new NumericalError(
      'BAD_ARGUMENT',
      `The function does not change sign between ${low} and ${high}.`,
      'Widen the bracket.',
    );
  }
  let c = a,
    fc = fa,
    d = b - a,
    e = d;
  for (let step = 0; step < maxSteps; step++) {
    if (fb > 0 === fc > 0) {
      c = a;
      fc = fa;
      d = b - a;
      e = d;
    }
    if (Math.abs(fc) < Math.abs(fb)) {
      a = b;
      b = c;
      c = a;
      fa = fb;
      fb = fc;
      fc = fa;
    }
    const tol = 2 * Number.EPSILON * Math.abs(b) + tolerance / 2;
    const m = (c - b) / 2;
    if (Math.abs(m) <= tol || fb === 0) return b;
    if (Math.abs(e) >= tol && Math.abs(fa) > Math.abs(fb)) {
      const s = fb / fa;
      let p: number, q: number;
      if (a === c) {
        p = 2 * m * s;
        q = 1 - s;
      } else {
        const r = fb / fc,
          t = fa / fc;
        p = s * (2 * m * t * (t - r) - (b - a) * (r - 1));
        q = (t - 1) * (r - 1) * (s - 1);
      }
      if (p > 0) q = -q;
      else p = -p;
      if (2 * p < Math.min(3 * m * q - Math.abs(tol * q), Math.abs(e * q))) {
        e = d;
        d = p / q;
      } else {
        d = m;
        e = m;
      }
    } else {
      d = m;
      e = m;
    }
    a = b;
    fa = fb;
    b += Math.abs(d) > tol ? d : m > 0 ? tol : -tol;
    fb = f(b);
  }
  throw new NumericalError(
    'NOT_CONVERGED',
    `No root found in ${maxSteps} steps.`,
    'Please report the input.',
  );
}
