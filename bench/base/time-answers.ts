/**
 * Asks a server questions as browsers ask them and times the answers: one reader after another, and many at once.
 * Times are of the whole answer as the client gets it, on a shared machine: take the ratios.
 */
import { Agent, request } from 'node:http';

export interface Timing {
  readonly what: string;
  readonly readers: number;
  readonly p50: number;
  readonly p95: number;
  /** Of the largest answer as it crossed the wire, compressed. */ readonly bytes: number;
}
/** What is asked: a path made anew for each time, and headers beside it. */
export interface Question {
  readonly what: string;
  readonly path: () => string;
  readonly headers?: Readonly<Record<string, string>>;
}
interface Answer {
  readonly status: number;
  readonly etag: string | undefined;
  readonly body: Buffer;
  readonly ms: number;
}

/** Connections are kept, as a browser keeps them. */
const agent = new Agent({ keepAlive: true, maxSockets: 64 });

export function ask(url: string, headers: Readonly<Record<string, string>> = {}): Promise<Answer> {
  const started = performance.now();
  return new Promise((resolve, reject) => {
    const asked = request(url, { agent, headers: { 'accept-encoding': 'gzip', ...headers } }, (answer) => {
      const chunks: Buffer[] = [];
      answer.on('data', (chunk: Buffer) => chunks.push(chunk));
      answer.on('error', reject);
      answer.on('end', () =>
        resolve({
          status: answer.statusCode ?? 0,
          etag: answer.headers.etag,
          body: Buffer.concat(chunks),
          ms: performance.now() - started,
        }),
      );
    });
    // A kept connection may be closed by the server just as it is used again: asked once more, as browsers do.
    asked.on('error', (error) => {
      if (asked.reusedSocket && 'code' in error && error.code === 'ECONNRESET') resolve(ask(url, headers));
      else reject(error);
    });
    asked.end();
  });
}

const quantile = (list: readonly number[], p: number): number =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.ceil(p * list.length) - 1)];

/** Each question is asked `times` in all by `readers` at once, each of whom asks again as soon as it has its answer. */
export async function timeQuestion(
  base: string,
  question: Question,
  readers: number,
  times: number,
): Promise<Timing> {
  const all: number[] = [];
  let bytes = 0;
  let left = times + readers;
  const reader = async (): Promise<void> => {
    let first = true;
    while (left-- > 0) {
      const path = question.path();
      const { ms, body, status } = await ask(base + path, question.headers);
      if (status !== 200 && status !== 304)
        throw new Error(`${path}: ${status} ${String(body).slice(0, 200)}`);
      // The first answer of each reader warms up.
      if (!first) all.push(ms);
      first = false;
      bytes = Math.max(bytes, body.length);
    }
  };
  await Promise.all(Array.from({ length: readers }, reader));
  return { what: question.what, readers, p50: quantile(all, 0.5), p95: quantile(all, 0.95), bytes };
}
