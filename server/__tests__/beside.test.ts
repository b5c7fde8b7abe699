/** Work beside the thread that answers: threads with a deadline, and the queue. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PullFileError } from '../../core/base/errors.ts';
import { openQueue, type Later } from '../base/later.ts';
import { inThreads, inThisThread, perform, type Task, type Threads } from '../base/threads.ts';
import { readPullTask } from '../capture/tasks.ts';
import performTask from '../tasks.ts';
import { startApp, type TestApp } from './app.ts';

const task = (name: string): Task<[], unknown> => ({ name, work: () => name });
let threads: Threads, folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'evidentia-threads-'));
  const file = join(folder, 'worker.mjs');
  writeFileSync(
    file,
    `export default async ({ name, args }) => {
      if (name === 'for ever') for (;;);
      if (name === 'hungry') { const all = []; for (;;) all.push(new Array(100000).fill(Math.random())); }
      if (name === 'refuses') return { failed: { kind: 'PullFileError', code: 'EMPTY_FILE', what: 'It is empty.',
        action: 'Send another.', where: { file: 'p1.csv', line: 3 }, details: { rows: 0 } } };
      return { value: [name, ...args] };
    };`,
  );
  threads = inThreads(file, { deadlineMs: 4000, memoryMb: 64 });
});
afterAll(async () => {
  await threads.close();
  rmSync(folder, { recursive: true });
});

describe('threads', () => {
  it('give back what the task gives, and what it refuses as the error it was', async () => {
    expect(await threads.run({ name: 'adds', work: (a: number, b: number) => a + b }, 1, 2)).toEqual([
      'adds',
      1,
      2,
    ]);
    const refused = await threads.run(task('refuses')).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(PullFileError);
    expect(refused).toMatchObject({
      code: 'EMPTY_FILE',
      where: { file: 'p1.csv', line: 3 },
      details: { rows: 0 },
    });
    expect((refused as Error).message).toBe('p1.csv, line 3: It is empty. Send another.');
  });
  it.each(['for ever', 'hungry'])(
    'a task that runs %s is refused, and the next one is done',
    async (name) => {
      await expect(threads.run(task(name))).rejects.toMatchObject({
        status: 422,
        code: 'TOO_MUCH_TO_COMPUTE',
      });
      expect(await threads.run(task('after'))).toEqual(['after']);
    },
  );
  it('started later compute by the program of before, whatever has been laid over it', async () => {
    const file = join(folder, 'changing.mjs');
    writeFileSync(file, "export default async () => ({ value: 'before' });");
    const own = inThreads(file);
    writeFileSync(file, "export default async () => ({ value: 'after' });");
    expect(await own.run(task('any'))).toBe('before');
    await own.close();
    const next = inThreads(file);
    expect(await next.run(task('any'))).toBe('after');
    await next.close();
  });
  it('know every task by name, and refuse in the same words as without them', async () => {
    const bytes = Buffer.from('nothing of use');
    const here = await inThisThread.run(readPullTask, bytes, {}).catch((error: unknown) => error);
    const there = await performTask({ name: readPullTask.name, args: [bytes, {}] });
    expect(here).toBeInstanceOf(PullFileError);
    const { code, what, action } = here as PullFileError;
    expect(there).toMatchObject({ failed: { kind: 'PullFileError', code, what, action } });
    await expect(performTask({ name: 'unheard of', args: [] })).rejects.toThrow(/no task/);
  });
  it('a fault of the program is no refusal', async () => {
    const broken = new Map([
      [
        'broken',
        {
          name: 'broken',
          work: () => {
            throw new TypeError('a slip');
          },
        },
      ],
    ]);
    await expect(perform(broken, { name: 'broken', args: [] })).rejects.toThrow('a slip');
  });
});

describe('the queue', () => {
  let app: TestApp;
  const done: string[] = [];
  const queues: Later[] = [];
  let failures = 0;
  beforeAll(async () => {
    app = await startApp();
    const open = (name: string) =>
      openQueue(app.databaseUrl, pino({ level: 'silent' }), {
        preview: () => Promise.resolve(),
        settle: () => {
          if (failures-- > 0) return Promise.reject(new Error('lost on the way'));
          done.push(name);
          return Promise.resolve();
        },
      });
    // Servers on one fresh database, started at once.
    queues.push(...(await Promise.all(['one', 'other', 'third', 'fourth', 'fifth', 'sixth'].map(open))));
  });
  afterAll(async () => {
    await Promise.all(queues.map((queue) => queue.stop()));
    await app.stop();
  });
  it('does a job once, whichever server sent it, and again when it failed', async () => {
    await queues[0].send('settle');
    await expect.poll(() => done.length, { timeout: 60_000 }).toBe(1);
    failures = 1;
    await queues[1].send('settle');
    await expect.poll(() => done.length, { timeout: 120_000 }).toBe(2);
    expect(failures).toBeLessThan(1);
  });
});
