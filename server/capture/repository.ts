import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { SheetPull } from '../../core/capture/session/next-place.ts';
import type { Queryable } from '../base/db.ts';
import { pulls } from '../plan/tables.ts';
import { airFiles, airReadings, pullFiles, pullLogs, rawFiles } from './tables.ts';

/** The log that stands for a pull: joined to its present file, and not taken off again. */
export const logOfFile = and(
  eq(pullLogs.pullId, pulls.id),
  eq(pullLogs.current, true),
  eq(pullLogs.removed, false),
  eq(pullLogs.fileSha256, pullFiles.sha256),
);

/** Pulls of some tests in session order, each with its current file (without bytes) and air reading. */
export async function listPulls(db: Queryable, testIds: readonly string[]) {
  if (testIds.length === 0) return [];
  const rows = await db
    .select({
      pull: pulls,
      file: pullFiles,
      size: rawFiles.size,
      log: pullLogs,
      air: airReadings,
      airFile: airFiles.name,
    })
    .from(pulls)
    .leftJoin(pullFiles, and(eq(pullFiles.pullId, pulls.id), eq(pullFiles.current, true)))
    .leftJoin(rawFiles, eq(rawFiles.sha256, pullFiles.sha256))
    .leftJoin(pullLogs, logOfFile)
    .leftJoin(airReadings, and(eq(airReadings.pullId, pulls.id), eq(airReadings.current, true)))
    .leftJoin(airFiles, eq(airFiles.id, airReadings.airFileId))
    .where(inArray(pulls.testId, [...testIds]))
    .orderBy(asc(pulls.testId), asc(pulls.position));
  return rows;
}
export type PullRow = Awaited<ReturnType<typeof listPulls>>[number];

/** A pull as its place on the run sheet: settled once it has its file or a cause. */
export const sheetPull = ({ pull, file }: Pick<PullRow, 'pull' | 'file'>): SheetPull => ({
  id: pull.id,
  label: pull.label,
  position: pull.position,
  run: pull.run,
  arm: pull.arm,
  mount: pull.mount,
  counted: pull.counted,
  settled: file !== null || pull.excludedReason !== null,
});
/** The run sheet of a test. */
export const sheetOf = async (db: Queryable, testId: string): Promise<SheetPull[]> =>
  (await listPulls(db, [testId])).map(sheetPull);

/**
 * When pulls of a test were first and last seen: by every file ever attached to it, replaced ones too, and by what
 * the files themselves say of when they were recorded. Replacing or sending again changes nothing about it.
 */
export async function seenFrom(
  db: Queryable,
  testId: string,
): Promise<{ first: Date | null; last: Date | null }> {
  const [row] = await db
    .select({
      first: sql<string | null>`min(least(${pullFiles.attachedAt}, ${pullFiles.recordedBy}))`,
      last: sql<string | null>`max(least(${pullFiles.attachedAt}, ${pullFiles.recordedBy}))`,
    })
    .from(pullFiles)
    .innerJoin(pulls, eq(pulls.id, pullFiles.pullId))
    .where(eq(pulls.testId, testId));
  const date = (text: string | null): Date | null => (text === null ? null : new Date(text));
  return { first: date(row?.first ?? null), last: date(row?.last ?? null) };
}
