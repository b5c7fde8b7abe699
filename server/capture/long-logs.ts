/** Long logs: kept whole as raw files, split into their pulls, each of which is attached to its place as a file. */
import { and, eq } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import type { LongLog, Placed, PlacePieces } from '../../contract/capture/long-log.ts';
import { EvidentiaError } from '../../core/base/errors.ts';
import type { SplitLog } from '../../core/capture/split-log.ts';
import { recordAudit } from '../base/audit.ts';
import type { Needs } from '../base/needs.ts';
import { notFound, RefusalError } from '../base/refusals.ts';
import { sha256Of } from '../base/sha256.ts';
import { findTest, type TestRow } from '../plan/repository.ts';
import { kept } from '../register/references.ts';
import { readingOptions } from './reading.ts';
import type { PullLogs } from './pull-logs.ts';
import type { CaptureService } from './service.ts';
import { keepBytes } from './keep-bytes.ts';
import { longLogs, rawFiles } from './tables.ts';
import { pieceTask, splitTask } from './tasks.ts';

export type LongLogs = ReturnType<typeof createLongLogs>;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createLongLogs({ db, now, newId, threads }: Needs, capture: CaptureService, logs: PullLogs) {
  const split = (row: TestRow, bytes: Buffer, name: string): Promise<SplitLog> =>
    threads.run(splitTask, bytes, { ...readingOptions(row, row.dyno), file: name, torque: 'optional' });

  return {
    /** Keeps a log and says which pulls are in it. Nothing is kept of one that cannot be split. */
    async send(person: Person, testId: string, asked: string, bytes: Buffer): Promise<LongLog> {
      const row = await findTest(db, testId, person);
      const { pieces, hasTorque } = await split(row, bytes, asked);
      const name = await kept(db, asked, person);
      const sha256 = await sha256Of(bytes);
      const id = await db.transaction(async (tx) => {
        await keepBytes(tx, sha256, bytes, { at: now(), personId: person.id });
        const of = and(eq(longLogs.testId, testId), eq(longLogs.sha256, sha256));
        const [there] = await tx.select({ id: longLogs.id }).from(longLogs).where(of);
        if (there) return there.id;
        const added = newId();
        await tx
          .insert(longLogs)
          .values({ id: added, testId, sha256, name, sentAt: now(), sentBy: person.id })
          .onConflictDoNothing();
        await recordAudit(tx, now(), person, 'sent long log', 'test', testId, { name, sha256 });
        return added;
      });
      return { id, name, sha256, hasTorque, pieces: [...pieces] };
    },

    /** Attaches pulls of a log to their places on the run sheet; what only the engine logged is joined to the pulls there. */
    async place(person: Person, testId: string, logId: string, { places }: PlacePieces): Promise<Placed> {
      const row = await findTest(db, testId, person);
      const [log] = await db
        .select({ name: longLogs.name, sha256: longLogs.sha256, bytes: rawFiles.bytes })
        .from(longLogs)
        .innerJoin(rawFiles, eq(rawFiles.sha256, longLogs.sha256))
        .where(and(eq(longLogs.id, logId), eq(longLogs.testId, testId)));
      if (!log) throw notFound('log');
      const { headLines, hasTorque, pieces } = await split(row, log.bytes, log.name);
      const placed: Placed['placed'] = [];
      for (const { piece, pullId } of places) {
        const found = pieces[piece];
        const problem = found
          ? await attached(log, { headLines, hasTorque }, found, piece, { person, testId, pullId })
          : 'There is no such pull in the log.';
        placed.push({ piece, pullId, problem });
      }
      return { placed };
    },
  };

  async function attached(
    log: { readonly name: string; readonly sha256: string; readonly bytes: Buffer },
    head: Pick<SplitLog, 'headLines' | 'hasTorque'>,
    found: SplitLog['pieces'][number],
    piece: number,
    to: { readonly person: Person; readonly testId: string; readonly pullId: string },
  ): Promise<string | null> {
    const text = await threads.run(pieceTask, log.bytes, head, found, { name: log.name, sha256: log.sha256 });
    const name = `${log.name.replace(/\.[^.]*$/, '')}-${piece + 1}.csv`.slice(-200);
    try {
      if (head.hasTorque)
        await capture.attach(to.person, to.testId, to.pullId, name, Buffer.from(text), undefined);
      else await logs.join(to.person, to.testId, to.pullId, name, Buffer.from(text));
      return null;
    } catch (error) {
      // Sent again, after an answer was lost: it is there.
      if (
        error instanceof RefusalError &&
        error.code === 'SAME_FILE_TWICE' &&
        error.message.includes('this pull already')
      )
        return null;
      if (error instanceof EvidentiaError || error instanceof RefusalError) return error.message;
      throw error;
    }
  }
}
