/** What can be done to a car of a fitment: every change that was measured without a failing gate, and what it costs. */
import { createHash } from 'node:crypto';
import { and, asc, desc, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { Upgrades } from '../../contract/publish/upgrades.ts';
import { fitmentName } from '../../contract/register/register.ts';
import { isRefused, type Interval } from '../../core/compare/result.ts';
import type { ArmCost } from '../../core/compare/value.ts';
import type { TestResult } from '../../core/judge/analyse-test.ts';
import { PART_CATEGORIES } from '../../core/register/parts.ts';
import { canonicalJson } from '../base/canonical-json.ts';
import type { Queryable } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';
import { notFound } from '../base/refusals.ts';
import { visibleTo } from '../plan/repository.ts';
import { testArms, tests } from '../plan/tables.ts';
import { fitments } from '../register/tables.ts';
import { armCosts } from './arm-costs.ts';
import { analyses } from '../judge/tables.ts';
import { saidOf } from '../judge/every-test.ts';
import { togetherOf } from '../judge/together.ts';

type Arm = typeof testArms.$inferSelect;
type Step = Upgrades['steps'][number];

const MOST_TESTS = 60;
/** Arms that change the same have one key; it tells nothing of what they change. */
const sameChange = (arm: Arm): string =>
  createHash('sha256').update(canonicalJson(arm.differences)).digest('hex').slice(0, 16);

export async function upgradesOf(
  db: Queryable,
  fitmentId: string,
  person: Person,
  now: Date,
): Promise<Upgrades> {
  const [fitment] = await db.select().from(fitments).where(eq(fitments.id, fitmentId));
  if (!fitment) throw notFound('fitment');
  const measured = await db
    .select({ test: tests, result: analyses.result })
    .from(tests)
    .innerJoin(analyses, and(eq(analyses.id, standingAnalysis('tests')), eq(analyses.failing, 0)))
    .where(and(eq(tests.fitmentId, fitmentId), visibleTo(person)))
    .orderBy(desc(tests.number))
    .limit(MOST_TESTS);
  const steps = new Map<string, Step>();
  for (const { test, result } of measured) {
    const arms = await db
      .select()
      .from(testArms)
      .where(eq(testArms.testId, test.id))
      .orderBy(asc(testArms.position));
    const costs = await armCosts(db, arms, person, now);
    for (const step of stepsOf(arms, result, costs)) {
      const known = steps.get(step.key);
      const seen = { id: test.id, number: test.number };
      if (known) known.tests.push(seen);
      else steps.set(step.key, { ...step, tests: [seen] });
    }
  }
  return { fitment: fitmentName(fitment), steps: await allTogether(db, [...steps.values()], person) };
}

/** Every part arm of a test over stock, and every stage of a ladder over the one before it. */
function stepsOf(
  arms: readonly Arm[],
  result: TestResult,
  costs: ReadonlyMap<string, ArmCost>,
): Omit<Step, 'tests'>[] {
  const parts = arms.filter((arm) => arm.role === 'part' && arm.differences.length > 0);
  return parts.flatMap((arm) => {
    const before = parts.find((other) => other.key === arm.fromKey);
    const contrast = result.contrasts.find((c) => c.arm === arm.key);
    if (!contrast || isRefused(contrast)) return [];
    const gain = before ? stageGain(result, arm.key, before.key) : saidOf(contrast).relative.bandAverage;
    if (!gain) return [];
    const [own, base] = [costs.get(arm.key), before && costs.get(before.key)];
    const had = new Set(before?.differences.map((d) => canonicalJson(d)));
    const added = arm.differences.filter((d) => !had.has(canonicalJson(d)));
    return [
      {
        key: sameChange(arm),
        label: before ? `${arm.label} (after ${before.label})` : arm.label,
        gain: { gain: gain.gain, lower: gain.lower, upper: gain.upper },
        priceCents: aboveZero(own?.priceCents, base?.priceCents),
        currency: own?.currency ?? null,
        hours: aboveZero(own?.installHours, base?.installHours),
        after: before ? [sameChange(before)] : [],
        parts: PART_CATEGORIES.filter((category) => added.some((d) => d.subject === category)),
      },
    ];
  });
}
const stageGain = ({ between }: TestResult, arm: string, against: string): Interval | null =>
  between?.pairs.find((p) => p.arm === arm && p.against === against)?.average ?? null;
/** What a stage costs beyond the one before it; null where it is not known, or nothing. */
function aboveZero(own: number | null | undefined, before: number | null | undefined): number | null {
  const more = own ? Number((own - (before ?? 0)).toFixed(4)) : 0;
  return more > 0 ? more : null;
}

/** A part that was measured more than once, over stock, counts with all of its tests. */
async function allTogether(db: Queryable, steps: readonly Step[], person: Person): Promise<Step[]> {
  const out: Step[] = [];
  for (const step of steps) {
    if (step.tests.length < 2 || step.after.length > 0) {
      out.push(step);
      continue;
    }
    const [{ id }] = step.tests;
    const arms = await db.select().from(testArms).where(eq(testArms.testId, id));
    const arm = arms.find((one) => sameChange(one) === step.key);
    const { mean, vehicles } = await togetherOf(db, id, arm?.key ?? '', person);
    // Two vehicles have a mean with one degree of freedom: the first tells more than that does.
    const gain = mean && vehicles.length > 2 ? mean : vehicles[0]?.gain;
    out.push(gain ? { ...step, gain } : step);
  }
  return out;
}
