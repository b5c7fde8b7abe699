import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import { registerSlope, type SlopeRegistration, type SlopeSession } from './temperature-slope.ts';

interface World {
  /** lp per K, and lp and K gained by each pull of a run. */
  readonly slope: number;
  readonly adapts?: number;
  readonly warms?: number;
  readonly scatter?: number;
}
/** Sessions of three runs of three pulls. */
function made(
  count: number,
  seed: number,
  { slope, adapts = 0, warms = 0, scatter = 0.5 }: World,
): SlopeSession[] {
  const rng = seededRng(seed + 1);
  return Array.from({ length: count }, () => {
    const run = [0, 0, 0, 1, 1, 1, 2, 2, 2];
    const T = run.map((_, i) => 30 + warms * (i % 3) + 2 * rng.normal());
    const y = T.map((t, i) => 500 + slope * t + adapts * (i % 3) + scatter * rng.normal());
    return { y, T, run };
  });
}
const registered = (sessions: SlopeSession[]): SlopeRegistration =>
  registerSlope(sessions) as SlopeRegistration;

describe('the slope of results over a start temperature', () => {
  it('is found as it is where it is clear, and then registered', () => {
    const found = Array.from({ length: 60 }, (_, seed) => registered(made(12, seed, { slope: -0.3 })));
    const mean = found.reduce((s, f) => s + f.b, 0) / found.length;
    expect(mean).toBeCloseTo(-0.3, 1);
    expect(found.filter((f) => f.registered).length).toBeGreaterThan(50);
    // What it is worth covers the truth.
    expect(found.filter((f) => Math.abs(f.b + 0.3) < 2 * Math.sqrt(f.V)).length).toBeGreaterThan(54);
  });
  it('is not told of an engine that adapts while it warms up', () => {
    const found = Array.from({ length: 100 }, (_, seed) =>
      registered(made(10, seed, { slope: 0, adapts: 0.6, warms: 2 })),
    );
    expect(found.filter((f) => f.registered).length).toBeLessThan(3);
  });
  it('is not registered from few sessions, little, or cars that differ in it', () => {
    expect(registerSlope(made(1, 1, { slope: -0.3 }))).toEqual({
      registered: false,
      reasons: ['SESSIONS'],
      sessions: 1,
    });
    expect(registered(made(4, 1, { slope: -0.4 })).reasons).toEqual(
      expect.arrayContaining(['SESSIONS', 'DF']),
    );
    expect(registered(made(12, 1, { slope: 0 })).reasons).toContain('NOT_CLEAR');
    const mixed = [...made(6, 2, { slope: -0.9, scatter: 0.2 }), ...made(6, 3, { slope: 0.3, scatter: 0.2 })];
    expect(registered(mixed).reasons).toContain('SLOPE_VARIES');
    // A session in which the temperature stood still says nothing, and counts for nothing.
    const still = made(3, 4, { slope: 0 }).map((s) => ({ ...s, T: s.T.map(() => 25) }));
    expect(registered([...made(8, 5, { slope: -0.3 }), ...still]).sessions).toBe(8);
  });
  it('does not depend on the level of a session, nor on the order in which sessions come', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.array(fc.double({ min: -20, max: 20, noNaN: true }), { minLength: 8, maxLength: 8 }),
        (seed, levels) => {
          const sessions = made(8, seed, { slope: -0.2 });
          const moved = sessions.map((s, i) => ({
            ...s,
            y: s.y.map((v) => v + levels[i]),
            T: s.T.map((v) => v - levels[i]),
          }));
          const [a, b] = [registered(sessions), registered(moved.reverse())];
          expect(b.b).toBeCloseTo(a.b, 9);
          expect(b.V).toBeCloseTo(a.V, 9);
        },
      ),
      { numRuns: 40 },
    );
  });
});
