/** All tests of one part with one setting on one fitment, put together from their standing analyses, as shown. */
import type { Person } from '../../contract/base/http.ts';
import type { TogetherShown } from '../../contract/compare/together.ts';
import { pctFromLp } from '../../core/base/units.ts';
import { inPercent } from '../../core/judge/together.ts';
import { causeWords } from '../../core/judge/other-test-words.ts';
import type { Queryable } from '../base/db.ts';
import { findTest } from '../plan/repository.ts';
import { everyTest, type Every } from './every-test.ts';

export async function togetherOf(
  db: Queryable,
  testId: string,
  armKey: string,
  person: Person,
): Promise<TogetherShown> {
  const { test } = await findTest(db, testId, person);
  const every = await everyTest(db, test, armKey, person);
  const { used, held, together: all, daySd } = every;
  return {
    sessions: held.map(({ testId: id, number, vehicle, dyno, until, contrast, left }) => {
      const { gain, lower, upper } = contrast.relative.bandAverage;
      const at = until?.toISOString() ?? null;
      const cause = left && causeWords(left);
      return { testId: id, number, vehicle, dyno, at, gain: { gain, lower, upper }, left: cause };
    }),
    vehicles: (all?.vehicles ?? []).map(({ vehicle, sessions, disagree, ...gain }) => ({
      vehicle,
      tests: sessions.map((i) => used[i].number),
      gain: inPercent(gain),
      disagree,
    })),
    ...acrossVehicles(every),
    day: daySd,
  };
}

function acrossVehicles({
  together: all,
}: Every): Pick<TogetherShown, 'grade' | 'mean' | 'another' | 'differ'> {
  const synthesis = all?.synthesis;
  if (!synthesis) return { grade: all?.grade ?? null, mean: null, another: null, differ: null };
  const { anotherLower, anotherUpper, heterogeneity } = synthesis;
  return {
    grade: all.grade,
    mean: inPercent({ ...synthesis, gain: synthesis.mu }),
    another: synthesis.k > 2 ? { lower: pctFromLp(anotherLower), upper: pctFromLp(anotherUpper) } : null,
    differ: { share: heterogeneity.I2, chance: heterogeneity.p },
  };
}
