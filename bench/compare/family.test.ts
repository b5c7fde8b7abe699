import { describe, expect, it } from 'vitest';
import { familyStudy, type FamilyCell } from './family-study.ts';

const SESSIONS = 500;
/** Three standard errors over 2.5 and 5 % of so many sessions. */
const over = (pct: number): number => pct + 300 * Math.sqrt(((pct / 100) * (1 - pct / 100)) / SESSIONS);
const cell = (change: Partial<FamilyCell>): FamilyCell => ({
  together: 'many to one',
  parts: 3,
  pulls: 3,
  remount: false,
  noisier: 1,
  ...change,
});

describe('several parts that all do nothing', () => {
  it.each([
    cell({}),
    cell({ noisier: 2 }),
    cell({ remount: true }),
    cell({ together: 'all pairs' }),
    cell({ together: 'stages' }),
  ])(
    '$together of $parts, scatter $noisier times, re-mounted $remount: none is said to give something',
    (c) => {
      const { average, band, missed } = familyStudy(c, SESSIONS);
      expect(average).toBeLessThan(over(2.5));
      expect(band).toBeLessThan(over(2.5));
      expect(missed).toBeLessThan(over(5));
    },
  );
  it('limits that hold one by one would not hold together', () => {
    const together = familyStudy(cell({}), 200);
    const alone = familyStudy(cell({ parts: 1 }), 200);
    expect(alone.half).toBeLessThan(together.half);
  });
});
