/**
 * What anyone may read, kept ready for a short while: the text of an answer with its tag, plain and compressed. An
 * answer stands while nothing that could change it has happened; every server asks the database for that, so none
 * has to tell another.
 */
import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { sql } from 'drizzle-orm';
import type { Request, Response } from 'express';
import { databaseAway, inTime } from './away.ts';
import type { Needs } from './needs.ts';

const compressed = promisify(gzip);
const squeezed = promisify(brotliCompress);
/** Nearly as small as the utmost, at a hundredth of its time: an answer is made while somebody waits. */
const BROTLI = { params: { [constants.BROTLI_PARAM_QUALITY]: 5 } };

/** Answers kept at once; the longest unused goes first. */
const MOST_KEPT = 400;
/** What hangs on the time of day alone (an embargo that ends, a claim that grows too old) is this late at the most. */
const TIME_STEP_MS = 30_000;

interface Kept {
  readonly stamp: string;
  readonly etag: string;
  readonly plain: Buffer;
  readonly gzip: Buffer;
  readonly br: Buffer;
}
export type PublicAnswers = ReturnType<typeof createPublicAnswers>;

// eslint-disable-next-line max-lines-per-function -- methods of one service over what it was given
export function createPublicAnswers({ db, now }: Pick<Needs, 'db' | 'now'>) {
  const kept = new Map<string, Kept>();
  const making = new Map<string, Promise<Kept | undefined>>();

  /**
   * Moves with every change that is written down anywhere: in the trail, of a claim, of an input, or an answer to one.
   * It is settled when nobody was writing at that moment: a change that was under way could be committed later under a
   * smaller number, and the stamp would not move for it.
   */
  async function stampNow(): Promise<{ at: string; settled: boolean }> {
    const { rows } = await db.execute<{ at: string; settled: boolean }>(sql`
      select concat_ws(' ', (select max(id) from audit_entries), (select max(id) from claim_events),
        (select max(id) from input_changes), (select max(id) from change_answers)) as at,
        pg_snapshot_xmin(s) = pg_snapshot_xmax(s) as settled from pg_current_snapshot() s`);
    const [{ at, settled }] = rows;
    return { at: `${at} ${Math.floor(now().getTime() / TIME_STEP_MS)}`, settled };
  }

  async function made(at: string, text: string): Promise<Kept> {
    const plain = Buffer.from(text);
    const etag = `W/"${createHash('sha256').update(plain).digest('base64url').slice(0, 27)}"`;
    const [zipped, br] = await Promise.all([compressed(plain), squeezed(plain, BROTLI)]);
    return { stamp: at, etag, plain, gzip: zipped, br };
  }
  function keep(key: string, entry: Kept): void {
    kept.delete(key);
    kept.set(key, entry);
    if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
  }

  function send(req: Request, res: Response, { etag, plain, gzip: zipped, br }: Kept): void {
    res.set({ 'Cache-Control': 'no-cache', ETag: etag, Vary: 'Accept-Encoding, Cookie' });
    res.type('application/json');
    const how = (['br', 'gzip'] as const).find((encoding) => req.acceptsEncodings(encoding) === encoding);
    if (how) res.set('Content-Encoding', how);
    res.send(how === 'br' ? br : how ? zipped : plain);
  }

  return {
    /**
     * Answers from what is kept, or lets `handle` make the answer and keeps it. Many who ask for the same at once
     * wait for one of them. An answer that is a refusal is not kept.
     */
    async serve(key: string, req: Request, res: Response, handle: () => Promise<void> | void): Promise<void> {
      const stamp = await inTime(stampNow());
      const there = kept.get(key);
      if (!stamp) {
        // What was read last is still what was published then; a page that says nothing helps nobody.
        if (!there) throw databaseAway();
        res.set('Warning', '110 - "the records cannot be reached; as last read"');
        return send(req, res, there);
      }
      const { at, settled } = stamp;
      if (there?.stamp === at) return send(req, res, there);
      const waiting = await making.get(`${at} ${key}`);
      if (waiting) return send(req, res, waiting);
      let done: (entry: Kept | undefined) => void = () => undefined;
      making.set(`${at} ${key}`, new Promise((resolve) => (done = resolve)));
      const end = (entry?: Kept): void => {
        making.delete(`${at} ${key}`);
        done(entry);
      };
      // Called with the text of the answer instead of sending it; see mountRoutes.
      res.locals.answer = async (text: string): Promise<void> => {
        if (res.statusCode !== 200) {
          end();
          res.type('application/json').send(text);
          return;
        }
        const entry = await made(at, text);
        if (settled) keep(key, entry);
        end(settled ? entry : undefined);
        send(req, res, entry);
      };
      res.once('close', () => end());
      try {
        await handle();
      } catch (error) {
        end();
        throw error;
      }
    },
  };
}
