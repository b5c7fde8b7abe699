/** All tests of one part with one setting on one fitment, put together from their standing analyses. */
import { and, desc, eq, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { TogetherShown } from '../../contract/compare/together.ts';
import { dayAt } from '../../core/base/site-time.ts';
import { lp, pctFromLp } from '../../core/base/units.ts';
import type { TestDefinition } from '../../core/capture/test-definition.ts';
import { isRefused, sayingLess, type Contrast, type ContrastResult } from '../../core/compare/result.ts';
import { together, type TogetherSession } from '../../core/judge/together.ts';
import { runsOf } from '../../core/plan/design.ts';
import { DAY_RULE, registerDayVariance, type DayRegistration } from '../../core/register/day-variance.ts';
import type { Queryable } from '../base/db.ts';
import { findTest, visibleTo } from '../plan/repository.ts';
import { testArms, tests } from '../plan/tables.ts';
import { dynos, vehicles } from '../register/tables.ts';
import { analyses } from './tables.ts';

/** Tests looked at, newest first. */
const MOST = 40;
type Analysis = Pick<typeof analyses.$inferSelect, 'result' | 'curves' | 'inputs' | 'failing' | 'until'>;
interface Seen extends Analysis {
  readonly testId: string;
  readonly number: number;
  readonly arm: string;
  readonly vehicle: string;
  readonly dyno: string;
  readonly timeZone: string;
}

export async function togetherOf(
  db: Queryable,
  testId: string,
  armKey: string,
  person: Person,
): Promise<TogetherShown> {
  const { test } = await findTest(db, testId, person);
  const arms = await db.select().from(testArms).where(eq(testArms.testId, testId));
  const parts = arms.filter((arm) => arm.role === 'part').sort((a, b) => a.position - b.position);
  const own = parts.find((arm) => arm.key === armKey) ?? parts[0];
  const registered = await dayVariance(db, own?.differences ?? []);
  const day = registered?.registered ? registered : DAY_RULE.policy;
  const none = { sd: Math.sqrt(day.variance), registered: day !== DAY_RULE.policy };
  if (!own) return { ...EMPTY, day: none };
  const seen = await alike(db, own, test, person);
  const band = { fromRpm: test.fromRpm, toRpm: test.toRpm, stepRpm: test.stepRpm };
  const held = seen.flatMap((one) => {
    const contrast = one.result.contrasts.find((c) => c.arm === one.arm);
    if (!contrast || isRefused(contrast)) return [];
    return [{ ...one, contrast: saidOf(contrast), left: whyLeft(one, band) }];
  });
  const used = held.filter((one) => one.left === null);
  const all = together(used.map(sessionOf), (1 - test.confidence) / 2, day);
  return {
    sessions: held.map(({ testId: id, number, vehicle, dyno, until, contrast, left }) => {
      const { gain, lower, upper } = contrast.relative.bandAverage;
      const at = until?.toISOString() ?? null;
      return { testId: id, number, vehicle, dyno, at, gain: { gain, lower, upper }, left };
    }),
    vehicles: (all?.vehicles ?? []).map(({ vehicle, sessions, disagree, ...gain }) => ({
      vehicle,
      tests: sessions.map((i) => used[i].number),
      gain: inPercent(gain),
      disagree,
    })),
    grade: all?.grade ?? null,
    mean: all?.synthesis ? inPercent({ ...all.synthesis, gain: all.synthesis.mu }) : null,
    another:
      all?.synthesis && all.synthesis.k > 2
        ? { lower: pctFromLp(all.synthesis.anotherLower), upper: pctFromLp(all.synthesis.anotherUpper) }
        : null,
    differ: all?.synthesis
      ? { share: all.synthesis.heterogeneity.I2, chance: all.synthesis.heterogeneity.p }
      : null,
    day: none,
  };
}
const EMPTY = { sessions: [], vehicles: [], grade: null, mean: null, another: null, differ: null };
const inPercent = ({ gain, lower, upper }: { gain: number; lower: number; upper: number }) => ({
  gain: pctFromLp(gain),
  lower: pctFromLp(lower),
  upper: pctFromLp(upper),
});

/** The same change to the same kind of car under the same standard, whoever measured it. */
const alike = (
  db: Queryable,
  own: typeof testArms.$inferSelect,
  { fitmentId, standard }: typeof tests.$inferSelect,
  person: Person,
): Promise<Seen[]> =>
  db
    .select({
      testId: tests.id,
      number: tests.number,
      arm: testArms.key,
      vehicle: vehicles.tag,
      dyno: dynos.name,
      timeZone: dynos.timeZone,
      result: analyses.result,
      curves: analyses.curves,
      inputs: analyses.inputs,
      failing: analyses.failing,
      until: analyses.until,
    })
    .from(tests)
    .innerJoin(testArms, and(eq(testArms.testId, tests.id), eq(testArms.role, 'part')))
    .innerJoin(analyses, eq(analyses.id, tests.currentAnalysisId))
    .innerJoin(vehicles, eq(vehicles.id, tests.vehicleId))
    .innerJoin(dynos, eq(dynos.id, tests.dynoId))
    .where(
      and(
        eq(tests.fitmentId, fitmentId),
        eq(tests.standard, standard),
        sql`${testArms.differences} = ${JSON.stringify(own.differences)}::jsonb`,
        visibleTo(person),
      ),
    )
    .orderBy(desc(tests.number))
    .limit(MOST);

/** With pulls left out, the result that says less: leaving a pull out raises nothing. */
export const saidOf = (contrast: Contrast): ContrastResult =>
  sayingLess(contrast, (c) => c.relative.bandAverage.lower);

/** A cause that does not depend on how the test came out. */
function whyLeft(
  { failing, inputs }: Seen,
  band: { fromRpm: number; toRpm: number; stepRpm: number },
): string | null {
  const definition = inputs.definition as TestDefinition;
  if ((failing ?? 0) > 0) return 'a gate fails';
  if (definition.band.fromRpm !== band.fromRpm || definition.band.toRpm !== band.toRpm)
    return `planned from ${definition.band.fromRpm} to ${definition.band.toRpm} rpm`;
  return null;
}

const totalOf = ({ budget }: ContrastResult): number => budget.reduce((sum, part) => sum + part.variance, 0);
const partOf = ({ budget }: ContrastResult, source: string): number =>
  budget.find((part) => part.source === source)?.variance ?? 0;

function sessionOf(one: Seen & { contrast: ContrastResult }): TogetherSession {
  const { contrast, inputs, until, vehicle, dyno, timeZone } = one;
  const definition = inputs.definition as TestDefinition;
  const { gain, lower, upper, df } = contrast.relative.bandAverage;
  const base = {
    vehicle,
    dyno,
    day: until ? dayAt(until.getTime(), timeZone) : '',
    gain: lp(1 + gain / 100),
    lower: lp(1 + lower / 100),
    upper: lp(1 + upper / 100),
    variance: totalOf(contrast),
    df,
    drift: partOf(contrast, 'drift'),
    mount: definition.repeatability?.mount,
    guard: definition.guard ?? ('strict' as const),
  };
  // Moved by a start temperature, compared by mountings, fitted with a drift or with pulls left out: as it stands.
  const isPlain =
    !contrast.startTemperature &&
    contrast.rule === 'pooled, guarded' &&
    definition.model?.drift !== 'linear' &&
    definition.pulls.every((pull) => pull.excluded === undefined);
  const pulls = isPlain ? pullsOf(one, definition) : undefined;
  return { ...base, ...(pulls ? { pulls } : {}) };
}

/** Counted pulls of the two arms with their curves, from where all of them have one. */
function pullsOf(
  { contrast, result, curves }: Seen & { contrast: ContrastResult },
  { pulls }: TestDefinition,
): TogetherSession['pulls'] {
  const runs = runsOf(pulls).filter((run) => run.arm === contrast.arm || run.arm === contrast.against);
  const each = runs.flatMap((run, r) => run.counted.map((pull) => ({ pull, r })));
  const found = each.map(({ pull, r }) => ({
    pull,
    r,
    average: result.pulls.find((p) => p.id === pull.id)?.averageLp,
    curve: curves.pulls.find((p) => p.id === pull.id)?.powerKw,
  }));
  const at = contrast.power.curve.map(({ rpm }) => curves.rpm.indexOf(rpm));
  const rows = found.map(({ curve }) => at.map((j) => (curve?.[j] ? lp(curve[j]) : NaN)));
  if (rows.some((row) => row.some((v) => !Number.isFinite(v)))) return undefined;
  if (found.some(({ average }) => average === undefined)) return undefined;
  return {
    arm: found.map(({ pull }) => (pull.arm === contrast.arm ? 1 : 0)),
    run: found.map(({ r }) => r),
    mount: found.map(({ pull }) => pull.mount),
    order: found.map(({ pull }) => pull.order),
    averages: found.map(({ average }) => average!),
    curves: rows,
  };
}

/** What gains differ by from day to day, by other parts measured more than once on one car; never by this one. */
export async function dayVariance(
  db: Queryable,
  but: readonly unknown[] = [],
): Promise<DayRegistration | undefined> {
  return registerDayVariance((await repeatedTests(db, but)).map(({ d, u2 }) => ({ d, u2 })));
}

interface Repeated {
  readonly tests: number[];
  readonly d: number[];
  readonly u2: number[];
}
export async function repeatedTests(db: Queryable, but: readonly unknown[] = []): Promise<Repeated[]> {
  const { rows } = await db.execute<{ numbers: number[]; gains: number[]; variances: number[] }>(sql`
    select array_agg(t.number order by t.number) as numbers, array_agg(c.gain order by t.number) as gains,
      array_agg(c.variance order by t.number) as variances
    from tests t join analyses a on a.id = t.current_analysis_id and a.failing = 0
      join test_arms m on m.test_id = t.id and m.role = 'part'
      join lateral (
        select (value -> 'relative' -> 'bandAverage' ->> 'gain')::float8 as gain,
          (select sum((b ->> 'variance')::float8) from jsonb_array_elements(value -> 'budget') b
            where b ->> 'source' in ('repeatability', 'mount')) as variance
        from jsonb_array_elements(a.result -> 'contrasts')
        where value ->> 'arm' = m.key and value ? 'relative') c on true
    where m.differences <> ${JSON.stringify(but)}::jsonb and m.differences <> '[]'::jsonb
    group by t.vehicle_id, t.standard, t.from_rpm, t.to_rpm, m.differences having count(*) > 1`);
  return rows.map(({ numbers, gains, variances }) => ({
    tests: numbers,
    d: gains.map((gain) => lp(1 + gain / 100)),
    u2: variances,
  }));
}
