import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Queryable } from '../base/db.ts';
import { pulls } from '../plan/tables.ts';
import { airReadings, pullFiles, rawFiles } from './tables.ts';

/** Pulls of some tests in session order, each with its current file (without bytes) and air reading. */
export async function listPulls(db: Queryable, testIds: readonly string[]) {
  if (testIds.length === 0) return [];
  const rows = await db
    .select({ pull: pulls, file: pullFiles, size: rawFiles.size, air: airReadings })
    .from(pulls)
    .leftJoin(pullFiles, and(eq(pullFiles.pullId, pulls.id), eq(pullFiles.current, true)))
    .leftJoin(rawFiles, eq(rawFiles.sha256, pullFiles.sha256))
    .leftJoin(airReadings, and(eq(airReadings.pullId, pulls.id), eq(airReadings.current, true)))
    .where(inArray(pulls.testId, [...testIds]))
    .orderBy(asc(pulls.testId), asc(pulls.position));
  return rows;
}
export type PullRow = Awaited<ReturnType<typeof listPulls>>[number];
