/**
 * Files that arrive in parts. Each part is kept as it comes, so that a sender whose connection broke, or whose server
 * was another one, goes on where it stopped. Nobody else’s parts are added to one’s own.
 */
import { and, asc, eq, lt, sql } from 'drizzle-orm';
import type { Person } from '../../contract/base/http.ts';
import { MAX_PULL_FILE_BYTES } from '../../core/capture/limits.ts';
import type { Queryable } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { conflict, RefusalError } from '../base/refusals.ts';
import { sha256Of } from '../base/sha256.ts';
import { uploadParts } from './tables.ts';

/** What one person may have on the way at once, bytes; how long parts wait for the rest, ms. */
const [MOST_WAITING, WAITS_MS] = [3 * MAX_PULL_FILE_BYTES, 86_400_000];
const length = sql<number>`octet_length(${uploadParts.bytes})`;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createUploadParts({ db, now }: Pick<Needs, 'db' | 'now'>) {
  const ofFile = (person: Person, sha256: string) =>
    and(eq(uploadParts.personId, person.id), eq(uploadParts.sha256, sha256));
  /** Bytes that are here from the first on without a gap. */
  async function received(person: Person, sha256: string, tx: Queryable = db): Promise<number> {
    const rows = await tx
      .select({ start: uploadParts.start, length })
      .from(uploadParts)
      .where(ofFile(person, sha256))
      .orderBy(asc(uploadParts.start));
    return rows.reduce((end, row) => (row.start === end ? end + row.length : end), 0);
  }
  async function refuseTooMuch(tx: Queryable, person: Person, sha256: string, end: number): Promise<void> {
    if (end > MAX_PULL_FILE_BYTES)
      throw new RefusalError(
        413,
        'FILE_TOO_LARGE',
        `A file may have ${MAX_PULL_FILE_BYTES / 1048576} MB.`,
        'Export the one pull, not the whole session.',
      );
    const [{ waiting }] = await tx
      .select({ waiting: sql<number>`coalesce(sum(${length}), 0)::int` })
      .from(uploadParts)
      .where(and(eq(uploadParts.personId, person.id), sql`${uploadParts.sha256} <> ${sha256}`));
    if (waiting + end > MOST_WAITING)
      throw new RefusalError(
        413,
        'TOO_MUCH_ON_THE_WAY',
        'Other files of yours were begun and not finished.',
        'Finish one of them, or wait a day: then they are let go.',
      );
  }
  async function letGo(person: Person, sha256: string): Promise<void> {
    await db.delete(uploadParts).where(ofFile(person, sha256));
  }

  return {
    received: (person: Person, sha256: string) => received(person, sha256),
    /**
     * Keeps the part that begins at a byte; one that is here already is not kept twice.
     * @returns bytes that are here then
     */
    async put(person: Person, sha256: string, start: number, bytes: Buffer): Promise<number> {
      return db.transaction(async (tx) => {
        await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${person.id + sha256}, 0))`);
        const have = await received(person, sha256, tx);
        if (start + bytes.length <= have) return have;
        if (start !== have)
          throw conflict(
            'PART_OUT_OF_ORDER',
            `Byte ${start} is not the next one: ${have} are here.`,
            `Go on at byte ${have}.`,
            { received: have },
          );
        await refuseTooMuch(tx, person, sha256, start + bytes.length);
        await tx.delete(uploadParts).where(lt(uploadParts.receivedAt, new Date(now().getTime() - WAITS_MS)));
        await tx.insert(uploadParts).values({ personId: person.id, sha256, start, bytes, receivedAt: now() });
        return start + bytes.length;
      });
    },
    /**
     * The file, once its parts give what was announced. What does not is let go: it can only be sent anew.
     * @param most what this kind of file may have, bytes; `tooLarge` makes the refusal of a larger one
     */
    async whole(
      person: Person,
      sha256: string,
      { most, tooLarge }: { readonly most: number; readonly tooLarge: (size: number) => Error },
    ): Promise<Buffer> {
      const size = await received(person, sha256);
      if (size > most) {
        await letGo(person, sha256);
        throw tooLarge(size);
      }
      const rows = await db
        .select({ bytes: uploadParts.bytes })
        .from(uploadParts)
        .where(ofFile(person, sha256))
        .orderBy(asc(uploadParts.start));
      const bytes = Buffer.concat(rows.map((row) => row.bytes));
      if ((await sha256Of(bytes)) === sha256) return bytes;
      await letGo(person, sha256);
      throw conflict(
        'OTHER_BYTES',
        `The ${bytes.length} bytes that arrived are not the file that was announced.`,
        'Send the file again; nothing was stored.',
      );
    },
    letGo,
  };
}
export type UploadParts = ReturnType<typeof createUploadParts>;
