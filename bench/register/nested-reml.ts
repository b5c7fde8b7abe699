/**
 * Restricted likelihood of the nested model (days, mountings within days), by average-information steps (Gilmour,
 * Thompson & Cullis 1995). For comparison only: the application estimates by analysis of variance, which is the same
 * where every design is balanced and needs no iteration.
 */
import type { ControlPull } from '../../core/register/dyno-health.ts';

export interface NestedReml {
  readonly day: number;
  readonly mount: number;
  readonly pull: number;
  readonly intercept: number;
  readonly se: number;
  /** −2 log restricted likelihood. */ readonly criterion: number;
}
type Matrix = number[][];
const multiply = (a: Matrix, b: Matrix): Matrix =>
  a.map((row) => b[0].map((_, j) => row.reduce((s, v, k) => s + v * b[k][j], 0)));
const apply = (a: Matrix, v: readonly number[]): number[] =>
  a.map((row) => row.reduce((s, x, k) => s + x * v[k], 0));
const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((s, v, i) => s + v * b[i], 0);

/** Inverse and log determinant by Gauss-Jordan with pivots; symmetric positive matrices of some dozens of rows. */
function inverse(matrix: Matrix): { inverse: Matrix; logDet: number } {
  const n = matrix.length;
  const a = matrix.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))]);
  let logDet = 0;
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(a[i][k]) > Math.abs(a[pivot][k])) pivot = i;
    [a[k], a[pivot]] = [a[pivot], a[k]];
    logDet += Math.log(Math.abs(a[k][k]));
    const scale = a[k][k];
    a[k] = a[k].map((v) => v / scale);
    for (let i = 0; i < n; i++) {
      if (i === k || a[i][k] === 0) continue;
      const f = a[i][k];
      for (let j = 0; j < 2 * n; j++) a[i][j] -= f * a[k][j];
    }
  }
  return { inverse: a.map((row) => row.slice(n)), logDet };
}

interface Working {
  readonly P: Matrix;
  readonly logDet: number;
  /** XᵀV⁻¹X of the mean alone. */ readonly information: number;
  readonly intercept: number;
}
function working(parts: readonly Matrix[], theta: readonly number[], y: readonly number[]): Working {
  const V = parts[0].map((row, i) => row.map((_, j) => parts.reduce((s, Z, k) => s + theta[k] * Z[i][j], 0)));
  const { inverse: Vi, logDet } = inverse(V);
  const ones = y.map(() => 1);
  const a = apply(Vi, ones);
  const information = dot(ones, a);
  const P = Vi.map((row, i) => row.map((v, j) => v - (a[i] * a[j]) / information));
  return { P, logDet, information, intercept: dot(a, y) / information };
}

const STEPS = 200;
/** Estimates that stay above zero. */
export function nestedReml(pulls: readonly ControlPull[]): NestedReml {
  const same = (key: (p: ControlPull) => string): Matrix =>
    pulls.map((p) => pulls.map((q) => (key(p) === key(q) ? 1 : 0)));
  const identity = pulls.map((_, i) => pulls.map((__, j) => (i === j ? 1 : 0)));
  const parts = [same((p) => String(p.day)), same((p) => `${p.day} ${p.mount}`), identity];
  // Centred: sums of squares of the numbers as they are would lose their last digits.
  const centre = pulls.reduce((s, p) => s + p.y, 0) / pulls.length;
  const y = pulls.map((p) => p.y - centre);
  let theta = [0.4, 0.4, 0.4];
  for (let step = 0; step < STEPS; step++) {
    const { P } = working(parts, theta, y);
    const Py = apply(P, y);
    const ZPy = parts.map((Z) => apply(Z, Py));
    const score = parts.map((Z, k) => {
      const PZ = multiply(P, Z);
      return -0.5 * (PZ.reduce((s, row, i) => s + row[i], 0) - dot(Py, ZPy[k]));
    });
    const AI = ZPy.map((a) => ZPy.map((b) => 0.5 * dot(a, apply(P, b))));
    const move = apply(inverse(AI).inverse, score);
    let part = 1;
    while (part > 1e-6 && theta.some((v, k) => v + part * move[k] <= 0)) part /= 2;
    theta = theta.map((v, k) => v + part * move[k]);
    if (move.every((m, k) => Math.abs(m) < 1e-13 * theta[k])) break;
  }
  const { P, logDet, information, intercept } = working(parts, theta, y);
  const criterion =
    (y.length - 1) * Math.log(2 * Math.PI) + logDet + Math.log(information) + dot(y, apply(P, y));
  const [day, mount, pull] = theta;
  return { day, mount, pull, intercept: intercept + centre, se: 1 / Math.sqrt(information), criterion };
}
