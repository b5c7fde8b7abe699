import tCdf from '@stdlib/stats-base-dists-t-cdf';
import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { criticalValue, expectedEuler } from './critical-value.ts';
import {
  chisqUpper,
  digamma,
  fUpper,
  lgamma,
  nctUpper,
  normalCdf,
  normalRangeCdf,
  tDensity,
  trigamma,
  trigammaInverse,
  tUpper,
  tUpperQuantile,
} from './distributions.ts';
import { NumericalError } from './errors.ts';
import { grouped } from './grouped.ts';
import { seededRng } from './rng.ts';
import { brent } from './roots.ts';
import { welchSatterthwaite } from './welch-satterthwaite.ts';

const EULER = 0.5772156649015329; // Abramowitz & Stegun 6.1.3
const code = (run: () => unknown): string => {
  try {
    run();
  } catch (error) {
    expect(error).toBeInstanceOf(NumericalError);
    return (error as NumericalError).code;
  }
  return 'no error';
};

describe('roots by Brent’s method', () => {
  // The fixed point of the cosine: OEIS A003957 (from memory).
  it('finds where the cosine meets the line', () =>
    expect(brent((x) => Math.cos(x) - x, 0, 1)).toBeCloseTo(0.7390851332151607, 14));
  it('finds any cube root', () =>
    fc.assert(
      fc.property(fc.double({ min: 1e-6, max: 1e6, noNaN: true }), (a) => {
        expect(Math.abs(brent((x) => x ** 3 - a, 0, 101) / Math.cbrt(a) - 1)).toBeLessThan(1e-9);
      }),
    ));
  it('finds the one root of a steep or a flat function', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -0.99, max: 0.99, noNaN: true }),
        fc.integer({ min: 0, max: 4 }),
        (root, k) => {
          expect(Math.abs(brent((x) => Math.sinh(10 ** (k - 2) * (x - root)), -1, 1) - root)).toBeLessThan(
            1e-9,
          );
        },
      ),
    ));
  it('takes an end that is the root', () => {
    expect(brent((x) => x, 0, 1)).toBe(0);
    expect(brent((x) => x - 1, 0, 1)).toBe(1);
  });
  it('says that a bracket holds no change of sign', () =>
    expect(code(() => brent((x) => x * x + 1, -1, 1))).toBe('BAD_ARGUMENT'));
  it('says that it ran out of steps', () =>
    expect(code(() => brent((x) => x ** 3 - 2, 0, 1e3, 1e-15, 3))).toBe('NOT_CONVERGED'));
});

describe('special functions at arguments with a closed form', () => {
  test.each([
    ['ψ(1) = −γ', digamma(1), -EULER],
    ['ψ(½) = −γ − 2 ln 2', digamma(0.5), -EULER - 2 * Math.LN2],
    ['ψ′(1) = π²/6', trigamma(1), Math.PI ** 2 / 6],
    ['ψ′(½) = π²/2', trigamma(0.5), Math.PI ** 2 / 2],
    ['ln Γ(½) = ½ ln π', lgamma(0.5), 0.5 * Math.log(Math.PI)],
    ['χ² with two df is exponential', chisqUpper(3, 2), Math.exp(-1.5)],
    ['F with two and two df', fUpper(3, 2, 2), 0.25],
    ['t with one df is Cauchy', tUpper(1, 1), 0.25],
    ['t with two df', tUpper(1, 2), 0.5 - 1 / (2 * Math.sqrt(3))],
    ['the range of two normals is |N|·√2', normalRangeCdf(1.5, 2), 2 * normalCdf(1.5 / Math.SQRT2) - 1],
  ])('%s', (_name, found, exact) => expect(Math.abs(found - exact)).toBeLessThan(1e-11));
  it('inverse trigamma undoes trigamma', () =>
    fc.assert(
      fc.property(fc.double({ min: 1e-3, max: 1e3, noNaN: true }), (y) => {
        expect(Math.abs(trigammaInverse(trigamma(y)) / y - 1)).toBeLessThan(1e-9);
      }),
    ));
  test.each([
    [() => trigammaInverse(0)],
    [() => tUpperQuantile(0, 5)],
    [() => tUpperQuantile(0.1, 0)],
    [() => nctUpper(-1, 5, 1)],
    [() => nctUpper(1, 5, -1)],
  ])('refuses %s', (run) => expect(code(run)).toBe('BAD_ARGUMENT'));
});

describe('Student’s t', () => {
  it('quantile undoes the tail, deep and with fractional df', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -6, max: -0.31, noNaN: true }),
        fc.double({ min: 1.2, max: 400, noNaN: true }),
        (lg, df) => {
          const tail = 10 ** lg;
          expect(Math.abs(tUpper(tUpperQuantile(tail, df), df) / tail - 1)).toBeLessThan(1e-8);
        },
      ),
    ));
  it('has the density that its distribution grows by', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -6, max: 6, noNaN: true }),
        fc.double({ min: 1, max: 60, noNaN: true }),
        (x, df) => {
          const h = 1e-4;
          expect(Math.abs((tCdf(x + h, df) - tCdf(x - h, df)) / (2 * h) - tDensity(x, df))).toBeLessThan(
            1e-6,
          );
        },
      ),
    ));
  it('shifted by more is beyond a limit more often', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6, noNaN: true }),
        fc.double({ min: 1, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 8, noNaN: true }),
        fc.double({ min: 0.01, max: 4, noNaN: true }),
        (x, df, ncp, more) => {
          expect(nctUpper(x, df, ncp + more)).toBeGreaterThanOrEqual(nctUpper(x, df, ncp) - 1e-12);
        },
      ),
    ));
});

describe('the simultaneous critical value', () => {
  it('is never below the limit for one engine speed, nor above the one for all of them taken singly', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.005, max: 0.1, noNaN: true }),
        fc.double({ min: 3, max: 200, noNaN: true }),
        fc.double({ min: 0.5, max: 60, noNaN: true }),
        fc.integer({ min: 2, max: 120 }),
        (alpha, nu, tau, points) => {
          const { u, ec, bonferroni } = criticalValue(alpha, nu, tau, 't', points);
          expect(u).toBe(Math.min(ec, bonferroni));
          expect(u).toBeGreaterThanOrEqual(tUpperQuantile(alpha, nu) - 1e-9);
          if (Number.isFinite(ec))
            expect(Math.abs(expectedEuler(ec, nu, tau, 't') / alpha - 1)).toBeLessThan(1e-9);
        },
      ),
    ));
  it('of a curve without roughness is the limit for one engine speed', () =>
    expect(criticalValue(0.05, 12, 0, 't', 40).u).toBeCloseTo(tUpperQuantile(0.05, 12), 9));
});

describe('Welch-Satterthwaite', () => {
  // GUM (JCGM 100:2008) G.4.1: the effective df lie between the smallest of the parts and their sum.
  it('lies between the fewest degrees of freedom and all of them', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 1e-3, max: 10, noNaN: true }), fc.integer({ min: 1, max: 60 })), {
          minLength: 1,
          maxLength: 5,
        }),
        (parts) => {
          const df = parts.map(([, n]) => n);
          const { u2, nu } = welchSatterthwaite(
            parts.map(([v]) => v),
            df,
          );
          expect(u2).toBeCloseTo(
            parts.reduce((sum, [v]) => sum + v, 0),
            9,
          );
          expect(nu).toBeGreaterThanOrEqual(Math.min(...df) - 1e-9);
          expect(nu).toBeLessThanOrEqual(df.reduce((a, b) => a + b, 0) + 1e-9);
        },
      ),
    ));
  it('a part known exactly adds variance and no doubt about it', () =>
    expect(welchSatterthwaite([1, 1], [10, Infinity]).nu).toBeCloseTo(40, 12));
  it('with nothing but exact parts has no end of degrees of freedom', () =>
    expect(welchSatterthwaite([1], [Infinity]).nu).toBe(Infinity));
});

describe('chance that is seeded', () => {
  it('repeats with its seed and differs with another', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 4294967294 }), (seed) => {
        const draw = (s: number): number[] => {
          const rng = seededRng(s);
          return [rng.uniform(), rng.normal(), rng.uniform()];
        };
        expect(draw(seed)).toEqual(draw(seed));
        expect(draw(seed)).not.toEqual(draw(seed === 1 ? 2 : seed - 1));
      }),
    ));
  it('is standard normal', () => {
    const rng = seededRng(7);
    const x = Array.from({ length: 20_000 }, () => rng.normal());
    const mean = x.reduce((a, b) => a + b, 0) / x.length;
    // Four standard errors of a mean and of a variance.
    expect(Math.abs(mean)).toBeLessThan(4 / Math.sqrt(x.length));
    expect(Math.abs(x.reduce((a, b) => a + (b - mean) ** 2, 0) / x.length - 1)).toBeLessThan(
      4 * Math.sqrt(2 / x.length),
    );
  });
});

test.each([
  [1234, '1\u202f234'],
  ['1234567.12345', '1\u202f234\u202f567.12345'],
  [999, '999'],
  ['0.12345', '0.12345'],
])('%s is grouped by thousands', (value, text) => expect(grouped(value)).toBe(text));
