/** A server that is killed while people write: a seeded small part of `npm run bench -- kills`. Needs the built server. */
import { randomUUID } from 'node:crypto';
import { setTimeout as later } from 'node:timers/promises';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { deedsOn, held, write, type Send, type Written } from '../../bench/base/kills.ts';
import { seededRng } from '../../core/base/rng.ts';
import { spawnServer, startApp, type Ask, type TestApp } from './app.ts';

const KILLS = 4;
let app: TestApp;
beforeAll(async () => {
  app = await startApp();
});
afterAll(async () => {
  await app.stop();
});

it('what was acknowledged is there, once and whole', async () => {
  const rng = seededRng(3);
  let server = await spawnServer(app.databaseUrl);
  let ask: Ask = await app.signIn('manager', server.base);
  const send: Send = async (deed, key) => {
    const { status, body } = await ask<{ error?: { code: string } } | undefined>(
      'POST',
      deed.path,
      deed.body,
      {
        'idempotency-key': key,
      },
    );
    return { status, code: body?.error?.code ?? '' };
  };
  const written: Written = { acknowledged: new Map(), strange: [], again: 0 };
  let stop = false;
  const { fitment, vehicle, dyno, revision } = app.ids;
  const next = deedsOn(
    { fitmentId: fitment, vehicleId: vehicle, dynoId: dyno, partRevisionId: revision, category: 'intake' },
    rng,
  );
  const writers = [1, 2].map(() => write(next, send, randomUUID, () => stop, written));
  for (let i = 0; i < KILLS; i++) {
    const before = written.acknowledged.size;
    await expect.poll(() => written.acknowledged.size, { timeout: 60_000 }).toBeGreaterThan(before + 3);
    await later(rng.uniform() * 50);
    await server.kill();
    server = await spawnServer(app.databaseUrl);
    ask = await app.signIn('manager', server.base);
  }
  stop = true;
  await Promise.all(writers);
  await server.stop();
  expect(written.strange).toEqual([]);
  expect(written.acknowledged.size).toBeGreaterThan(4 * KILLS);
  expect(await held(app.pool, written)).toEqual({ lost: [], twice: [], half: [] });
}, 240_000);
