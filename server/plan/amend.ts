import { and, eq, gte, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { AmendRequest } from '../../contract/plan/test.ts';
import { fieldChanges } from '../../core/plan/plan-document.ts';
import { runPulls } from '../../core/plan/protocols.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, notFound, RefusalError } from '../base/refusals.ts';
import { keptDeep, kept } from '../register/references.ts';
import { armsOf, type ArmRow } from './arms.ts';
import { columnsOf, documentOf, fieldsOf, keepVersion, sheetOf } from './plan-document.ts';
import { pulls, tests } from './tables.ts';

type TestColumns = typeof tests.$inferSelect;
type PullRecord = typeof pulls.$inferSelect;
type Change = { field: string; from: string; to: string };

/** Told after an amendment that changes what an analysis rests on; the publish stage listens. */
export type PlanAmended = (tx: Queryable, testId: string, person: Person, what: string) => Promise<void>;

/** One more run at the end of the sheet, behind so many pulls. */
function runAdded(
  test: TestColumns,
  arms: readonly ArmRow[],
  sheet: readonly PullRecord[],
  asked: NonNullable<AmendRequest['changes']['addedRun']>,
  behind: number,
) {
  const arm = arms.find((a) => a.key === asked.arm);
  if (!arm) throw notFound('arm');
  return {
    pulls: runPulls(
      behind,
      sheet.filter((p) => p.counted).length,
      Math.max(...sheet.map((p) => p.run)) + 1,
      asked.arm,
      Math.max(...sheet.map((p) => p.mount)) + (asked.newMount || test.remount ? 1 : 0),
      test.pullsPerRun,
      test.warmUps,
    ),
    change: {
      field: 'addedRun',
      from: 'as planned',
      to:
        `one more run of ${arm.label}${asked.newMount ? ', strapped down anew' : ''}: ` +
        `${test.warmUps} warm-up and ${test.pullsPerRun} counted pulls`,
    },
  };
}

/** The pull that repeats a left-out one at the end of its run; refused once a later run has been recorded. */
async function repeatOf(tx: Queryable, sheet: readonly PullRecord[], pullId: string) {
  const of = sheet.find((p) => p.id === pullId);
  if (!of) throw notFound('pull');
  if (!of.counted || !of.excludedReason)
    throw conflict(
      'NOT_LEFT_OUT',
      `Pull ${of.label} is not left out, so there is nothing to repeat.`,
      'Exclude it with its cause first.',
    );
  if (sheet.some((p) => p.repeats === pullId))
    throw conflict(
      'REPEATED_ALREADY',
      `Pull ${of.label} has been repeated already.`,
      'Exclude the repeat too, if it failed, and repeat that one.',
    );
  const last = sheet.filter((p) => p.run === of.run).at(-1)!;
  // Which pulls have been recorded is the next stage's to know; the table is asked, its code is not.
  const { rows: recorded } = await tx.execute<{ label: string }>(
    sql`select p.label from pulls p join pull_files f on f.pull_id = p.id
      where p.test_id = ${of.testId} and p.position > ${last.position} limit 1`,
  );
  if (recorded.length > 0)
    throw conflict(
      'RUN_IS_OVER',
      `The run of ${of.label} is over: ${recorded[0].label} of a later run has been recorded.`,
      'Add a run at the end instead.',
    );
  const pull = {
    position: last.position + 1,
    label: `${of.label}r`,
    run: of.run,
    arm: of.arm,
    mount: of.mount,
    counted: true,
  };
  return {
    of,
    pull,
    change: {
      field: 'repeatedPull',
      from: `${of.label}, left out (${of.excludedReason})`,
      to: `${pull.label} at the end of its run, position ${pull.position}`,
    },
  };
}

/** Puts the pulls of an amendment on the sheet; what comes after a repeat moves down to make room. */
async function putOnSheet(
  tx: Queryable,
  { newId }: Pick<Needs, 'newId'>,
  testId: string,
  amendment: number,
  repeat: Awaited<ReturnType<typeof repeatOf>> | undefined,
  added: ReturnType<typeof runAdded>['pulls'],
): Promise<void> {
  if (repeat) {
    await tx
      .update(pulls)
      .set({ position: sql`${pulls.position} + 1`, movedBy: amendment })
      .where(and(eq(pulls.testId, testId), gte(pulls.position, repeat.pull.position)));
    await tx.insert(pulls).values({ id: newId(), testId, ...repeat.pull, repeats: repeat.of.id, amendment });
  }
  if (added.length > 0)
    await tx.insert(pulls).values(added.map((pull) => ({ id: newId(), testId, ...pull, amendment })));
}

/** The next version of a locked plan, with a reason; every version before stays readable beside it. */
export async function amendPlan(
  tx: Queryable,
  needs: Pick<Needs, 'now' | 'newId'>,
  person: Person,
  test: TestColumns,
  request: AmendRequest,
  planAmended: PlanAmended,
): Promise<void> {
  const amendment = test.amendmentCount + 1;
  const reason = await kept(tx, request.reason, person);
  const { addedRun, repeatedPull, ...asked } = await keptDeep(tx, request.changes, person);
  const before = fieldsOf(test);
  const sheet = await sheetOf(tx, test.id);
  const repeat = repeatedPull ? await repeatOf(tx, sheet, repeatedPull.pullId) : undefined;
  // A repeat makes room for itself before the run is put behind everything.
  const behind = sheet.length + (repeat ? 1 : 0);
  const run = addedRun && runAdded(test, await armsOf(tx, test.id), sheet, addedRun, behind);
  const changes: Change[] = [
    ...fieldChanges(before, asked),
    ...(run ? [run.change] : []),
    ...(repeat ? [repeat.change] : []),
  ];
  if (changes.length === 0)
    throw new RefusalError(
      422,
      'NOTHING_CHANGED',
      'Nothing differs from the plan as it is.',
      'Change something, or leave it.',
    );
  const set = { ...asked, ...(addedRun ? { runOrder: [...test.runOrder, addedRun.arm] } : {}) };
  const moved = sheet.map((p) =>
    repeat && p.position >= repeat.pull.position ? { ...p, position: p.position + 1 } : p,
  );
  const document = await documentOf(tx, test.id, {
    version: amendment + 1,
    reason,
    fields: { ...before, ...set },
    sheet: [...moved, ...(repeat ? [repeat.pull] : []), ...(run?.pulls ?? [])],
  });
  await keepVersion(tx, test.id, document, { at: needs.now(), person, changes });
  await tx
    .update(tests)
    .set({ ...columnsOf(set), amendmentCount: amendment, updatedAt: needs.now() })
    .where(eq(tests.id, test.id));
  await putOnSheet(tx, needs, test.id, amendment, repeat, run?.pulls ?? []);
  await recordAudit(tx, needs.now(), person, 'amended plan', 'test', test.id, { amendment, reason, changes });
  await planAmended(tx, test.id, person, `the plan was amended (${changes.map((c) => c.field).join(', ')})`);
}
