import { describe, expect, it } from 'vitest';
import { seededRng } from '../../base/rng.ts';
import { designOf, runsOf, type PlacedPull } from '../../plan/design.ts';
import { told } from '../finding.ts';
import { settledGate } from './settled.ts';

/** An A-B-A of so many pulls a run; what each pull of an arm has more than the one before, lp. */
function session(
  slopes: { stock: number; part: number },
  { n = 4, sd = 0.2, order = ['stock', 'part', 'stock'] } = {},
  seed = 5,
) {
  const rng = seededRng(seed);
  const placed = order.flatMap((arm, run) => Array.from({ length: n }, (_, k) => ({ arm, run, k })));
  const pulls: (PlacedPull & { id: string })[] = placed.map(({ arm }, i) => ({
    id: `p${i}`,
    arm,
    mount: 1,
    counted: true,
    order: i + 1,
  }));
  return {
    averages: placed.map(({ arm, k }) => 450 + slopes[arm as 'stock' | 'part'] * k + sd * rng.normal()),
    runs: placed.map(({ run }) => run),
    pulls,
    design: designOf(runsOf(pulls), 'stock'),
    result: { arm: 'part' },
  } as never as Parameters<typeof settledGate>[0];
}
const codes = (...given: Parameters<typeof session>): string[] =>
  settledGate(session(...given), { bandAverage: { variance: 0.04, df: 20 } }).map((f) => f.code);

describe('whether the engine had settled', () => {
  it('passes where nothing moves, and says what was looked at', () => {
    expect(codes({ stock: 0, part: 0 })).toEqual(['SETTLED']);
    expect(told(settledGate(session({ stock: 0, part: 0 }), {})[0]).message).toContain('in 3 runs');
  });
  it('fails where one arm goes on rising or falling and the other does not', () => {
    expect(codes({ stock: 0, part: 0.8 })).toEqual(['ARM_STILL_MOVING']);
    expect(codes({ stock: -0.8, part: 0 })).toEqual(['ARM_STILL_MOVING']);
  });
  it('cautions where all move alike, with whether the order takes it out', () => {
    expect(codes({ stock: 0.6, part: 0.6 })).toEqual(['ALL_RUNS_MOVE']);
    const said = (order: string[]) =>
      told(settledGate(session({ stock: 0.6, part: 0.6 }, { order }), {})[0]).message;
    expect(said(['stock', 'part', 'stock'])).toContain('takes that out');
    expect(said(['stock', 'part'])).toContain('does not take that out');
  });
  it('says nothing of what would move no claim, nor of runs too short to have a slope', () => {
    expect(codes({ stock: 0, part: 0.1 }, { sd: 0.001 })).toEqual(['SETTLED']);
    expect(codes({ stock: 0, part: 2 }, { n: 2 })).toEqual([]);
  });
  it('calls a session that had settled unsettled in no more than about one of a hundred', () => {
    const wrong = Array.from({ length: 1500 }, (_, s) => codes({ stock: 0, part: 0 }, {}, 100 + s)).filter(
      (c) => c[0] !== 'SETTLED',
    );
    // One in two hundred for the arms, for the runs and for all together; four Monte-Carlo errors.
    expect(wrong.length / 1500).toBeLessThan(0.015 + 4 * Math.sqrt((0.015 * 0.985) / 1500));
  });
});
