/** All finished tests of one part on one fitment, gathered for what is put together from them. */
import { and, desc, eq, inArray, ne, or, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { STANDARD_NAMES } from '../../core/base/standards.ts';
import { dayAt } from '../../core/base/site-time.ts';
import type { TestDefinition } from '../../core/capture/test-definition.ts';
import { isRefused, sayingLess, type Contrast, type ContrastResult } from '../../core/compare/result.ts';
import { isKin, type EveryTest, type LeftOut, type OtherTest } from '../../core/judge/every-test.ts';
import { together } from '../../core/judge/together.ts';
import { DAY_RULE } from '../../core/register/day-variance.ts';
import type { Near } from '../../core/register/near-parts.ts';
import { partReference } from '../../core/register/references.ts';
import type { Queryable } from '../base/db.ts';
import { standingAnalysis } from '../base/standing-analysis.ts';
import { visibleTo } from '../plan/repository.ts';
import { testArms, tests } from '../plan/tables.ts';
import { dynos, vehicles } from '../register/tables.ts';
import { nearFitments } from './near-fitments.ts';
import { nearParts } from './near-parts.ts';
import { analyses } from './tables.ts';
import { dayVariance } from './together-days.ts';
import { sessionOf } from './together-session.ts';

type Analysis = Pick<typeof analyses.$inferSelect, 'result' | 'curves' | 'inputs' | 'failing' | 'until'>;
export interface Seen extends Analysis {
  readonly testId: string;
  readonly number: number;
  readonly arm: string;
  readonly vehicle: string;
  readonly odometerKm: number;
  readonly dyno: string;
  readonly timeZone: string;
}
export interface Held extends Seen {
  readonly contrast: ContrastResult;
  readonly day: string;
  readonly left: LeftOut | null;
}
export interface Every extends EveryTest {
  /** The one asked for and all others, newest first; those that have a result. */
  readonly held: readonly Held[];
  /** Those that are put together. */
  readonly used: readonly Held[];
  readonly own: Held | undefined;
  readonly daySd: { readonly sd: number; readonly registered: boolean };
}
type Test = typeof tests.$inferSelect;
type Arm = typeof testArms.$inferSelect;
/** What else is looked at beside tests of the same part on the same kind of car. */
interface Around {
  /** Fitments whose tests of the same change are looked at. */
  readonly siblings: ReadonlyMap<string, LeftOut>;
  /** Revisions that may be the same thing. */ readonly near: ReadonlyMap<string, Near>;
}

/** @param person who looks, and sees what they may see; nobody: everything there is */
export async function everyTest(db: Queryable, test: Test, armKey: string, person?: Person): Promise<Every> {
  const arms = await db.select().from(testArms).where(eq(testArms.testId, test.id));
  const parts = arms.filter((arm) => arm.role === 'part').sort((a, b) => a.position - b.position);
  const arm = parts.find((a) => a.key === armKey) ?? parts[0];
  const registered = await dayVariance(db, arm?.differences ?? []);
  const day = registered?.registered ? registered : DAY_RULE.policy;
  const daySd = { sd: Math.sqrt(day.variance), registered: day !== DAY_RULE.policy };
  const around: Around = {
    siblings: await nearFitments(db, test.fitmentId),
    near: await nearParts(db, test.fitmentId, arm?.partRevisionId ?? null),
  };
  const found = arm ? await ofThePart(db, arm, test, around, person) : [];
  const held = arm ? found.flatMap((one) => heldOf(one, arm, test, around)) : [];
  const own = held.find((one) => one.testId === test.id && one.arm === arm.key);
  const used = held.filter((one) => one.left === null);
  const others = held.filter((one) => one.testId !== test.id).map(otherOf);
  const all = together(used.map(sessionOf), (1 - test.confidence) / 2, day);
  return {
    held,
    used,
    own,
    others: others.filter(({ left }) => !isKin(left)),
    kin: others.filter(({ left }) => isKin(left)),
    unfinished: arm
      ? [...(await unfinishedOf(db, arm, test, around, person)), ...incomparable(found, test, around)]
      : [],
    together: all,
    daySd,
  };
}

const sameChange = ({ differences }: Arm) =>
  sql<boolean>`${testArms.differences} = ${JSON.stringify(differences)}::jsonb`;
const ofPart = (own: Arm) =>
  or(sameChange(own), own.partRevisionId ? eq(testArms.partRevisionId, own.partRevisionId) : undefined);

/**
 * The same change, or the same part however set, on the same kind of car; what may be the same part under another name
 * or revision; and the same change on others of the family.
 * Whoever measured it.
 */
const ofThePart = (
  db: Queryable,
  own: Arm,
  { fitmentId }: Test,
  { siblings, near }: Around,
  person: Person | undefined,
): Promise<
  (Seen & {
    readonly fitmentId: string;
    readonly revisionId: string | null;
    readonly label: string;
    readonly same: boolean;
    readonly standard: Test['standard'];
  })[]
> => {
  const same = sameChange(own);
  return db
    .select({
      testId: tests.id,
      number: tests.number,
      fitmentId: tests.fitmentId,
      standard: tests.standard,
      arm: testArms.key,
      revisionId: testArms.partRevisionId,
      label: testArms.label,
      same,
      vehicle: vehicles.tag,
      odometerKm: vehicles.odometerKm,
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
    .innerJoin(analyses, eq(analyses.id, standingAnalysis('tests')))
    .innerJoin(vehicles, eq(vehicles.id, tests.vehicleId))
    .innerJoin(dynos, eq(dynos.id, tests.dynoId))
    .where(
      and(
        or(
          and(
            eq(tests.fitmentId, fitmentId),
            or(ofPart(own), inArray(testArms.partRevisionId, [...near.keys()])),
          ),
          and(inArray(tests.fitmentId, [...siblings.keys()]), same),
        ),
        person ? visibleTo(person) : undefined,
      ),
    )
    .orderBy(desc(tests.number));
};

type One = Awaited<ReturnType<typeof ofThePart>>[number];

/** Tests of the part that have a pull and no result: whether they would have one is not known. */
async function unfinishedOf(
  db: Queryable,
  own: Arm,
  { id, fitmentId }: Test,
  { near }: Around,
  person: Person | undefined,
): Promise<number[]> {
  const asOne = [...near].flatMap(([revision, why]) =>
    why.why === 'other revision' && !why.isChangeKnown ? [revision] : [],
  );
  const rows = await db
    .selectDistinctOn([tests.number], { number: tests.number })
    .from(tests)
    .innerJoin(testArms, and(eq(testArms.testId, tests.id), eq(testArms.role, 'part')))
    .where(
      and(
        eq(tests.fitmentId, fitmentId),
        ne(tests.id, id),
        or(ofPart(own), inArray(testArms.partRevisionId, asOne)),
        sql`not exists (select from analyses x where x.test_id = ${tests.id})`,
        sql`exists (select from pulls p join pull_files f on f.pull_id = p.id where p.test_id = ${tests.id})`,
        person ? visibleTo(person) : undefined,
      ),
    )
    .orderBy(tests.number);
  return rows.map(({ number }) => number);
}

/** Tests of the part that were made and cannot be compared: what they would have said is not known either. */
const incomparable = (found: readonly One[], { id, fitmentId: own }: Test, around: Around): number[] =>
  found.flatMap((one) => {
    const contrast = one.result.contrasts.find((c) => c.arm === one.arm);
    const isOfIt = one.fitmentId === own && one.testId !== id && !isKin(otherOfIt(one, around));
    return isOfIt && (!contrast || isRefused(contrast)) ? [one.number] : [];
  });

/** Why a test is of something near and not of the part itself; the same change by its words is the same. */
const nearOf = ({ same, revisionId }: One, near: Around['near']): Near | undefined =>
  same || revisionId === null ? undefined : near.get(revisionId);

function heldOf(one: One, own: Arm, test: Test, around: Around): Held[] {
  // Other settings in one test are adjusted for their number there.
  if (one.testId === test.id && one.arm !== own.key) return [];
  const contrast = one.result.contrasts.find((c) => c.arm === one.arm);
  if (!contrast || isRefused(contrast)) return [];
  const other = otherOfIt(one, around);
  // A session of something else that does not stand says nothing of this part.
  if (isKin(other) && (one.failing ?? 0) > 0) return [];
  const day = one.until ? dayAt(one.until.getTime(), one.timeZone) : '';
  return [{ ...one, day, contrast: saidOf(contrast), left: whyLeft(one, test, other) }];
}

/** Of what else a test is, where it is not of this part on this fitment. */
function otherOfIt(one: One, { siblings, near }: Around): LeftOut | null {
  const other = nearOf(one, near);
  return (
    siblings.get(one.fitmentId) ??
    (other?.why === 'like part' ? { why: 'like part', part: partReference(other.partId) } : (other ?? null))
  );
}

/** A cause that does not depend on how the test came out. */
function whyLeft(
  { failing, inputs, same, label, standard }: One,
  test: Test,
  other: LeftOut | null,
): LeftOut | null {
  const { band } = inputs.definition as TestDefinition;
  if ((failing ?? 0) > 0) return { why: 'gate fails' };
  if (other) return other;
  if (!same) return { why: 'other setting', setting: label };
  if (standard !== test.standard) return { why: 'other standard', standard: STANDARD_NAMES[standard] };
  if (band.fromRpm !== test.fromRpm || band.toRpm !== test.toRpm)
    return { why: 'other range', fromRpm: band.fromRpm, toRpm: band.toRpm };
  return null;
}

/** With pulls left out, the result that says less: leaving a pull out raises nothing. */
export const saidOf = (contrast: Contrast): ContrastResult =>
  sayingLess(contrast, (c) => c.relative.bandAverage.lower);

const otherOf = ({ number, vehicle, dyno, day, contrast, left }: Held): OtherTest => {
  const { gain, lower, upper } = contrast.relative.bandAverage;
  return { number, vehicle, dyno, day, gain: { gain, lower, upper }, left };
};
