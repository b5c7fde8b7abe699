import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { armLog, logContrast, type LoggedPull } from './arm-logs.ts';

const grid = Array.from({ length: 41 }, (_, j) => 2000 + 50 * j);
const pull = (id: string, arm: string, of: (rpm: number) => number | null): LoggedPull => ({
  id,
  arm,
  curves: { lambda: grid.map(of) },
});

describe('the log of an arm', () => {
  it('is the mean of its pulls where all of them have a value', () => {
    const log = armLog(
      [
        pull('p1', 'a', (r) => (r < 2200 ? null : r / 1000)),
        pull('p2', 'a', (r) => r / 1000 + 1),
        pull('p3', 'b', () => 9),
      ],
      'a',
      'lambda',
      grid,
    )!;
    expect(log.curve.slice(0, 4).every(Number.isNaN)).toBe(true);
    expect(log.least).toBeCloseTo(2.2 + 0.5, 12);
    expect([log.leastRpm, log.mostRpm]).toEqual([2200, 4000]);
    expect(log.pulls.map((p) => p.id)).toEqual(['p1', 'p2']);
  });
  it('is none where no pull has the channel', () => {
    expect(armLog([pull('p1', 'a', () => null)], 'a', 'lambda', grid)).toBeUndefined();
    expect(armLog([pull('p1', 'a', () => 1)], 'b', 'lambda', grid)).toBeUndefined();
    expect(armLog([pull('p1', 'a', () => 1)], 'a', 'throttle', grid)).toBeUndefined();
  });
});

describe('two arms at the same rpm', () => {
  const logs = (a: LoggedPull[], b: LoggedPull[]) => [
    armLog(a, 'a', 'lambda', grid)!,
    armLog(b, 'b', 'lambda', grid)!,
  ];
  it('gives difference, ratio and the error of the pooled scatter', () => {
    const [a, b] = logs(
      [1.1, 1.2, 1.3].map((v, i) => pull(`a${i}`, 'a', () => v)),
      [1.0, 1.1, 1.2].map((v, i) => pull(`b${i}`, 'b', () => v)),
    );
    const c = logContrast(a, b, grid, 50)!;
    expect(c.difference).toBeCloseTo(0.1, 12);
    expect(c.ratio).toBeCloseTo(1.2 / 1.1, 12);
    // Both arms have SD 0.1: 0.1 · √(1/3 + 1/3).
    expect(c.error).toBeCloseTo(0.1 * Math.sqrt(2 / 3), 12);
  });
  it('finds where they differ most, over a stretch and not at one sample', () => {
    const [a, b] = logs(
      [pull('a', 'a', (r) => (r === 2500 ? 2 : 1 + (r > 3400 ? 0.3 : 0)))],
      [pull('b', 'b', () => 1)],
    );
    const { largest, error } = logContrast(a, b, grid, 50)!;
    expect(largest.rpm).toBeGreaterThan(3600);
    expect(largest.difference).toBeCloseTo(0.3, 12);
    expect(error).toBeNull();
  });
  it('turns round when the arms do', () => {
    const curve = fc.array(fc.double({ min: 0.5, max: 2, noNaN: true }), { minLength: 41, maxLength: 41 });
    fc.assert(
      fc.property(curve, curve, (x, y) => {
        const at = (values: number[]) => (r: number) => values[(r - 2000) / 50];
        const [a, b] = logs([pull('a', 'a', at(x))], [pull('b', 'b', at(y))]);
        const [forth, back] = [logContrast(a, b, grid, 50)!, logContrast(b, a, grid, 50)!];
        expect(forth.difference).toBeCloseTo(-back.difference, 10);
        expect(forth.ratio! * back.ratio!).toBeCloseTo(1, 10);
        expect(Math.abs(forth.largest.difference)).toBeCloseTo(Math.abs(back.largest.difference), 10);
      }),
    );
  });
});
