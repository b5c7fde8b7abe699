import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { crankKw, crankProblem, crankWords, type CrankModel } from './crank.ts';

const coast: CrankModel = {
  kind: 'coast-down',
  losses: [
    { rpm: 2000, kw: 3 },
    { rpm: 4000, kw: 7 },
    { rpm: 6000, kw: 14 },
  ],
};

describe('a crank estimate', () => {
  it('by a share: 85 kW at the wheel and 15 % lost are 100 kW', () =>
    expect(crankKw({ kind: 'share', sharePct: 15 }, 85, 5000)).toBeCloseTo(100, 12));
  it('by a fixed loss and a share: (80 + 5) / 0.85', () =>
    expect(crankKw({ kind: 'fixed plus share', fixedKw: 5, sharePct: 15 }, 80, 5000)).toBeCloseTo(100, 12));
  it('by a coast-down, between what was measured and never beyond', () => {
    expect(crankKw(coast, 50, 3000)).toBeCloseTo(55, 12);
    expect(crankKw(coast, 50, 5500)).toBeCloseTo(50 + 12.25, 12);
    expect(crankKw(coast, 50, 2000)).toBeCloseTo(53, 12);
    expect(crankKw(coast, 50, 6000)).toBeCloseTo(64, 12);
    expect(crankKw(coast, 50, 1999)).toBeNull();
    expect(crankKw(coast, 50, 6001)).toBeNull();
  });
  it('never lies below the wheel figure', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 800, noNaN: true }),
        fc.double({ min: 2000, max: 6000, noNaN: true }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        (kw, rpm, sharePct) => {
          for (const model of [
            { kind: 'share', sharePct },
            { kind: 'fixed plus share', sharePct, fixedKw: 2 },
            coast,
          ] as const)
            expect(crankKw(model, kw, rpm)!).toBeGreaterThanOrEqual(kw);
        },
      ),
    );
  });
  it('is refused where nobody can mean it, and always says what it assumes', () => {
    expect(crankProblem({ kind: 'share', sharePct: 60 })).toContain('40 %');
    expect(crankProblem({ kind: 'fixed plus share', fixedKw: -1, sharePct: 10 })).toContain('fixed');
    expect(crankProblem({ kind: 'coast-down', losses: [{ rpm: 3000, kw: 2 }] })).toContain('two');
    expect(
      crankProblem({
        kind: 'coast-down',
        losses: [
          { rpm: 3000, kw: 2 },
          { rpm: 3000, kw: 3 },
        ],
      }),
    ).toContain('once');
    expect(crankProblem(coast)).toBeUndefined();
    for (const model of [coast, { kind: 'share', sharePct: 15 } as const])
      expect(crankWords(model)).toMatch(/^estimate/);
  });
});
