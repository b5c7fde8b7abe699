/** What somebody waits for: how far it is, and that it ends with their waiting. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import express from 'express';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Person } from '../../contract/base/http.ts';
import { inThreads, type Threads } from '../base/threads.ts';
import { createUnderWays, whoeverWaits } from '../base/under-way.ts';
import type { Board } from '../base/under-way-board.ts';

/** What the others would read. */
const rows = new Map<string, { done: number; of: number }>();
const board: Board = {
  tell: ({ path }, step) => Promise.resolve(void rows.set(path, step)),
  drop: ({ path }) => Promise.resolve(void rows.delete(path)),
  read: ({ path }) => Promise.resolve(rows.get(path) ?? null),
};
// No time passes: nothing here takes long enough to be told to the others.
const { known, waitedFor } = createUnderWays(board, () => 0);
const PERSON = { id: 'p', role: 'test manager' } as Person;
let threads: Threads, folder: string, base: string, close: () => void;
/** How the work of each address ended. */
const ended = new Map<string, string>();

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'evidentia-under-way-'));
  const file = join(folder, 'worker.mjs');
  // One that tells that it is at 3 of 8 and never ends, and one that does.
  writeFileSync(
    file,
    `export default async ({ name, args, port }) => {
      port?.postMessage([3, 8]);
      if (name === 'begun') return { value: process.execArgv };
      if (name === 'endless') for (;;);
      if (name === 'slow') await new Promise((resolve) => setTimeout(resolve, 1500));
      return { value: [name, port !== undefined, ...args] };
    };`,
  );
  threads = inThreads(file, { deadlineMs: 600_000 });
  const app = express();
  // Something that follows from what was asked, and is done to its end.
  app.get('/follows/:name', async (req, res) => {
    await waitedFor(req, res, PERSON, () =>
      whoeverWaits(() => threads.run({ name: req.params.name, work: (n: number) => n }, 7)).then((value) => {
        ended.set(req.path, JSON.stringify(value));
        return value;
      }),
    );
  });
  app.get('/:name', async (req, res) => {
    const run = () => threads.run({ name: req.params.name, work: (n: number) => n }, 7);
    await waitedFor(req, res, PERSON, () =>
      run().catch((error: unknown) => {
        ended.set(req.path, (error as Error).name);
        throw error;
      }),
    );
  });
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  close = () => server.close();
});
afterAll(async () => {
  close();
  await threads.close();
  rmSync(folder, { recursive: true });
});

it('is told while it goes on, to the one who asked, and stopped when they go', async () => {
  const going = new AbortController();
  const asked = fetch(`${base}/endless`, { signal: going.signal }).catch((error: unknown) => error);
  await expect.poll(() => known(PERSON, '/endless'), { timeout: 15_000 }).toEqual({ done: 3, of: 8 });
  expect(await known({ ...PERSON, id: 'q' }, '/endless')).toBeNull();
  // What has just begun is told to nobody else.
  expect(rows.size).toBe(0);
  going.abort();
  await asked;
  await expect.poll(() => ended.get('/endless'), { timeout: 15_000 }).toBe('AbortError');
  await expect.poll(() => known(PERSON, '/endless'), { timeout: 15_000 }).toBeNull();
}, 60_000);
it('is answered, and forgotten', async () => {
  const answer = await fetch(`${base}/ends`);
  expect(await answer.json()).toEqual(['ends', true, 7]);
  expect(await known(PERSON, '/ends')).toBeNull();
});
it('what follows from it is done to its end, also when they go', async () => {
  const going = new AbortController();
  const asked = fetch(`${base}/follows/slow`, { signal: going.signal }).catch((error: unknown) => error);
  setTimeout(() => going.abort(), 500);
  expect(await asked).toMatchObject({ name: 'AbortError' });
  await expect
    .poll(() => ended.get('/follows/slow'), { timeout: 15_000 })
    .toBe(JSON.stringify(['slow', false, 7]));
}, 60_000);
it('work that nobody waits for has nobody to tell', async () => {
  expect(await threads.run({ name: 'alone', work: (n: number) => n }, 7)).toEqual(['alone', false, 7]);
});
it('a thread loads by import alone: ended while it requires a module, Node would end the process', async () => {
  const begun = await threads.run({ name: 'begun', work: (): string[] => [] });
  expect(begun).toContain('--no-experimental-require-module');
});
