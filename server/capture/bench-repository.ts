/** What the bench asks of the database; nothing here decides. */
import { and, asc, desc, eq, isNull, max, sql } from 'drizzle-orm';
import type { DeviceKind } from '../../core/register/devices.ts';
import type { Queryable } from '../base/db.ts';
import { benchEntries, benchSessions, mountings, recordingChunks, recordings } from './bench-tables.ts';

export type SessionRow = typeof benchSessions.$inferSelect;
export type RecordingRow = typeof recordings.$inferSelect;

export async function openSession(tx: Queryable, testId: string): Promise<SessionRow | undefined> {
  const [row] = await tx
    .select()
    .from(benchSessions)
    .where(and(eq(benchSessions.testId, testId), isNull(benchSessions.closedAt)));
  return row;
}
export const sessionsOf = (tx: Queryable, testId: string): Promise<SessionRow[]> =>
  tx.select().from(benchSessions).where(eq(benchSessions.testId, testId)).orderBy(asc(benchSessions.number));

/** Holds a session against everybody else until the transaction ends; undefined when it is closed or gone. */
export async function lockSession(tx: Queryable, id: string): Promise<SessionRow | undefined> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`select id from bench_sessions where id = ${id} and closed_at is null for update`,
  );
  if (rows.length === 0) return undefined;
  const [row] = await tx.select().from(benchSessions).where(eq(benchSessions.id, id));
  return row;
}

/** What is still to become a pull. */
export const UNFINISHED: RecordingRow['state'][] = ['running', 'incomplete'];

export const recordingsOf = (tx: Queryable, sessionId: string): Promise<RecordingRow[]> =>
  tx
    .select()
    .from(recordings)
    .where(eq(recordings.sessionId, sessionId))
    .orderBy(asc(recordings.order), asc(recordings.askedAt));
export const mountingsOf = (tx: Queryable, sessionId: string) =>
  tx.select().from(mountings).where(eq(mountings.sessionId, sessionId)).orderBy(asc(mountings.number));
export const entriesOf = (tx: Queryable, sessionId: string) =>
  tx
    .select()
    .from(benchEntries)
    .where(eq(benchEntries.sessionId, sessionId))
    .orderBy(asc(benchEntries.enteredAt));

/** The arm that was last said to be on the car; null where nobody has said. */
export async function armOnCar(tx: Queryable, sessionId: string): Promise<string | null> {
  const fitted = (await entriesOf(tx, sessionId)).findLast(({ body }) => body.kind === 'fitted');
  return fitted?.body.kind === 'fitted' ? fitted.body.arm : null;
}

export async function lastMounting(tx: Queryable, sessionId: string): Promise<string | null> {
  const [row] = await tx
    .select({ id: mountings.id })
    .from(mountings)
    .where(eq(mountings.sessionId, sessionId))
    .orderBy(desc(mountings.number))
    .limit(1);
  return row?.id ?? null;
}
export async function nextOrder(tx: Queryable, sessionId: string): Promise<number> {
  const [row] = await tx
    .select({ last: max(recordings.order) })
    .from(recordings)
    .where(eq(recordings.sessionId, sessionId));
  return (row.last ?? 0) + 1;
}

/** Lines of a recording by device, each as it came, in the order of their numbers. */
export async function linesOf(tx: Queryable, recordingId: string): Promise<Map<DeviceKind, string[]>> {
  const chunks = await tx
    .select()
    .from(recordingChunks)
    .where(eq(recordingChunks.recordingId, recordingId))
    .orderBy(asc(recordingChunks.device), asc(recordingChunks.from));
  const lines = new Map<DeviceKind, string[]>();
  for (const { device, lines: text } of chunks)
    lines.set(device, [...(lines.get(device) ?? []), ...text.split('\n')]);
  return lines;
}
/** How many samples of each recording have arrived from the dyno. */
export async function receivedOf(tx: Queryable, sessionId: string): Promise<Map<string, number>> {
  const { rows } = await tx.execute<{ id: string; n: number }>(sql`
    select c.recording_id as id, sum(c.count)::int as n from recording_chunks c
      join recordings r on r.id = c.recording_id
    where r.session_id = ${sessionId} and c.device = 'dyno' group by 1`);
  return new Map(rows.map(({ id, n }) => [id, n]));
}
