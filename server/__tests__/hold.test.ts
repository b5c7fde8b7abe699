/** What is sent badly or on purpose, and a database that goes away: refused in words, and nobody else is held up. */
import { connect } from 'node:net';
import type { AddressInfo, Socket } from 'node:net';
import { createServer } from 'node:net';
import express from 'express';
import pLimit from 'p-limit';
import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { seededRng } from '../../core/base/rng.ts';
import { openDb, openPool } from '../base/db.ts';
import { createDeeds } from '../base/deeds.ts';
import { createPublicAnswers } from '../base/public-answers.ts';
import { mountRoutes } from '../base/routing.ts';
import { captureRoutes } from '../capture/routes.ts';
import { houseWith } from './house.ts';

const { app, manager, partner } = houseWith('manager', 'partner');

/** Values of every kind that nobody means: too large, no text, of another kind, made to be run. */
const HOSTILE: readonly unknown[] = [
  '\0',
  '\ud800',
  'a'.repeat(200_000),
  "'; drop table tests; --",
  1e308,
  -1e308,
  Number.MAX_SAFE_INTEGER,
  3_000_000_000,
  -0,
  '9999999-99-99',
  '275760-09-13T00:00:00.001Z',
  '0000-00-00',
  null,
  [],
  {},
  [[[[]]]],
  true,
  { $ne: 1 },
  ['__proto__'],
  '00000000-0000-4000-8000-00000000000g',
];

describe('no body, query or path makes the server fail', () => {
  const pathOf = (path: string, value: unknown): string =>
    path
      .replace(
        /:(\w+)/g,
        (_all, name: string) =>
          app.ids[name.replace(/Id$/, '')] ??
          encodeURIComponent(
            String(value)
              .slice(0, 200)
              .replace(/[\ud800-\udfff]/g, ''),
          ),
      )
      .replaceAll('%EF%BF%BD', '%00');
  const keys = [
    'name',
    'q',
    'at',
    'from',
    'start',
    'days',
    'after',
    'limit',
    'records',
    'reason',
    'id',
    'text',
    'value',
  ];
  it('of any route, by a person who may do most', async () => {
    const rng = seededRng(77);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(rng.uniform() * list.length)];
    const failed: string[] = [];
    for (const route of app.routes)
      for (let i = 0; i < 4; i++) {
        const body = Object.fromEntries(keys.map((key) => [key, pick(HOSTILE)]));
        const whole = i === 0 ? pick(HOSTILE) : body;
        const query = new URLSearchParams({
          q: String(pick(HOSTILE)).slice(0, 400),
          after: String(pick(HOSTILE)).slice(0, 400),
          from: String(pick(HOSTILE)).slice(0, 40),
          limit: String(pick(HOSTILE)).slice(0, 40),
        });
        const path = `${pathOf(route.path, pick(HOSTILE))}?${query.toString()}`;
        // Signing out would end the test.
        if (route.path === '/session' && route.method === 'delete') continue;
        const answer = await manager(
          route.method.toUpperCase(),
          path,
          route.method === 'get' ? undefined : whole,
        );
        if (answer.status >= 500)
          failed.push(
            `${route.method} ${path.slice(0, 80)}: ${answer.status} ${String(answer.bytes).slice(0, 120)}`,
          );
      }
    expect(failed).toEqual([]);
  });
  it.each([
    ['a zero character', 'a\0b'],
    ['half a character', 'a\ud800b'],
  ])('%s is refused where it stands', async (_what, text) => {
    const answer = await manager<{ error: { code: string; message: string } }>('POST', '/calibrations', {
      name: text,
      revision: '1',
      fileHash: 'c'.repeat(64),
    });
    expect(answer).toMatchObject({ status: 400, body: { error: { code: 'TEXT_UNREADABLE' } } });
    expect(answer.body.error.message).toContain('name');
    expect((await manager('GET', `/fitments?q=${encodeURIComponent('a\0b')}`)).status).toBe(400);
  });
  it('a number that the database has no room for is a bad request, not a failure', async () => {
    const { rows } = await app.pool.query('select count(*)::int as n from vehicles');
    const answer = await manager('POST', '/vehicles', {
      fitmentId: app.ids.fitment,
      tag: 'too far',
      odometerKm: 3_000_000_000,
      wheels: '',
    });
    expect(answer.status).toBe(400);
    expect((await app.pool.query('select count(*)::int as n from vehicles')).rows).toEqual(rows);
  });
});

describe('where a change comes from', () => {
  const change = (headers: Record<string, string>) => manager('POST', '/tests', {}, headers);
  it.each<Record<string, string>>([
    { origin: 'null' },
    { origin: 'not an address' },
    { origin: 'http://127.0.0.1:1' },
    { 'sec-fetch-site': 'same-site' },
    { 'sec-fetch-site': 'cross-site' },
  ])('%j is another site', async (headers) => {
    expect(await change(headers)).toMatchObject({ status: 403, body: { error: { code: 'OTHER_SITE' } } });
  });
  it('the own pages, and programs that are no browser, are not', async () => {
    const own: Record<string, string>[] = [{}, { 'sec-fetch-site': 'same-origin' }];
    for (const headers of own) expect((await change(headers)).status).toBe(400);
  });
});

describe('bodies', () => {
  it('are not read of who may not send them', async () => {
    const nobody = await app.nobody('POST', '/tests', { a: 'b'.repeat(300_000) });
    expect(nobody).toMatchObject({ status: 401 });
    expect((await manager('POST', '/tests', { a: 'b'.repeat(300_000) })).status).toBe(413);
  });
  it('of a file are not read for a pull that is not there, or is somebody else’s', async () => {
    const path = `/tests/${app.ids.fitment}/pulls/${app.ids.part}/file?name=a.csv`;
    for (const ask of [manager, partner])
      expect((await ask('POST', path, new Uint8Array(1000))).status).toBeGreaterThanOrEqual(403);
    expect((await app.pool.query('select count(*)::int as n from raw_files')).rows[0]).toEqual({ n: 0 });
  });
});

describe('many files at once', () => {
  it('wait in turn, and are turned away when too many wait already; nobody waits for the rest', async () => {
    const uploads = pLimit(1);
    const route = captureRoutes(
      { isThere: () => Promise.resolve() } as never,
      undefined as never,
      undefined as never,
      undefined as never,
      uploads,
    ).find((r) => r.path === '/tests/:testId/pulls/:pullId/file' && r.method === 'post')!;
    let end = (): void => undefined;
    void uploads(() => new Promise<void>((resolve) => (end = resolve)));
    const waiting = Array.from({ length: 24 }, () => uploads(() => Promise.resolve()));
    const id = '00000000-0000-4000-8000-000000000001';
    const request = { params: { testId: id, pullId: id }, query: { name: 'p1.csv' } };
    await expect(
      (async () => route.handle(request as never, {} as never, { person: {} } as never))(),
    ).rejects.toMatchObject({ code: 'BUSY', status: 503 });
    end();
    await Promise.all(waiting);
    expect(uploads.pendingCount).toBe(0);
  });
});

/** A door to a database that can be shut, so that it hangs, or torn off. */
async function doorTo(databaseUrl: string) {
  const { hostname, port } = new URL(databaseUrl);
  const pairs: [Socket, Socket][] = [];
  let hanging = false;
  const server = createServer((near) => {
    const far = connect(Number(port), hostname);
    pairs.push([near, far]);
    near.on('data', (bytes) => {
      if (!hanging) far.write(bytes);
    });
    far.on('data', (bytes) => near.write(bytes));
    for (const [one, other] of [
      [near, far],
      [far, near],
    ] as const)
      one.on('error', () => other.destroy()).on('close', () => other.destroy());
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const url = new URL(databaseUrl);
  url.port = String((server.address() as AddressInfo).port);
  return {
    url: url.toString(),
    hang: (on: boolean) => {
      hanging = on;
    },
    tear: () => pairs.splice(0).forEach(([near, far]) => (near.destroy(), far.destroy())),
    close: () => new Promise((resolve) => server.close(resolve)),
  };
}

describe('a database that goes away', () => {
  it('in the middle of a transaction ends that transaction and nothing else', async () => {
    const lost: string[] = [];
    const pool = openPool(app.databaseUrl, (error) => lost.push(error.message));
    const client = await pool.connect();
    const { rows } = await client
      .query<{ pid: number }>('begin; select pg_backend_pid() as pid')
      .then((r) => (Array.isArray(r) ? (r[1] as pg.QueryResult<{ pid: number }>) : r));
    await app.pool.query('select pg_terminate_backend($1)', [rows[0].pid]);
    await expect.poll(() => lost.length, { timeout: 20_000 }).toBeGreaterThan(0);
    await expect(client.query('select 1')).rejects.toThrow();
    client.release(true);
    expect((await pool.query('select 1 as one')).rows).toEqual([{ one: 1 }]);
    await pool.end();
  });

  it('is told within a second, the public reads on from what was read, and all is well when it is back', async () => {
    const door = await doorTo(app.databaseUrl);
    const pool = openPool(door.url);
    const needs = { db: openDb(pool), now: () => new Date(0) };
    const publicAnswers = createPublicAnswers(needs);
    let made = 0;
    const server = express()
      .use(
        mountRoutes(
          ['/kept', '/new'].map((path) => ({
            method: 'get' as const,
            path,
            access: 'public' as const,
            kept: true as const,
            handle: (_req: express.Request, res: express.Response) => {
              made += 1;
              res.json({ path });
            },
          })),
          {
            personOf: () => Promise.resolve(undefined),
            readingFor: () => ({
              over: () => Promise.resolve((text: string) => text),
              tripwire: () => Promise.resolve(),
            }),
            publicAnswers,
            deeds: createDeeds(needs),
          },
        ),
      )
      .use(((error: { status: number; code: string }, _req, res, _next) => {
        res.status(error.status).json({ code: error.code });
      }) as express.ErrorRequestHandler)
      .listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const read = async (path: string) => {
      const answer = await fetch(base + path);
      return {
        status: answer.status,
        warned: answer.headers.has('warning'),
        body: (await answer.json()) as object,
      };
    };
    // An answer is kept once nobody else was writing at the moment it was made: then it is not made again.
    const isKept = async (): Promise<boolean> => {
      const before = made;
      await read('/kept');
      return made === before;
    };
    await expect.poll(isKept, { timeout: 120_000, interval: 100 }).toBe(true);
    for (const away of [() => door.hang(true), door.tear]) {
      away();
      expect(await read('/new')).toMatchObject({ status: 503, body: { code: 'DATABASE_AWAY' } });
      door.hang(true);
      expect(await read('/kept')).toEqual({ status: 200, warned: true, body: { path: '/kept' } });
    }
    door.hang(false);
    door.tear();
    await expect.poll(async () => (await read('/new')).status, { timeout: 120_000, interval: 500 }).toBe(200);
    server.closeAllConnections();
    server.close();
    door.tear();
    await pool.end();
    await door.close();
  });
});
