/**
 * What an analysis rests on, read in an order that makes a race visible: the versions first, then the things
 * themselves. A thing that changes in between is newer than the version written down, so the change shows as unanswered.
 */
import { createHash } from 'node:crypto';
import { and, asc, desc, eq, lte, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { Policy } from '../../core/base/policy.ts';
import type { AirUncertainty } from '../../core/capture/air-reading.ts';
import type { TestDefinition } from '../../core/judge/analyse-test.ts';
import { isProduct, subjectKind } from '../../core/plan/subject.ts';
import { sweptSettings } from '../../core/plan/swept-setting.ts';
import type { Amendment } from '../../core/plan/amendment.ts';
import { driftModel } from '../../core/plan/protocols.ts';
import type { PlannedSlope } from '../../core/plan/planned-slope.ts';
import { PART_CATEGORIES, type PartCategory } from '../../core/register/parts.ts';
import type { StartSensor } from '../../core/register/temperature-slope.ts';
import { canonicalJson } from '../base/canonical-json.ts';
import type { Queryable } from '../base/db.ts';
import { policyInForce } from '../base/house.ts';
import { HOUSE_SUBJECT, type InputKind } from '../base/tables.ts';
import { listPulls, seenFrom, type PullRow } from '../capture/repository.ts';
import { readingOptions } from '../capture/reading.ts';
import { airReadingOf } from '../capture/service.ts';
import { sensorsOf } from '../correct/air-shown.ts';
import { engineOfFitment } from '../correct/engine-of.ts';
import { findTest, titleOf, type TestRow } from '../plan/repository.ts';
import { armsOf, type ArmRow } from '../plan/arms.ts';
import { answersOf } from './answers.ts';
import { asItWasDone, doneAt } from './as-done.ts';
import { controlAround } from '../correct/control-facts.ts';
import { oneWayFacts } from './one-way.ts';
import { amendmentsOf } from '../plan/plan-document.ts';
import { dynoVersions, type DynoFacts } from '../register/tables.ts';

export interface InputVersion {
  readonly kind: InputKind;
  readonly subjectId: string;
  readonly version: number;
}

export interface Inputs {
  readonly row: TestRow;
  readonly pullRows: readonly PullRow[];
  readonly arms: readonly ArmRow[];
  readonly dyno: DynoFacts;
  readonly definition: TestDefinition;
  readonly policy: Policy;
  /** What is kept with the analysis and hashed. */
  readonly content: Record<string, unknown>;
  readonly hash: string;
  readonly versions: readonly InputVersion[];
  /** The last moment of the session, as far as it is known. */
  readonly until: Date | null;
}

export { engineOfFitment as engineOf } from '../correct/engine-of.ts';

/** Versions of everything an analysis of this test can rest on; 0 where it has never changed. */
async function versionsOf(tx: Queryable, testId: string): Promise<InputVersion[]> {
  const house = sql`${HOUSE_SUBJECT}::uuid`;
  const { rows } = await tx.execute<{ kind: InputKind; subject_id: string; version: number }>(sql`
    with t as (select * from tests where id = ${testId}), arms as (select a.* from test_arms a where a.test_id = ${testId}),
    subjects as (
      select k.kind, p.id as subject_id from pulls p, (values ('file'), ('air'), ('exclusion')) k (kind) where p.test_id = ${testId}
      union all select 'other tests', id from t union all select 'plan', id from t union all select 'session', id from t
      union all select 'answer', id from t union all select 'control', id from t
      union all select 'ledger', vehicle_id from t union select 'ledger', c.vehicle_id from t join control_vehicles c on c.id = t.control_id
      union all select 'vehicle', vehicle_id from t
      union all select 'fitment', fitment_id from t union all select 'dyno', dyno_id from t union all select 'sensor', dyno_id from t
      union all select 'policy', ${house} union all select 'software', ${house}
      union select 'part revision', r.part_id from part_revisions r where r.id in (
        select part_revision_id from arms union select (c ->> 'partRevisionId')::uuid
          from arms, jsonb_array_elements(changes) c where c ->> 'kind' = 'part fitted')
      union select 'calibration', (c ->> 'calibrationId')::uuid from arms, jsonb_array_elements(changes) c
        where c ->> 'kind' = 'calibration' and c ->> 'calibrationId' is not null)
    select s.kind, s.subject_id, coalesce(v.version, 0) as version from subjects s left
      join input_versions v using (kind, subject_id) order by 1, 2`);
  return rows.map((r) => ({ kind: r.kind, subjectId: r.subject_id, version: r.version }));
}

/** Facts of the dyno as they were entered to hold at a moment: the newest entry that reaches back to it. */
async function dynoAt(tx: Queryable, row: TestRow, moment: Date): Promise<DynoFacts & { number: number }> {
  const [entry] = await tx
    .select()
    .from(dynoVersions)
    .where(and(eq(dynoVersions.dynoId, row.dyno.id), lte(dynoVersions.validFrom, moment)))
    .orderBy(desc(dynoVersions.number))
    .limit(1);
  const found =
    entry ??
    (
      await tx
        .select()
        .from(dynoVersions)
        .where(eq(dynoVersions.dynoId, row.dyno.id))
        .orderBy(asc(dynoVersions.number))
        .limit(1)
    )[0];
  return { ...found.facts, number: found.number };
}

/** Reads everything an analysis of a test rests on. */
export async function readInputs(
  tx: Queryable,
  testId: string,
  softwareVersion: string,
  now: Date,
  person?: Person,
): Promise<Inputs> {
  const versions = await versionsOf(tx, testId);
  const row = await findTest(tx, testId, person);
  const pullRows = await listPulls(tx, [testId]);
  const arms = await armsOf(tx, testId);
  const amendments = await amendmentsOf(tx, testId);
  const seen = await seenFrom(tx, testId);
  const { number: dynoVersion, ...dyno } = await dynoAt(tx, row, seen.first ?? now);
  const policy = await policyInForce(tx);
  const airSensors = await sensorsOf(tx, row.dyno.id, seen.last ?? now);
  const planned = definitionOf({
    row,
    arms,
    pullRows,
    amendments,
    dyno,
    airSensors,
    firstPullAt: seen.first,
  });
  const asDone = await doneAt(tx, testId);
  const done = asItWasDone(planned, pullRows, asDone);
  const answers = await answersOf(tx, testId);
  const oneWay = await oneWayFacts(tx, row, { arms, pullRows, definition: done, done: asDone });
  const definition: TestDefinition = {
    ...done,
    ...(answers.length > 0 ? { answers } : {}),
    ...(oneWay ? { oneWay } : {}),
    ...(await controlAround(tx, row.dyno, seen)),
  };
  const content = { definition, policy, softwareVersion, dynoVersion };
  return {
    row,
    pullRows,
    arms,
    dyno,
    definition,
    policy,
    content,
    hash: createHash('sha256').update(canonicalJson(content)).digest('hex'),
    versions,
    until: seen.last,
  };
}

interface DefinitionParts {
  readonly row: TestRow;
  readonly arms: readonly ArmRow[];
  readonly pullRows: readonly PullRow[];
  readonly amendments: readonly Amendment[];
  readonly dyno: DynoFacts;
  readonly airSensors: AirUncertainty;
  readonly firstPullAt: Date | null;
}

const plannedStart = (sensor: StartSensor, slope: PlannedSlope | null) => ({
  sensor,
  ...(slope ? { slope: { b: slope.b, V: slope.V, df: slope.df } } : {}),
});

/** Less than a shift anybody would see, s. */
const SAME_SHIFT_S = 0.2;
const logJoined = ({ sha256, offsetS, foundOffsetS, correlation }: NonNullable<PullRow['log']>) => {
  const byHand = foundOffsetS === null || Math.abs(offsetS - foundOffsetS) > SAME_SHIFT_S;
  const byClock = !byHand && correlation === null;
  return { file: sha256, offsetS, ...(byHand ? { byHand } : {}), ...(byClock ? { byClock } : {}) };
};

/** A difference in a part goes by the part's category. */
export const categoriesOf = ({ differences }: ArmRow): PartCategory[] =>
  PART_CATEGORIES.filter((category) => differences.some(({ subject }) => subject === category));

/** Definition of a test as the core takes it; files are named by their hash. */
function definitionOf({
  row,
  arms,
  pullRows,
  amendments,
  dyno,
  airSensors,
  firstPullAt,
}: DefinitionParts): TestDefinition {
  const { test, fitment } = row;
  const options = readingOptions(row, dyno);
  const swept = sweptSettings(arms.filter((arm) => arm.role === 'part'));
  return {
    title: titleOf(row),
    standard: test.standard,
    engine: engineOfFitment(fitment),
    ratedPowerKw: fitment.ratedPowerKw,
    band: { fromRpm: test.fromRpm, toRpm: test.toRpm, stepRpm: test.stepRpm },
    smoothingRpm: test.smoothingRpm,
    confidence: test.confidence,
    guard: test.guard,
    boostedSchool: test.boostedSchool,
    ...(test.startSensor ? { startTemperature: plannedStart(test.startSensor, test.startSlope) } : {}),
    model: { drift: driftModel(test.runOrder), driftBound: test.driftBound },
    repeatability: dyno.repeatability,
    ...(Object.keys(airSensors).length ? { airSensors } : {}),
    arms: arms.map((arm) => ({
      id: arm.key,
      role: arm.role,
      label: arm.label,
      ...(arm.partRevisionId && isProduct(subjectKind(arm as never)) ? { product: arm.partRevisionId } : {}),
      ...(arm.fromKey === null ? {} : { from: arm.fromKey }),
      ...(categoriesOf(arm).length > 0 ? { parts: categoriesOf(arm) } : {}),
      ...(swept.has(arm.key) ? { setting: swept.get(arm.key) } : {}),
    })),
    ...(Object.keys(options).length ? { reading: options } : {}),
    metric: test.metric,
    ...(test.metrics.length > 1 ? { metrics: test.metrics } : {}),
    plan: {
      lockedAt: test.lockedAt?.toISOString() ?? null,
      firstPullAt: firstPullAt?.toISOString() ?? null,
      ...(amendments.length ? { amendments } : {}),
    },
    pulls: pullRows.map(({ pull, file, log, air }) => ({
      id: pull.label,
      arm: pull.arm,
      order: pull.position,
      mount: pull.mount,
      counted: pull.counted,
      ...(file ? { file: file.sha256, columns: file.columns ?? undefined } : {}),
      ...(log ? { log: logJoined(log) } : {}),
      ...(air ? { air: airReadingOf(air, dyno.siteHeightM) } : {}),
      applied: { standard: dyno.appliesStandard },
      ...(pull.excludedReason
        ? { excluded: pull.excludedReason, excludedAfterResult: pull.excludedSeenResult ?? false }
        : {}),
      ...(pull.repeats ? { repeats: pullRows.find((p) => p.pull.id === pull.repeats)?.pull.label } : {}),
    })),
  };
}
