/**
 * Computing beside the thread that answers: an analysis, a large file or table would hold everybody else up. Each
 * task has a deadline and a limit of memory; one that passes either is refused and the next has a fresh thread.
 */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { OnStep } from '../../core/base/on-step.ts';
import * as errors from '../../core/base/errors.ts';
import { RefusalError } from './refusals.ts';
import { whoWaits } from './under-way.ts';

/** Something to compute, known by name in every thread (server/tasks.ts): data in, data out, nothing else read. */
export interface Task<A extends unknown[], R> {
  readonly name: string;
  readonly work: (...args: [...A, onStep?: OnStep]) => R;
}
export interface Threads {
  run<A extends unknown[], R>(task: Task<A, R>, ...args: A): Promise<R>;
  close(): Promise<void>;
}

/** In the calling thread: for tests and for the command that loads the demo. */
export const inThisThread: Threads = {
  run: async (task, ...args) =>
    Promise.resolve(task.work(...(args as unknown as Parameters<typeof task.work>))),
  close: () => Promise.resolve(),
};

/** How far threads stand behind the thread that answers, as `nice` counts. */
const NICE = 5;
const DEADLINE_MS = 120_000;
const MOST_MEMORY_MB = 1024;

/** What crosses between threads: an error loses its class on the way, so it is taken apart and put together again. */
export type Done = { readonly value: unknown } | { readonly failed: FailedWork };
interface FailedWork {
  readonly kind: string;
  readonly code: string;
  readonly what: string;
  readonly action: string;
  readonly where: errors.Where;
  readonly details: Readonly<Record<string, unknown>>;
}

/** What a thread is asked: a task by its name, and where to tell how far it is. */
export interface Asked {
  readonly name: string;
  readonly args: unknown[];
  readonly port?: MessagePort;
}
/** Runs a task by name where it is known; what a person can mend comes back as data. */
export async function perform(
  tasks: ReadonlyMap<string, Task<never[], unknown>>,
  { name, args, port }: Asked,
): Promise<Done> {
  const task = tasks.get(name);
  if (!task) throw new Error(`no task is called ${name}`);
  try {
    const onStep: OnStep | undefined = port && ((done, of) => port.postMessage([done, of]));
    return { value: await (task.work as (...given: unknown[]) => unknown)(...args, onStep) };
  } catch (error) {
    if (!(error instanceof errors.EvidentiaError)) throw error;
    const { name: kind, code, what, action, where, details } = error as errors.EvidentiaError;
    return { failed: { kind, code, what, action, where, details } };
  }
}

function asThrown({ kind, code, what, action, where, details }: FailedWork): errors.EvidentiaError {
  const known = (errors as Record<string, unknown>)[kind] as typeof errors.EvidentiaError | undefined;
  return new (known ?? errors.EvidentiaError)(code, what, action, where, details);
}

/**
 * The program of the threads as it is now, under a name of its own: a thread that starts later, after another build has
 * been laid over this one, must not compute by another version than the server says.
 */
function asItIsNow(workerFile: string): string {
  const program = readFileSync(workerFile);
  const hash = createHash('sha256').update(program).digest('hex').slice(0, 16);
  const copy = join(dirname(workerFile), `tasks-${hash}.mjs`);
  if (!existsSync(copy)) {
    // Whole or not there: another server may be starting at this moment.
    writeFileSync(`${copy}.${process.pid}`, program);
    renameSync(`${copy}.${process.pid}`, copy);
  }
  return copy;
}

const NO_REQUIRE = '--no-experimental-require-module';
/**
 * A thread loads its program by import alone. Ended while it loads a module by `require` (somebody goes away just as a
 * thread begins), Node would take the whole process with it: “IsGraphAsync must be used on an instantiated module”.
 */
const THREAD_ARGV = [
  ...(process.allowedNodeEnvironmentFlags.has(NO_REQUIRE) ? [NO_REQUIRE] : []),
  ...process.execArgv.filter((flag) => flag === '--enable-source-maps'),
];

/** In threads of their own, as many as there are processors. */
export function inThreads(
  workerFile: string,
  { deadlineMs = DEADLINE_MS, memoryMb = MOST_MEMORY_MB } = {},
): Threads {
  const pool = new Piscina({
    filename: asItIsNow(workerFile),
    minThreads: 0,
    maxThreads: Math.max(2, availableParallelism()),
    idleTimeout: 30_000,
    // Whoever is answered from what is there goes before whoever has something computed.
    niceIncrement: NICE,
    resourceLimits: { maxOldGenerationSizeMb: memoryMb },
    execArgv: THREAD_ARGV,
  });
  return {
    async run<A extends unknown[], R>(task: Task<A, R>, ...args: A): Promise<R> {
      let done: Done;
      const asker = whoWaits();
      const news = asker && new MessageChannel();
      news?.port1.on('message', ([n, of]: [number, number]) => asker?.onStep(n, of));
      try {
        const signals = [AbortSignal.timeout(deadlineMs), ...(asker ? [asker.signal] : [])];
        done = (await pool.run(
          { name: task.name, args, ...(news ? { port: news.port2 } : {}) } satisfies Asked,
          {
            signal: AbortSignal.any(signals),
            ...(news ? { transferList: [news.port2] } : {}),
          },
        )) as Done;
      } catch (error) {
        throw isLimit(error) && !asker?.signal.aborted
          ? new RefusalError(
              422,
              'TOO_MUCH_TO_COMPUTE',
              'This takes more time or memory than one request may have.',
              'Send less at once: a shorter file, or a table in parts.',
            )
          : error;
      } finally {
        news?.port1.close();
      }
      if ('failed' in done) throw asThrown(done.failed);
      return done.value as R;
    },
    close: () => pool.destroy(),
  };
}

const isLimit = (error: unknown): boolean =>
  error instanceof Error &&
  (error.name === 'AbortError' || (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY');
