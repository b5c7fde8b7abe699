import { describe, expect, it } from 'vitest';
import { seededRng } from '../base/rng.ts';
import { deletionTests } from './flyers.ts';

const RUNS = [0, 0, 0, 1, 1, 1, 2, 2, 2];
describe('pulls unlike their siblings', () => {
  it('are pointed out in a clean session as rarely as promised, with the history of the dyno or without', () => {
    for (const history of [undefined, { variance: 0.49, df: 10 }]) {
      const rng = seededRng(77);
      const sessions = 6000;
      let flagged = 0;
      for (let k = 0; k < sessions; k++)
        if (
          deletionTests(
            RUNS.map(() => 0.7 * rng.normal()),
            RUNS,
            history,
          ).some((t) => t.flag)
        )
          flagged += 1;
      // 5 % a session, Bonferroni over nine pulls; standard error 0.3 %.
      expect(flagged / sessions).toBeLessThan(0.06);
      // A history that is exactly right, and not an estimate, makes it rarer.
      expect(flagged / sessions).toBeGreaterThan(history ? 0.005 : 0.03);
    }
  });
  it('are pointed out where one pull is 6 % low', () => {
    const rng = seededRng(5);
    let found = 0;
    for (let k = 0; k < 200; k++) {
      const values = RUNS.map((_, i) => 0.7 * rng.normal() - (i === 4 ? 6 : 0));
      if (deletionTests(values, RUNS, { variance: 0.49, df: 10 })[4].flag) found += 1;
    }
    expect(found).toBeGreaterThan(190);
  });
  it('cannot be told where a pull is alone in its run, or nothing is left to judge by', () => {
    expect(deletionTests([1, 2, 3], [0, 0, 1])[2]).toMatchObject({ t: NaN, flag: false });
    expect(deletionTests([1, 9], [0, 0])[1].flag).toBe(false);
  });
});
