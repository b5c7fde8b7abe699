import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tUpperQuantile } from '../base/distributions.ts';
import { seededRng } from '../base/rng.ts';
import { commonGrid } from './common-grid.ts';
import { runResiduals, sumOfSquares } from './contrast.ts';
import { contrastWeights, mountLoad, type Layout } from '../plan/contrast-weights.ts';
import { criticalValue, expectedEuler } from '../base/critical-value.ts';
import { roughness } from './roughness.ts';
import { armRatio } from './arm-ratio.ts';
import { armSplit } from './arm-split.ts';
import { gainBand } from './gain-band.ts';
import { stretches } from './stretches.ts';
import { scalarGain } from './scalar-gain.ts';
import { smoothed, smoothedVariance } from './smoothing.ts';
import { welchSatterthwaite } from '../base/welch-satterthwaite.ts';
import { VARIANCE_FLOOR } from '../base/interval-rules.ts';
import { historyIsEnough, historyPrior } from './history-prior.ts';

const rpm = Array.from({ length: 41 }, (_, j) => 2500 + 100 * j);
const ABA: Layout = {
  arm: [0, 0, 0, 1, 1, 1, 0, 0, 0],
  run: [0, 0, 0, 1, 1, 1, 2, 2, 2],
  mount: [1, 1, 1, 1, 1, 1, 1, 1, 1],
  order: [4, 5, 6, 10, 11, 12, 16, 17, 18],
  covariate: false,
};
/** Nine curves of smooth scatter about 460 lp. */
function curves(seed: number): Float64Array[] {
  const rng = seededRng(seed);
  return ABA.arm.map(() => {
    const [level, tilt] = [rng.normal(), rng.normal()];
    return Float64Array.from(
      rpm,
      (r) => 460 + 0.6 * level + 0.3 * tilt * Math.sin(r / 600) + 0.1 * rng.normal(),
    );
  });
}
const seeds = fc.integer({ min: 1, max: 1_000_000 });

describe('gain band', () => {
  it('a level added to every part pull moves the gain by that level and nothing else', () => {
    fc.assert(
      fc.property(seeds, fc.double({ min: -8, max: 8, noNaN: true }), (seed, shift) => {
        const rows = curves(seed);
        const moved = rows.map((row, i) => (ABA.arm[i] === 1 ? row.map((v) => v + shift) : row));
        const [a, b] = [
          gainBand(rows, rpm, ABA, { alpha: 0.025 }),
          gainBand(moved, rpm, ABA, { alpha: 0.025 }),
        ];
        return a.d.every(
          (d, j) =>
            Math.abs(b.d[j] - d - shift) < 1e-9 &&
            Math.abs(b.upper[j] - b.lower[j] - (a.upper[j] - a.lower[j])) < 1e-9,
        );
      }),
      { numRuns: 40 },
    );
  });
  it('a level added to a whole run leaves its scatter, roughness and critical value alone', () => {
    const rows = curves(7);
    const moved = rows.map((row, i) => (ABA.run[i] === 2 ? row.map((v) => v + 1.7) : row));
    const [a, b] = [gainBand(rows, rpm, ABA, { alpha: 0.025 }), gainBand(moved, rpm, ABA, { alpha: 0.025 })];
    expect(Math.abs(a.tau - b.tau)).toBeLessThan(1e-9);
    expect(Math.abs(a.u - b.u)).toBeLessThan(1e-9);
  });
  it('a linear drift cancels in A-B-A with equal runs', () => {
    const rows = ABA.order.map((o) => Float64Array.from(rpm, () => 460 + 0.2 * o));
    const band = gainBand(rows, rpm, ABA, { alpha: 0.025 });
    expect(Math.max(...band.d.map(Math.abs))).toBeLessThan(1e-9);
  });
  it('the mount and drift terms widen the uncertainty, a smaller error the band', () => {
    // The band itself may narrow with a mount term: more effective degrees of freedom lower the critical value.
    fc.assert(
      fc.property(seeds, (seed) => {
        const rows = curves(seed);
        const layout = { ...ABA, mount: [1, 1, 1, 2, 2, 2, 3, 3, 3] };
        const plain = gainBand(rows, rpm, layout, { alpha: 0.025 });
        const mounted = gainBand(rows, rpm, layout, { alpha: 0.025, mount: { variance: 0.4, df: 9 } });
        const drifted = gainBand(rows, rpm, layout, { alpha: 0.025, driftVariance: 0.5 });
        const strict = gainBand(rows, rpm, layout, { alpha: 0.005 });
        return plain.uc.every(
          (u, j) => mounted.uc[j] > u && drifted.uc[j] > u && strict.upper[j] > plain.upper[j],
        );
      }),
      { numRuns: 25 },
    );
  });
  it('rests on the variance floor when the pulls scatter too little to be believed', () => {
    const still = ABA.arm.map((_, i) => Float64Array.from(rpm, (_r, j) => 460 + 1e-4 * Math.sin(i * 3 + j)));
    const band = gainBand(still, rpm, ABA, { alpha: 0.025 });
    expect(band.flags).toContain('SCATTER_TOO_LOW');
    expect(band.variance).toBeCloseTo(VARIANCE_FLOOR * band.split.c2, 15);
  });
  it('finds the stretches between changes of sign', () => {
    const signs = [1, 1, -1, -1, -1, 1, -1, 1];
    expect(stretches(rpm, (j) => signs[j] > 0).map(({ fromRpm, toRpm }) => [fromRpm, toRpm])).toEqual([
      [2500, 2600],
      [3000, 3000],
      [3200, 3200],
    ]);
  });
});

describe('contrast and residuals', () => {
  it('plain weights sum to zero, part weights to one', () => {
    const weights = contrastWeights(ABA);
    expect(Math.abs(weights.reduce((a, b) => a + b, 0))).toBeLessThan(1e-15);
    expect(Math.abs(weights.filter((_, i) => ABA.arm[i] === 1).reduce((a, b) => a + b, 0) - 1)).toBeLessThan(
      1e-15,
    );
  });
  it('covariate weights are blind to any straight line in order', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([...Array(24).keys()], { minLength: 8, maxLength: 8 }), (order) => {
        const sorted = [...order].sort((a, b) => a - b);
        const weights = contrastWeights({ arm: [0, 0, 1, 1, 0, 0, 1, 1], order: sorted, covariate: true });
        return (
          Math.abs(weights.reduce((sum, w, i) => sum + w * sorted[i], 0)) < 1e-9 &&
          Math.abs(weights.reduce((a, b) => a + b, 0)) < 1e-9
        );
      }),
      { numRuns: 60 },
    );
  });
  it('refuses an order that cannot be told from the arm', () => {
    expect(() => contrastWeights({ arm: [0, 1], order: [1, 2], covariate: true })).toThrow(
      /cannot be told apart/,
    );
  });
  it('residuals sum to zero in every run; nu is pulls less runs', () => {
    const { rows, nu } = runResiduals(curves(3), ABA);
    expect(nu).toBe(6);
    for (const run of [0, 1, 2]) {
      const own = rows.filter((_, i) => ABA.run[i] === run);
      expect(Math.abs(own.reduce((sum, row) => sum + row[17], 0))).toBeLessThan(1e-9);
    }
    expect(sumOfSquares(rows).every((ss) => ss >= 0)).toBe(true);
  });
  it('a mounting shared evenly by both arms carries no load', () => {
    expect(mountLoad([0.5, -0.5, 0.5, -0.5], [1, 1, 2, 2])).toBe(0);
    expect(mountLoad([1, -1], [1, 2])).toBe(2);
  });
});

describe('critical value', () => {
  it('solves its own equation, and falls with more degrees of freedom', () => {
    let last = Infinity;
    for (const nu of [3, 4, 6, 9, 16, 40, 200]) {
      const { ec, u } = criticalValue(0.025, nu, 6.6, 'nu2', 81);
      expect(Math.abs(expectedEuler(ec, nu, 6.6, 'nu2') - 0.025)).toBeLessThan(1e-12);
      expect(u).toBeLessThan(last);
      last = u;
    }
  });
  it('is the plain t quantile for a curve that has no shape', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 100, noNaN: true }),
        (nu) => Math.abs(criticalValue(0.025, nu, 0, 'nu2', 81).u / tUpperQuantile(0.025, nu) - 1) < 1e-9,
      ),
      { numRuns: 40 },
    );
  });
  it('roughness is zero for residuals that keep their direction, and ignores columns without scatter', () => {
    const flat = [Float64Array.of(1, 2, 3), Float64Array.of(-1, -2, -3)];
    expect(roughness(flat)).toBeLessThan(1e-12);
    expect(roughness([Float64Array.of(1, 0, -1), Float64Array.of(-1, 0, 1)])).toBe(0);
  });
});

describe('variance', () => {
  it('a history prior needs four sessions and twenty degrees of freedom', () => {
    expect(historyIsEnough([6, 6, 6])).toBe(false);
    expect(historyIsEnough([4, 4, 4, 4])).toBe(false);
    expect(historyIsEnough([6, 6, 6, 6])).toBe(true);
  });
  it('the pooled variance of a history scales with its sessions', () => {
    const sessions = [
      [0.5, 0.6],
      [0.7, 0.4],
      [0.9, 0.8],
      [0.3, 0.5],
    ];
    const [a, b] = [
      historyPrior(sessions, [6, 6, 6, 6]),
      historyPrior(
        sessions.map((s) => s.map((v) => 4 * v)),
        [6, 6, 6, 6],
      ),
    ];
    expect(b.s0sq / a.s0sq).toBeCloseTo(4, 12);
    expect(b.d0).toBeCloseTo(a.d0, 9);
  });
  it('effective df lie between the smallest part’s and the sum', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 5, noNaN: true }),
        fc.double({ min: 0.01, max: 5, noNaN: true }),
        (a, b) => {
          const { u2, nu } = welchSatterthwaite([a, b], [6, 9]);
          return Math.abs(u2 - a - b) < 1e-12 && nu >= 6 - 1e-9 && nu <= 15 + 1e-9;
        },
      ),
    );
  });
});

describe('grid and smoothing', () => {
  it('smoothing keeps straight lines and the sum of weights', () => {
    const line = rpm.map((r) => 3 + 0.01 * r);
    smoothed(line, 100).forEach((v, j) => expect(Math.abs(v - line[j])).toBeLessThan(1e-9));
    smoothedVariance(
      rpm.map(() => 0.7),
      rpm,
    ).forEach((v) => expect(Math.abs(v - 0.7)).toBeLessThan(1e-12));
  });
  it('smoothing never goes beyond what it was given', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 400, max: 520, noNaN: true }), { minLength: 3, maxLength: 60 }),
        (row) => {
          const [low, high] = [Math.min(...row), Math.max(...row)];
          return smoothed(row, 50).every((v) => v >= low - 1e-9 && v <= high + 1e-9);
        },
      ),
    );
  });
  it('bridges two missing points and no more, and keeps the first of equal ranges', () => {
    const full = rpm.map(() => 100);
    const holed = (...missing: number[]): (number | null)[] =>
      full.map((v, j) => (missing.includes(j) ? null : v));
    expect(commonGrid([full, holed(10, 11)], rpm).rpm).toHaveLength(41);
    expect(commonGrid([full, holed(20, 21, 22)], rpm)).toMatchObject({ from: 0, status: 'ok' });
    expect(commonGrid([full, holed(20, 21, 22)], rpm).rpm.at(-1)).toBe(4400);
    expect(commonGrid([full, rpm.map(() => 0)], rpm).status).toBe('no common rpm');
  });
});

describe('arms that scatter differently', () => {
  /** The curves of `seed` with the residuals of the part's run, and of all, as many times as large. */
  const scaled = (seed: number, part: number, all = 1): Float64Array[] => {
    const rows = curves(seed);
    const { rows: e } = runResiduals(rows, ABA);
    return rows.map((row, i) => row.map((v, j) => v + e[i][j] * (all * (ABA.arm[i] === 1 ? part : 1) - 1)));
  };
  const ratioOf = (rows: Float64Array[]) => {
    const e = runResiduals(rows, ABA);
    return armRatio(e.rows, armSplit(contrastWeights(ABA), ABA, e));
  };
  it('the ratio follows the scatter of the part’s arm, whatever both have', () =>
    fc.assert(
      fc.property(seeds, fc.double({ min: 0.3, max: 3, noNaN: true }), (seed, all) => {
        const [plain, noisier, louder] = [scaled(seed, 1), scaled(seed, 1.3), scaled(seed, 1, all)].map(
          ratioOf,
        );
        // The weights move with the scatter, so the ratio does not follow to the last digit, but it does not turn.
        return noisier.q >= plain.q - 1e-9 && Math.abs(louder.q / plain.q - 1) < 1e-6;
      }),
      { numRuns: 40 },
    ));
  it('is held between a tenth and ten', () => {
    expect(ratioOf(scaled(5, 40)).q).toBe(10);
    expect(ratioOf(scaled(5, 0.01)).q).toBe(0.1);
  });
  it('a noisier part widens the band and is said; scatter alike is not', () => {
    const [alike, noisier] = [1, 6].map((part) => gainBand(scaled(11, part), rpm, ABA, { alpha: 0.025 }));
    expect(alike.armsDiffer).toBe(false);
    expect(noisier.armsDiffer).toBe(true);
    expect(noisier.variance).toBeGreaterThan(alike.variance);
  });
  it('the band scales with the scatter above the floor', () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const [one, three] = [1, 3].map((all) => gainBand(scaled(seed, 1, all), rpm, ABA, { alpha: 0.025 }));
        return (
          one.uc.every((u, j) => Math.abs(three.uc[j] / u - 3) < 1e-6) && Math.abs(three.u - one.u) < 1e-6
        );
      }),
      { numRuns: 25 },
    ));
  it('arms of two to one need no guard, a heavier one does', () => {
    const guardOf = (arm: (0 | 1)[]) => {
      const layout: Layout = {
        ...ABA,
        arm,
        run: arm,
        order: arm.map((_, i) => i + 1),
        mount: arm.map(() => 1),
      };
      const e = runResiduals(curves(3).slice(0, arm.length), layout);
      return armSplit(contrastWeights(layout), layout, e).guard;
    };
    expect(guardOf([0, 0, 0, 0, 1, 1])).toBeCloseTo(1, 12);
    expect(guardOf([0, 0, 0, 0, 0, 0, 1, 1])).toBeCloseTo(1 + 0.75 - 2 / 3, 12);
  });
  it('shares of a degree of freedom add up to all there are, with and without an order line', () => {
    for (const covariate of [false, true]) {
      const { nu, freedom } = runResiduals(curves(9), { ...ABA, covariate });
      expect(freedom.reduce((a, b) => a + b, 0)).toBeCloseTo(nu, 12);
    }
  });
});

describe('scalar gain', () => {
  const noisy = (seed: number): number[] => {
    const rng = seededRng(seed);
    return ABA.arm.map((a) => 2 * a + rng.normal());
  };
  it('is the widest of three, each with its own limits', () =>
    fc.assert(
      fc.property(seeds, (seed) => {
        const g = scalarGain(noisy(seed), curves(seed), ABA, { alpha: 0.025 }, 'strict');
        return (
          g.candidates.length === 3 &&
          g.candidates.every((c) => c.half <= g.used.half && Math.abs(c.t * c.uc - c.half) < 1e-12) &&
          Math.abs(g.upper - g.d - (g.d - g.lower)) < 1e-12
        );
      }),
      { numRuns: 60 },
    ));
  it('without curves there is no ratio to tell, and two intervals are left', () =>
    expect(scalarGain(noisy(2), null, ABA, { alpha: 0.025 }, 'usual').candidates.map((c) => c.name)).toEqual([
      'pooled',
      'apart',
    ]));
  it('a single pull in every run of the part leaves its scatter unknown: pooled alone, and said', () => {
    const layout: Layout = {
      arm: [0, 0, 0, 1, 0, 0, 0],
      run: [0, 0, 0, 1, 2, 2, 2],
      mount: [1, 1, 1, 1, 1, 1, 1],
      order: [1, 2, 3, 4, 5, 6, 7],
      covariate: false,
    };
    const g = scalarGain(
      [1, 2, 1.5, 3, 1.2, 2.1, 1.4],
      curves(4).slice(0, 7),
      layout,
      { alpha: 0.025 },
      'strict',
    );
    expect(g.candidates.map((c) => c.name)).toEqual(['pooled']);
    expect(g.flags).toEqual(['ARM_SCATTER_UNKNOWN']);
    const band = gainBand(curves(4).slice(0, 7), rpm, layout, { alpha: 0.025 });
    expect(band.armVariance).toBeNull();
    expect(band.flags).toContain('ARM_SCATTER_UNKNOWN');
  });
  it('the mount and drift terms widen it', () => {
    const of = (extra: object) =>
      scalarGain(noisy(6), curves(6), { ...ABA, mount: ABA.run }, { alpha: 0.025, ...extra }, 'strict').used
        .uc;
    expect(of({ mount: { variance: 0.4, df: 9 } })).toBeGreaterThan(of({}));
    expect(of({ driftVariance: 0.5 })).toBeGreaterThan(of({}));
  });
});
