/** A ladder of stages: each over the one before, by simulation with known truth. */
import { describe, expect, it } from 'vitest';
import type { TestResult } from '../../core/judge/analyse-test.ts';
import { simulatedResult } from './simulated-result.ts';

/** Intake 2 %, then an exhaust that gives 3 % over it, then a calibration that gives nothing. */
const STAGES = [2, 5.06, 5.06];
const IDS = ['stage-1', 'stage-2', 'stage-3'];
const ladder = (seed: number, builds = true): TestResult =>
  simulatedResult(
    {
      seed,
      noise: { level: 0.3, slow: 0.2, quick: 0.2 },
      arms: [
        { id: 'stock', role: 'baseline' },
        ...IDS.map((id, i) => ({
          id,
          role: 'part' as const,
          effect: [{ kind: 'constant' as const, percent: STAGES[i] }],
        })),
      ],
      protocol: { order: ['stock', ...IDS, 'stock'], pulls: 3 },
    },
    (test) => ({
      model: { drift: 'none', driftBound: 0.05 },
      arms: test.arms.map((arm) => {
        const before = IDS[IDS.indexOf(arm.id) - 1];
        return builds && before ? { ...arm, from: before } : arm;
      }),
    }),
  ).result;
const results = Array.from({ length: 12 }, (_, k) => ladder(300 + k));
const gainOf = (result: TestResult, arm: string) => {
  const { average } = result.between!.pairs.find((s) => s.arm === arm)!;
  return average!;
};

describe('a ladder of stages', () => {
  it('tells what each gave over the one before, beside what all give over stock', () => {
    for (const result of results) {
      expect(result.contrasts.map((c) => c.against)).toEqual(['stock', 'stock', 'stock']);
      expect(result.between!.kind).toBe('stages');
      expect(result.between!.pairs.map((s) => [s.arm, s.against])).toEqual([
        ['stage-2', 'stage-1'],
        ['stage-3', 'stage-2'],
      ]);
    }
    const holds = (arm: string, truth: number): number =>
      results.filter((r) => gainOf(r, arm).lower <= truth && truth <= gainOf(r, arm).upper).length;
    expect(holds('stage-2', 3)).toBeGreaterThan(10);
    expect(holds('stage-3', 0)).toBeGreaterThan(10);
    expect(results.filter((r) => gainOf(r, 'stage-2').lower > 0).length).toBeGreaterThan(8);
    expect(results.filter((r) => gainOf(r, 'stage-3').lower > 0).length).toBeLessThan(2);
  });
  it('changes nothing of what may be claimed; parts that do not build on each other are held in every pair', () => {
    const [ladderOf, plain] = [ladder(300), ladder(300, false)];
    expect(ladderOf.contrasts).toEqual(plain.contrasts);
    expect(ladderOf.findings).toEqual(plain.findings);
    expect(plain.between!.kind).toBe('all pairs');
    expect(plain.between!.pairs.map((p) => `${p.arm} ${p.against}`)).toEqual([
      'stage-2 stage-1',
      'stage-3 stage-1',
      'stage-3 stage-2',
    ]);
    // More pairs pay for their number: the same two arms are told with wider limits.
    const width = (r: TestResult): number => gainOf(r, 'stage-2').upper - gainOf(r, 'stage-2').lower;
    expect(width(plain)).toBeGreaterThan(width(ladderOf));
  });
});

describe('a sweep through an ordered setting', () => {
  const SIZES = [92, 86, 80];
  const sweep = (seed: number, percents: readonly number[], unit = 'mm'): TestResult =>
    simulatedResult(
      {
        seed,
        noise: { level: 0.3, slow: 0.2, quick: 0.2 },
        arms: [
          { id: 'stock', role: 'baseline' },
          ...SIZES.map((size, i) => ({
            id: `p${size}`,
            role: 'part' as const,
            effect: [{ kind: 'constant' as const, percent: percents[i] }],
          })),
        ],
        protocol: { order: ['stock', ...SIZES.map((size) => `p${size}`), 'stock'], pulls: 3 },
      },
      (test) => ({
        model: { drift: 'none', driftBound: 0.05 },
        arms: test.arms.map((arm) =>
          arm.role === 'part'
            ? { ...arm, setting: { name: 'pulley', value: Number(arm.id.slice(1)), unit } }
            : arm,
        ),
      }),
    ).result;

  it('tells the trend beside the pairs: every smaller pulley gives more', () => {
    const { trend, between } = sweep(340, [2, 4, 6]);
    expect(trend).toMatchObject({ name: 'pulley', unit: 'mm', from: 80, to: 92, settings: 3 });
    // From 6 % to 2 % over stock: (1.02/1.06 − 1) along the line.
    expect(trend!.change.upper).toBeLessThan(0);
    expect(trend!.change.lower).toBeLessThan(100 * (1.02 / 1.06 - 1));
    expect(trend!.change.upper).toBeGreaterThan(100 * (1.02 / 1.06 - 1));
    expect(between!.kind).toBe('all pairs');
  });
  it('proves none of settings that give alike, in all but a few tests', () => {
    const shown = Array.from({ length: 12 }, (_, k) => sweep(350 + k, [3, 3, 3]).trend!.change);
    expect(shown.filter(({ lower, upper }) => lower > 0 || upper < 0).length).toBeLessThanOrEqual(2);
  });
});
