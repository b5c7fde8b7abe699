/** Logs of the engine that come as files of their own: joined to a pull, shifted by hand where it must be, taken off again. */
import { and, eq, ne } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { PullLogShown } from '../../contract/capture/pull-log.ts';
import { recordAudit } from '../base/audit.ts';
import type { Queryable } from '../base/db.ts';
import { lockTest } from '../base/house.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, forbidden, notFound } from '../base/refusals.ts';
import { sha256Of } from '../base/sha256.ts';
import { testIsEmbargoed } from '../register/embargo.ts';
import { kept } from '../register/references.ts';
import { findTest, type TestRow } from '../plan/repository.ts';
import { keepBytes } from './keep-bytes.ts';
import { pulls, tests } from '../plan/tables.ts';
import { readingOptions } from './reading.ts';
import { logOfFile } from './repository.ts';
import { pullFiles, pullLogs, rawFiles } from './tables.ts';
import { joinTask, type Joined } from './tasks.ts';

/** Digits of a shift that mean something, s. */
const rounded = (seconds: number): number => Number(seconds.toFixed(3));
type LogRow = typeof pullLogs.$inferSelect;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createPullLogs(
  { db, now, newId, threads }: Needs,
  inputsChanged: (tx: Queryable, testId: string, person: Person, what: string) => Promise<void>,
  settle: (testId: string) => Promise<void>,
) {
  const fileOf = async (tx: Queryable, testId: string, pullId: string) => {
    const [row] = await tx
      .select({ label: pulls.label, file: pullFiles, bytes: rawFiles.bytes })
      .from(pulls)
      .leftJoin(pullFiles, and(eq(pullFiles.pullId, pulls.id), eq(pullFiles.current, true)))
      .leftJoin(rawFiles, eq(rawFiles.sha256, pullFiles.sha256))
      .where(and(eq(pulls.id, pullId), eq(pulls.testId, testId)));
    if (!row) throw notFound('pull');
    if (!row.file || !row.bytes)
      throw conflict(
        'NO_FILE_YET',
        `Pull ${row.label} has no file yet.`,
        'Attach the file of the pull first; the log is joined to it.',
      );
    return { label: row.label, file: row.file, bytes: row.bytes };
  };
  const logOf = async (tx: Queryable, testId: string, pullId: string): Promise<LogRow> => {
    const [row] = await tx
      .select({ log: pullLogs })
      .from(pulls)
      .innerJoin(pullFiles, and(eq(pullFiles.pullId, pulls.id), eq(pullFiles.current, true)))
      .innerJoin(pullLogs, logOfFile)
      .where(and(eq(pulls.id, pullId), eq(pulls.testId, testId)));
    if (!row) throw notFound('log');
    return row.log;
  };
  const read = (
    row: TestRow,
    file: { name: string; bytes: Buffer; columns: unknown },
    log: { name: string; bytes: Buffer },
  ) =>
    threads.run(
      joinTask,
      file.bytes,
      { ...readingOptions(row, row.dyno), file: file.name, columns: (file.columns as never) ?? undefined },
      log.bytes,
      { ...readingOptions(row, row.dyno), file: log.name },
    );
  /** One recording is the log of one pull: all ramps are alike, so the engine speed does not tell whose it is. */
  async function refuseTwin(tx: Queryable, sha256: string, pullId: string): Promise<void> {
    const [twin] = await tx
      .select({ label: pulls.label, number: tests.number })
      .from(pullLogs)
      .innerJoin(pulls, eq(pulls.id, pullLogs.pullId))
      .innerJoin(tests, eq(tests.id, pulls.testId))
      .innerJoin(pullFiles, and(eq(pullFiles.pullId, pulls.id), eq(pullFiles.current, true)))
      .where(and(logOfFile, eq(pullLogs.sha256, sha256), ne(pullLogs.pullId, pullId)));
    if (twin)
      throw conflict(
        'SAME_FILE_TWICE',
        `These bytes are the log of pull ${twin.label} of test ${twin.number}.`,
        'One recording is one pull: join the log that was recorded with this one.',
      );
  }
  /** One log more in the history of a pull; the one before stays, no longer current. */
  async function write(
    tx: Queryable,
    person: Person,
    testId: string,
    label: string,
    log: Omit<LogRow, 'id' | 'joinedAt' | 'joinedBy' | 'current'>,
    what: string,
  ): Promise<void> {
    await tx
      .update(pullLogs)
      .set({ current: false })
      .where(and(eq(pullLogs.pullId, log.pullId), eq(pullLogs.current, true)));
    await tx.insert(pullLogs).values({ ...log, id: newId(), joinedAt: now(), joinedBy: person.id });
    await recordAudit(tx, now(), person, what, 'test', testId, {
      pull: label,
      name: log.name,
      sha256: log.sha256,
      offsetS: log.offsetS,
    });
    await tx.update(tests).set({ updatedAt: now() }).where(eq(tests.id, testId));
    await inputsChanged(tx, testId, person, `${what} (pull ${label})`);
  }

  async function change(
    person: Person,
    testId: string,
    pullId: string,
    set: Partial<Pick<LogRow, 'offsetS' | 'removed'>>,
    what: string,
  ): Promise<void> {
    await findTest(db, testId, person);
    await db.transaction(async (tx) => {
      await lockTest(tx, testId);
      const { label } = await fileOf(tx, testId, pullId);
      const { id: _id, joinedAt: _at, joinedBy: _by, current: _is, ...log } = await logOf(tx, testId, pullId);
      await write(tx, person, testId, label, { ...log, ...set }, what);
    });
    await settle(testId);
  }

  return {
    /** Joins a log to the present file of a pull, shifted to where the engine speeds meet. */
    async join(person: Person, testId: string, pullId: string, name: string, bytes: Buffer): Promise<void> {
      const row = await findTest(db, testId, person);
      const { file, bytes: own } = await fileOf(db, testId, pullId);
      const sha256 = await sha256Of(bytes);
      if (sha256 === file.sha256)
        throw conflict(
          'SAME_FILE_TWICE',
          'These are the bytes of the pull itself.',
          'Choose the file of the log.',
        );
      const { alignment } = await read(
        row,
        { name: file.name, bytes: own, columns: file.columns },
        { name, bytes },
      );
      const keptName = await kept(db, name, person);
      const found = alignment ? rounded(alignment.offsetS) : null;
      await db.transaction(async (tx) => {
        await lockTest(tx, testId);
        const again = await fileOf(tx, testId, pullId);
        if (again.file.sha256 !== file.sha256)
          throw conflict(
            'FILE_REPLACED',
            'The file of the pull was replaced meanwhile.',
            'Join the log again.',
          );
        await refuseTwin(tx, sha256, pullId);
        await keepBytes(tx, sha256, bytes, { at: now(), personId: person.id });
        await write(
          tx,
          person,
          testId,
          again.label,
          {
            pullId,
            fileSha256: file.sha256,
            sha256,
            name: keptName,
            offsetS: found ?? 0,
            foundOffsetS: found,
            correlation: alignment?.correlation ?? null,
            removed: false,
          },
          'joined a log',
        );
      });
      await settle(testId);
    },
    shift: (person: Person, testId: string, pullId: string, offsetS: number) =>
      change(person, testId, pullId, { offsetS: rounded(offsetS) }, 'shifted a log'),
    takeOff: (person: Person, testId: string, pullId: string) =>
      change(person, testId, pullId, { removed: true }, 'took a log off'),
    /** Both engine speeds, to be seen over each other. */
    async shown(person: Person, testId: string, pullId: string): Promise<PullLogShown> {
      const row = await findTest(db, testId, person);
      const { file, bytes } = await fileOf(db, testId, pullId);
      const log = await logOf(db, testId, pullId);
      const [raw] = await db
        .select({ bytes: rawFiles.bytes })
        .from(rawFiles)
        .where(eq(rawFiles.sha256, log.sha256));
      const joined: Joined = await read(
        row,
        { name: file.name, bytes, columns: file.columns },
        { name: log.name, bytes: raw.bytes },
      );
      const { name, sha256, offsetS, foundOffsetS, correlation } = log;
      return {
        name,
        sha256,
        offsetS,
        foundOffsetS,
        correlation,
        adds: joined.adds,
        pull: joined.pull,
        log: joined.log,
      };
    },
    /** The log as it came. */
    async rawLog(person: Person, testId: string, pullId: string) {
      await findTest(db, testId, person);
      if (!person.clearance && (await testIsEmbargoed(db, testId, now())))
        throw forbidden('The part is under embargo, and the raw file may name it.');
      const { name, sha256 } = await logOf(db, testId, pullId);
      const [{ bytes }] = await db
        .select({ bytes: rawFiles.bytes })
        .from(rawFiles)
        .where(eq(rawFiles.sha256, sha256));
      return { name, sha256, bytes };
    },
  };
}
export type PullLogs = ReturnType<typeof createPullLogs>;
