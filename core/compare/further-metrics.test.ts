import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import { runsOf } from '../plan/design.ts';
import type { KnownVariance, Repeatability } from '../register/repeatability.ts';
import type { ComparedPull } from './compared-pull.ts';
import { analyseContrast, type AnalysedContrast } from './contrast-analysis.ts';
import { passes } from './further-metrics.ts';
import { torqueDips } from './torque-dips.ts';

const grid = Array.from({ length: 81 }, (_, j) => 2000 + 50 * j);
/** Rises to 5 000 rpm as a turbocharged engine does, then falls. */
const rising = (r: number): number => 300 - 200 * ((5000 - r) / 3000) ** 2;
const WHITE = 0.0004;
const LEVEL = 0.003;

interface Made {
  readonly part: (r: number) => number;
  readonly stock?: (r: number) => number;
  readonly fuelPart?: number;
  readonly remount?: boolean;
  readonly repeatability?: Repeatability;
  readonly clock?: 'inertia' | 'held' | 'none';
}
/** An A-B-A session of three pulls a run; every pull has its own level and a little noise. */
function session(
  { part, stock = rising, fuelPart = 1, remount = false, repeatability = {}, clock = 'inertia' }: Made,
  seed = 1,
) {
  const rng = seededRng(seed);
  const pulls = ['stock', 'part', 'stock'].flatMap((arm, run) =>
    [0, 1, 2].map((k): ComparedPull => {
      const level = 1 + LEVEL * rng.normal();
      const torque = (r: number): number => level * (arm === 'part' ? part(r) : stock(r));
      let at = 0;
      const timeS = Float64Array.from(grid, (r, j) => {
        if (j > 0)
          at +=
            clock === 'held'
              ? 0.1
              : ((50 * Math.PI) / 30 / torque(r) + (50 * Math.PI) / 30 / torque(r - 50)) * 2;
        return at;
      });
      return {
        id: `${run}-${k}`,
        arm,
        order: run * 6 + 4 + k,
        mount: remount ? run : 0,
        counted: true,
        torqueNm: Float64Array.from(grid, (r) => torque(r) * (1 + WHITE * rng.normal())),
        logged: {
          factor: 1,
          ...(clock === 'none' ? {} : { timeS }),
          fuelM3S: Float64Array.from(
            grid,
            (r) => 1e-9 * r * (arm === 'part' ? fuelPart : 1) * (1 + WHITE * rng.normal()),
          ),
        },
      };
    }),
  );
  const outcome = analyseContrast({
    arm: 'part',
    against: 'stock',
    runs: runsOf(pulls),
    grid,
    stepRpm: 50,
    smoothingRpm: 200,
    alpha: 0.025,
    drift: 'none',
    driftBound: 0.3,
    guard: 'strict',
    repeatability,
  });
  if (!outcome.ok) throw new Error(outcome.refused.code);
  return outcome.value;
}
const further = (made: Made, seed?: number) => session(made, seed).further();

describe('where a torque is reached', () => {
  it('is told with the shift between the arms: a curve 150 rpm to the left', () => {
    const { reaching } = further({ part: (r) => rising(r + 150) });
    expect(reaching.map((r) => r.share)).toEqual([0.8, 0.9, 0.95]);
    for (const { shift, armRpm, againstRpm } of reaching) {
      expect(shift.lower).toBeLessThan(-150);
      expect(shift.upper).toBeGreaterThan(-150);
      expect(shift.upper).toBeLessThan(0);
      expect(againstRpm + shift.gain).toBeCloseTo(armRpm, 6);
    }
    // By hand: 300 − 200·((5 000 − r)/3 000)² = 270 at r = 5 000 − 3 000·√0.15.
    expect(reaching[1].againstRpm).toBeCloseTo(5000 - 3000 * Math.sqrt(0.15), -1);
  });
  it('holds the truth as often as it says, and carries what a re-mounting leaves open', () => {
    let held = 0;
    const tests = 200;
    for (let seed = 1; seed <= tests; seed++) {
      const { shift } = further({ part: rising }, seed).reaching[0];
      if (shift.lower <= 0 && shift.upper >= 0) held += 1;
    }
    // Binomial: below 182 of 200 has a chance of 0.5 % at 95 %.
    expect(held).toBeGreaterThanOrEqual(182);
    const mount: KnownVariance = { variance: 0.4, df: 10 };
    const width = (a: AnalysedContrast): number => {
      const { shift } = a.further().reaching[0];
      return shift.upper - shift.lower;
    };
    const alone = width(session({ part: rising }));
    const remounted = width(session({ part: rising, remount: true, repeatability: { mount } }));
    expect(remounted).toBeGreaterThan(1.5 * alone);
  });
  it('is not told where a pull begins above it, never reaches it, or the curve is flat there', () => {
    expect(passes([5, 6], [1000, 1050], 4)).toBe('before');
    expect(passes([5, 6], [1000, 1050], 7)).toBe('never');
    expect(passes([5, 6], [1000, 1050], 5.5)).toBeCloseTo(100 * Math.log(1025), 9);
    expect(further({ part: () => 300, stock: () => 300 }).reaching).toEqual([]);
  });
});

describe('time of the sweep', () => {
  it('goes as the integral of 1/torque: 2 % more torque, 1.96 % less time, by curves and by clock', () => {
    const { byCurves, logged, fromRpm, toRpm } = further({ part: (r) => 1.02 * rising(r) }).sweepTime;
    expect([fromRpm, toRpm]).toEqual([2000, 6000]);
    for (const change of [byCurves, logged!.change]) {
      expect(change.lower).toBeLessThan(100 * (1 / 1.02 - 1));
      expect(change.upper).toBeGreaterThan(100 * (1 / 1.02 - 1));
      expect(change.upper).toBeLessThan(0);
    }
    expect(byCurves.gain).toBeCloseTo(logged!.change.gain, 1);
    expect(logged!.arm).toBeLessThan(logged!.against);
  });
  it('of a clock that a brake holds to one rate says nothing moved, and is left out without a clock', () => {
    const held = further({ part: (r) => 1.05 * rising(r), clock: 'held' }).sweepTime;
    expect(held.logged!.change.gain).toBeCloseTo(0, 6);
    expect(held.byCurves.upper).toBeLessThan(-3);
    expect(further({ part: rising, clock: 'none' }).sweepTime.logged).toBeNull();
  });
});

describe('torque dips', () => {
  const dipped =
    (depth: number) =>
    (r: number): number =>
      rising(r) * (1 - depth * Math.exp(-(((r - 4500) / 200) ** 2)));
  it('are found by place and depth in the arm that has one, and not in the other', () => {
    const { dips } = further({ stock: dipped(0.1), part: rising });
    expect(dips.arm).toEqual([]);
    expect(dips.against).toHaveLength(1);
    expect(dips.against[0].rpm).toBeGreaterThan(4350);
    expect(dips.against[0].rpm).toBeLessThan(4650);
    expect(dips.against[0].depth).toBeGreaterThan(4);
    expect(dips.against[0].depth).toBeLessThan(10);
  });
  it('shallower than the noise of the pulls are none', () => {
    const rows = [1, -1, 0].map((sign) =>
      Float64Array.from([500, 501, 502, 502 - 0.8 + 2 * sign, 502, 501, 500]),
    );
    const rpm = [1, 2, 3, 4, 5, 6, 7];
    expect(torqueDips(rows, rpm, 0.025)).toEqual([]);
    const quiet = rows.map(() => Float64Array.from([500, 501, 502, 501.2, 502, 501, 500]));
    expect(torqueDips(quiet, rpm, 0.025)).toHaveLength(1);
    expect(torqueDips(quiet.slice(0, 1), rpm, 0.025)).toEqual([]);
  });
});

describe('how even the gain is, and what it takes', () => {
  it('is told by the scatter of the mean gain over rpm with its ends', () => {
    const { spread } = further({ part: (r) => rising(r) * (r > 4000 ? 1.04 : 1) });
    expect(spread.sd).toBeCloseTo(2, 0);
    expect(spread.most.rpm).toBeGreaterThan(4000);
    expect(spread.least.rpm).toBeLessThan(4100);
  });
  it('fuel per work falls by what the same fuel gives more, and is left out where no fuel was logged', () => {
    const change = (fuelPart: number) =>
      further({ part: (r) => 1.02 * rising(r), fuelPart }).fuelPerWork!.change;
    expect(change(1).gain).toBeCloseTo(100 * (1 / 1.02 - 1), 0);
    expect(change(1).upper).toBeLessThan(0);
    const same = change(1.02);
    expect(same.lower).toBeLessThan(0);
    expect(same.upper).toBeGreaterThan(0);
  });
});

describe('what more would buy', () => {
  it('pulls narrow what they scatter; a mounting what mountings do; a day brings its own', () => {
    const one = session({ part: rising }).buys();
    expect(one.pull!).toBeLessThan(one.now);
    expect(one.mounting).toBeLessThan(one.pull!);
    // Twice the pulls: the variance halves, and the freedom doubles.
    expect(one.mounting / one.now).toBeLessThan(Math.SQRT1_2);
    expect(one.day).toBeGreaterThan(one.mounting);
    expect(one.dayRegistered).toBe(false);
    const { now, relative } = {
      now: one.now,
      relative: session({ part: rising }).result.relative.bandAverage,
    };
    expect(now).toBeCloseTo((relative.upper - relative.lower) / 2, 2);
  });
  it('with mountings in it pulls buy little, and a registered day is used', () => {
    const repeatability = { mount: { variance: 0.4, df: 10 }, day: { variance: 0.01, df: 8 } };
    const { now, pull, mounting, day, dayRegistered } = session({
      part: rising,
      remount: true,
      repeatability,
    }).buys();
    expect(pull! / now).toBeGreaterThan(0.95);
    expect(mounting / now).toBeLessThan(0.8);
    expect(dayRegistered).toBe(true);
    expect(day / mounting).toBeLessThan(1.1);
  });
});
