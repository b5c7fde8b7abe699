/** The plan of a test between its columns and its document, and the versions kept of it. */
import { createHash } from 'node:crypto';
import { and, asc, eq, gt, max } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { AmendmentShown } from '../../contract/plan/amendment.ts';
import type { Amendment } from '../../core/plan/amendment.ts';
import {
  PLAN_FORMAT,
  type AmendableField,
  type PlanDocument,
  type PlanFields,
  type PlanPull,
} from '../../core/plan/plan-document.ts';
import { canonicalJson } from '../base/canonical-json.ts';
import type { Queryable } from '../base/db.ts';
import { policyInForce } from '../base/house.ts';
import { people } from '../base/tables.ts';
import { dynos, dynoVersions, fitments } from '../register/tables.ts';
import { armsOf } from './arms.ts';
import { planVersions, pulls, tests } from './tables.ts';

type TestColumns = typeof tests.$inferSelect;

/** Fields that lie in a column of their own name. */
const COLUMNS = [
  'question',
  'fitmentId',
  'vehicleId',
  'partRevisionId',
  'dynoId',
  'controlId',
  'standard',
  'smoothingRpm',
  'confidence',
  'guard',
  'boostedSchool',
  'startSensor',
  'startSlope',
  'driftBound',
  'metrics',
  'protocol',
  'runOrder',
  'pullsPerRun',
  'warmUps',
  'remount',
  'coolDownMinutes',
  'gear',
  'fuel',
  'calibration',
  'tyres',
  'controls',
  'photographs',
  'logs',
] as const satisfies readonly (keyof TestColumns & keyof PlanFields)[];
/** Every field has its column, or the three of the band: a field without one does not compile. */
type _AllFields = Exclude<keyof PlanFields, (typeof COLUMNS)[number] | 'band'> extends never ? true : never;
const _allFields: _AllFields = true;
void _allFields;

export const fieldsOf = (test: TestColumns): PlanFields => ({
  ...(Object.fromEntries(COLUMNS.map((key) => [key, test[key]])) as unknown as Pick<
    PlanFields,
    (typeof COLUMNS)[number]
  >),
  band: { fromRpm: test.fromRpm, toRpm: test.toRpm, stepRpm: test.stepRpm },
});
/** What some fields change in the columns. */
export function columnsOf({
  band,
  metrics,
  ...fields
}: Partial<Pick<PlanFields, AmendableField | 'runOrder'>>): Partial<typeof tests.$inferInsert> {
  return {
    ...(Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as Partial<
      typeof tests.$inferInsert
    >),
    ...(metrics ? { metrics: [...metrics], metric: metrics[0] } : {}),
    ...band,
  };
}

export const sheetOf = (tx: Queryable, testId: string) =>
  tx.select().from(pulls).where(eq(pulls.testId, testId)).orderBy(asc(pulls.position));

async function plannedOn(tx: Queryable, fields: PlanFields): Promise<PlanDocument['plannedOn']> {
  const [dyno] = await tx.select({ version: dynos.version }).from(dynos).where(eq(dynos.id, fields.dynoId));
  const [fitment] = await tx
    .select({ version: fitments.version })
    .from(fitments)
    .where(eq(fitments.id, fields.fitmentId));
  const [entry] = await tx
    .select({ number: max(dynoVersions.number) })
    .from(dynoVersions)
    .where(eq(dynoVersions.dynoId, fields.dynoId));
  return {
    dyno: { record: dyno?.version ?? null, facts: entry?.number ?? null },
    fitment: fitment?.version ?? null,
    policy: (await policyInForce(tx)).version,
  };
}

/** The plan with these fields and this run sheet, as a document; arms as they are kept. */
export async function documentOf(
  tx: Queryable,
  testId: string,
  {
    fields,
    sheet,
    ...version
  }: Pick<PlanDocument, 'version' | 'reason' | 'fields'> & { sheet: readonly PlanPull[] },
): Promise<PlanDocument> {
  return {
    format: PLAN_FORMAT,
    ...version,
    fields,
    arms: (await armsOf(tx, testId)).map(
      ({ key, label, role, fromKey, changes, partRevisionId, scope, scopeText, differences }) => ({
        key,
        label,
        role,
        fromKey,
        changes,
        partRevisionId,
        scope,
        scopeText,
        differences,
      }),
    ),
    sheet: [...sheet]
      .sort((a, b) => a.position - b.position)
      .map(({ position, label, arm, run, mount, counted }) => ({
        position,
        label,
        arm,
        run,
        mount,
        counted,
      })),
    plannedOn: await plannedOn(tx, fields),
  };
}

/** SHA-256 of the document as canonical JSON, in hex: whoever has the document can take it again. */
export const hashOf = (document: PlanDocument): string =>
  createHash('sha256').update(canonicalJson(document)).digest('hex');

/** Keeps a version whole; the database refuses one out of turn. */
export async function keepVersion(
  tx: Queryable,
  testId: string,
  document: PlanDocument,
  {
    at,
    person,
    changes = [],
  }: { at: Date; person: Person; changes?: { field: string; from: string; to: string }[] },
): Promise<string> {
  const hash = hashOf(document);
  const { version, reason } = document;
  await tx
    .insert(planVersions)
    .values({ testId, version, at, personId: person.id, reason, changes, hash, document });
  return hash;
}

/** A version of a plan with when and by whom, or undefined. */
export async function versionOf(tx: Queryable, testId: string, version: number) {
  const [row] = await tx
    .select()
    .from(planVersions)
    .where(and(eq(planVersions.testId, testId), eq(planVersions.version, version)));
  return row;
}

const amendedVersions = (db: Queryable, testId: string) =>
  db
    .select({ version: planVersions, person: people.name })
    .from(planVersions)
    .innerJoin(people, eq(people.id, planVersions.personId))
    .where(and(eq(planVersions.testId, testId), gt(planVersions.version, 1)))
    .orderBy(asc(planVersions.version));

/** Amendments of a test as people read them. */
export const amendmentsShown = async (db: Queryable, testId: string): Promise<AmendmentShown[]> =>
  (await amendedVersions(db, testId)).map(({ version, person }) => ({
    number: version.version - 1,
    at: version.at.toISOString(),
    person,
    reason: version.reason ?? '',
    planHash: version.hash,
    changes: version.changes as AmendmentShown['changes'],
  }));

/** Amendments of a test as the gates weigh them, newest first. */
export const amendmentsOf = async (db: Queryable, testId: string): Promise<Amendment[]> =>
  (await amendedVersions(db, testId)).reverse().map(({ version }) => ({
    number: version.version - 1,
    at: version.at.toISOString(),
    fields: version.changes.map((c) => c.field),
    reason: version.reason ?? '',
  }));
