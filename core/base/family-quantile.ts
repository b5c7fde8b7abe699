/**
 * How far limits of several contrasts must lie out so that all of them hold together: Dunnett's way for parts over one
 * baseline, Tukey's for all pairs, and for the stages of a ladder the nearer of Bonferroni's and Tukey's.
 *
 * Sources: Dunnett, JASA 50 (1955) 1096 and Biometrics 20 (1964) 482 (integral of the product form; memory); Tukey's
 * studentised range with Kramer's unequal numbers, conservative by Hayter, Ann. Stat. 12 (1984) 61 (memory). Checked
 * against R 4.2.2 (`mvtnorm` 1.1-3, `multcomp` 1.4-22, `qtukey`).
 */
import { chisqQuantile, lgamma, normalCdf, tUpperQuantile } from './distributions.ts';
import { gaussPanels } from './gauss-panels.ts';
import { brent } from './roots.ts';

/** Contrasts whose limits hold together. `alpha` is the one-sided error of the whole family. */
export type Family =
  | {
      readonly kind: 'many to one';
      readonly alpha: number;
      /** Share of each contrast's variance that is the baseline's: what the contrasts have in common. */
      readonly shares: readonly number[];
    }
  | { readonly kind: 'all pairs'; readonly alpha: number; readonly arms: number }
  | { readonly kind: 'stages'; readonly alpha: number; readonly stages: number };

/** Below so few degrees of freedom the integrals are not worth their while: Bonferroni's limit is taken. */
const LEAST_DF = 2;

/** Multiple of the standard uncertainty; `df` may be fractional or Infinity. */
export function familyQuantile(family: Family, df: number): number {
  switch (family.kind) {
    case 'many to one':
      return manyToOne(family.alpha, family.shares, df);
    case 'all pairs':
      return allPairs(family.alpha, family.arms, df);
    case 'stages':
      return Math.min(
        tUpperQuantile(family.alpha / family.stages, df),
        allPairs(family.alpha, family.stages + 1, df),
      );
  }
}

function allPairs(alpha: number, arms: number, df: number): number {
  const pairs = (arms * (arms - 1)) / 2;
  if (df < LEAST_DF || pairs < 2) return tUpperQuantile(alpha / pairs, df);
  const exact = (own: number): number =>
    brent(
      (limit) => 1 - rangeCdf(limit * Math.SQRT2, arms, own) - 2 * alpha,
      tUpperQuantile(alpha, own) - 1e-6,
      tUpperQuantile(alpha / pairs, own) + 1e-6,
      1e-9,
    );
  return tableFor(['pairs', alpha, arms], exact)(df);
}

function manyToOne(alpha: number, shares: readonly number[], df: number): number {
  if (shares.length < 2 || df < LEAST_DF) return tUpperQuantile(alpha / shares.length, df);
  const sorted = [...shares].sort((a, b) => a - b);
  return tableFor(['many', alpha, ...sorted], (own) => exactManyToOne(alpha, sorted, own))(df);
}

/** Chance that none of the contrasts, each over its own standard error, lies above `limit`. */
export function manyToOneCdf(limit: number, shares: readonly number[], df: number): number {
  const alike = [...new Set(shares)].map((share) => ({
    root: Math.sqrt(share),
    rest: Math.sqrt(1 - share),
    count: shares.filter((other) => other === share).length,
  }));
  const given = (scaled: number): number =>
    Z_NODES.reduce((sum, { at, weight }) => {
      const all = alike.reduce(
        (product, { root, rest, count }) => product * normalCdf((scaled + root * at) / rest) ** count,
        1,
      );
      return sum + weight * all;
    }, 0);
  return overScale((s) => given(limit * s), df);
}

/** Chance that the range of so many normal values, over a standard deviation of its own with `df`, is at most `range`. */
export function rangeCdf(range: number, arms: number, df: number): number {
  const given = (width: number): number =>
    Z_NODES.reduce(
      (sum, { at, weight }) => sum + weight * arms * (normalCdf(at) - normalCdf(at - width)) ** (arms - 1),
      0,
    );
  return overScale((s) => given(range * s), df);
}

/** Mean of what is given a scale s, where df·s² is chi-squared. */
function overScale(given: (s: number) => number, df: number): number {
  if (df === Infinity) return given(1);
  const end = (p: number): number => Math.sqrt(chisqQuantile(p, df) / df);
  const log0 = Math.LN2 + (df / 2) * Math.log(df / 2) - lgamma(df / 2);
  return gaussPanels(end(TAIL), end(1 - TAIL), SCALE_PANELS).reduce(
    (sum, { at: s, weight }) =>
      sum + weight * Math.exp(log0 + (df - 1) * Math.log(s) - (df * s * s) / 2) * given(s),
    0,
  );
}
/** What is left out at either end of the scale’s distribution. */
const TAIL = 1e-11;
const SCALE_PANELS = 14;
const Z_NODES = gaussPanels(-6.5, 6.5, 8).map(({ at, weight }) => ({
  at,
  weight: (weight * Math.exp(-0.5 * at * at)) / Math.sqrt(2 * Math.PI),
}));

/**
 * ln of a limit over 1/df, read off between Chebyshev nodes: a test asks for it some fifty times, each an integral
 * over two dimensions. Off by less than 1e-4 of the limit.
 */
const NODES = 9;
const tables = new Map<string, (df: number) => number>();
const TABLES_KEPT = 16;
function tableFor(of: readonly (string | number)[], exact: (df: number) => number): (df: number) => number {
  const key = of.map((v) => (typeof v === 'number' ? v.toPrecision(9) : v)).join(' ');
  const kept = tables.get(key);
  if (kept) return kept;
  const nodes = Array.from({ length: NODES }, (_, k) => (Math.PI * (k + 0.5)) / NODES);
  const values = nodes.map((angle) => Math.log(exact((2 * LEAST_DF) / (1 + Math.cos(angle)))));
  const coefficients = nodes.map(
    (_, j) => ((j === 0 ? 1 : 2) / NODES) * values.reduce((sum, v, k) => sum + v * Math.cos(j * nodes[k]), 0),
  );
  const table = (df: number): number => {
    const angle = Math.acos(Math.min(1, Math.max(-1, (2 * LEAST_DF) / df - 1)));
    return Math.exp(coefficients.reduce((sum, c, j) => sum + c * Math.cos(j * angle), 0));
  };
  if (tables.size >= TABLES_KEPT) tables.delete(tables.keys().next().value!);
  tables.set(key, table);
  return table;
}

const exactManyToOne = (alpha: number, shares: readonly number[], df: number): number =>
  brent(
    (limit) => 1 - manyToOneCdf(limit, shares, df) - alpha,
    tUpperQuantile(alpha, df) - 1e-6,
    tUpperQuantile(alpha / shares.length, df) + 1e-6,
    1e-9,
  );
