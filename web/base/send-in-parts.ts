/**
 * Large files go in parts: a connection that breaks, or a reload, costs a part. The server says how much it has; what
 * is asked with the file is asked afterwards, with its SHA-256 in the place of its bytes.
 */
import type { FetchArgs, FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import { MAX_PART_BYTES, ReceivedSchema } from '../../contract/capture/upload.ts';
import { fileHash } from './file-hash.ts';
import { isAt, isOver } from './on-the-way.ts';

/** How long a part is tried again before the sender is told, ms between tries. */
const PATIENCE_MS = [500, 1000, 2000, 4000, 8000, 15_000, 30_000];
const MOST_TRIES = 20;
type Answer = { data?: unknown; error?: FetchBaseQueryError };
type Ask = (asked: FetchArgs) => PromiseLike<Answer> | Answer;
interface Context {
  readonly signal: AbortSignal;
  readonly dispatch: (action: ReturnType<typeof isAt | typeof isOver>) => unknown;
}
type Outcome =
  { readonly error: FetchBaseQueryError } | { readonly error?: undefined; readonly rest: FetchArgs };

/** Whether nobody answered, or one who could not just then: it may be asked again. */
const isAway = ({ error }: Answer): boolean =>
  error !== undefined && (typeof error.status !== 'number' || error.status >= 500);
const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

async function patiently(
  ask: () => PromiseLike<Answer> | Answer,
  signal: AbortSignal,
  away: () => void,
): Promise<Answer> {
  for (const pause of PATIENCE_MS) {
    const answer = await ask();
    if (!isAway(answer) || signal.aborted) return answer;
    away();
    await wait(pause);
  }
  return ask();
}

/**
 * Sends the parts of a large file that are not there yet.
 * @returns what is left to be asked; undefined where the body is no large file, or the browser gives no hash
 */
export async function sentInParts(
  asked: FetchArgs,
  ask: Ask,
  context: Context,
): Promise<Outcome | undefined> {
  const file: unknown = asked.body;
  if (!(file instanceof File) || file.size <= MAX_PART_BYTES) return undefined;
  const sha256 = await fileHash(file);
  if (!sha256) return undefined;
  const url = `/uploads/${sha256}`;
  let sent = 0;
  const tell = (away: boolean): void =>
    void context.dispatch(isAt({ name: file.name, sent, of: file.size, isAway: away }));
  const step = (what: () => PromiseLike<Answer> | Answer): Promise<Answer> =>
    patiently(what, context.signal, () => tell(true));
  const receivedIn = ({ data }: Answer): number => ReceivedSchema.parse(data).received;
  try {
    const there = await step(() => ask({ url }));
    if (there.error) return { error: there.error };
    sent = receivedIn(there);
    for (let tries = 0; sent < file.size;) {
      tell(false);
      const part = file.slice(sent, sent + MAX_PART_BYTES);
      const headers = { 'content-type': 'application/octet-stream' };
      const answer = await step(() =>
        ask({ url, method: 'PUT', params: { start: sent }, headers, body: part }),
      );
      // Another tab sends the same file: it has brought it further.
      if (answer.error?.status === 409 && (tries += 1) < MOST_TRIES)
        sent = receivedIn(await step(() => ask({ url })));
      else if (answer.error) return { error: answer.error };
      else sent = receivedIn(answer);
    }
  } finally {
    context.dispatch(isOver());
  }
  return { rest: { ...asked, body: undefined, params: { ...(asked.params as object), uploaded: sha256 } } };
}
