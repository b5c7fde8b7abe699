/** What is sent twice is done once: two clicks, an answer that was lost, a server that died before it answered. */
import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { createDeeds } from '../base/deeds.ts';
import { startApp } from './app.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';

let elsewhere: Ask;
const { app, manager, operator } = houseWith('manager', 'operator');
beforeAll(async () => {
  elsewhere = await app.signIn('manager', await app.another(false));
});
const under = (key: string) => ({ 'idempotency-key': key });
const countOf = async (table: string): Promise<number> =>
  (await app.pool.query<{ n: number }>(`select count(*)::int as n from ${table}`)).rows[0].n;

const closure = () => ({
  dynoId: app.ids.dyno,
  start: '2026-12-01T00:00:00Z',
  end: '2026-12-02T00:00:00Z',
  reason: 'roller bearings',
});
const entry = () => ({
  at: '2026-11-01T08:00:00Z',
  odometerKm: 10,
  change: { kind: 'fuel', text: '98 RON' },
  note: 'tank emptied first',
});

/** What creates, with the table that counts it. */
const CREATING: readonly (readonly [string, string, () => object, string])[] = [
  ['a test', '/tests', () => app.plan(), 'tests'],
  ['a closure', '/schedule/closures', closure, 'closures'],
  ['a ledger entry', '/vehicles/:vehicle/ledger', entry, 'vehicle_ledger'],
  [
    'a calibration',
    '/calibrations',
    () => ({ name: 'flash', revision: '1', fileHash: 'c'.repeat(64) }),
    'calibrations',
  ],
  [
    'a vehicle',
    '/vehicles',
    () => ({ fitmentId: app.ids.fitment, tag: `car ${randomUUID()}`, odometerKm: 5, wheels: '' }),
    'vehicles',
  ],
  ['a revision', '/parts/:part/revisions', () => ({ revision: randomUUID().slice(0, 6) }), 'part_revisions'],
];

describe('sent twice under one key', () => {
  it.each(CREATING)('%s is made once, and both hear the same', async (_what, path, make, table) => {
    const at = path.replace(/:(\w+)/g, (_all, name: string) => app.ids[name]);
    const [before, body, key] = [await countOf(table), make(), randomUUID()];
    const answers = await Promise.all(
      [manager, elsewhere, manager, elsewhere].map((ask) => ask('POST', at, body, under(key))),
    );
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => answers[0].status));
    expect(answers[0].status).toBeLessThan(300);
    for (const { body: said } of answers) expect(said).toEqual(answers[0].body);
    expect(await countOf(table)).toBe(before + 1);
    // Long after, when the answer never came.
    const again = await manager('POST', at, body, under(key));
    expect(again).toMatchObject({ status: answers[0].status, body: answers[0].body });
    expect(again.headers.get('idempotency-replayed')).toBe('true');
    expect(await countOf(table)).toBe(before + 1);
  });
  it('is done again under another key, by another person, or without one', async () => {
    const before = await countOf('tests');
    const key = randomUUID();
    await manager('POST', '/tests', app.plan(), under(key));
    await manager('POST', '/tests', app.plan(), under(randomUUID()));
    await manager('POST', '/tests', app.plan());
    expect((await operator('POST', '/tests', app.plan(), under(key))).status).toBe(403);
    expect(await countOf('tests')).toBe(before + 3);
  });
  it('something else is refused', async () => {
    const key = randomUUID();
    await manager('POST', '/tests', app.plan(), under(key));
    for (const [path, body] of [
      ['/tests', app.plan({ question: 'Another question?' })],
      ['/schedule/closures', closure()],
    ] as const)
      expect(await manager('POST', path, body, under(key))).toMatchObject({
        status: 422,
        body: { error: { code: 'KEY_USED_FOR_OTHER' } },
      });
  });
  it('a refusal is not kept: put right, it is done', async () => {
    const key = randomUUID();
    const body = entry();
    const { rows } = await app.pool.query<{ odometer_km: number }>(
      'select odometer_km from vehicles where id = $1',
      [app.ids.vehicle],
    );
    const low = { ...body, odometerKm: rows[0].odometer_km - 1 };
    const path = `/vehicles/${app.ids.vehicle}/ledger`;
    const refused = await manager('POST', path, { ...low, change: { kind: 'painted' } }, under(key));
    expect(refused.status).toBe(400);
    expect((await manager('POST', path, body, under(key))).status).toBeLessThan(300);
  });
  it('a key longer than any is refused', async () =>
    expect((await manager('POST', '/tests', app.plan(), under('k'.repeat(101)))).status).toBe(400));
});

describe('an answer that was lost with its server', () => {
  it('is told as done, and nothing is done again', async () => {
    const [key, body] = [randomUUID(), app.plan()];
    await manager('POST', '/tests', body, under(key));
    const kept = async () =>
      (
        await app.pool.query<{ status: number | null }>('select status from kept_requests where key = $1', [
          key,
        ])
      ).rows[0].status;
    await expect.poll(kept, { timeout: 20_000 }).toBe(201);
    // As the server leaves it that dies between the change and its answer.
    await app.pool.query('update kept_requests set status = null, answer = null where key = $1', [key]);
    const before = await countOf('tests');
    expect(await manager('POST', '/tests', body, under(key))).toMatchObject({
      status: 409,
      body: { error: { code: 'DONE_ALREADY' } },
    });
    expect(await countOf('tests')).toBe(before);
  });
  it('what is days old is dropped', async () => {
    await app.pool.query("update kept_requests set at = at - interval '3 days'");
    await manager('POST', '/tests', app.plan(), under('fresh'));
    await createDeeds(app.needs).dropOld();
    const { rows } = await app.pool.query('select key from kept_requests');
    expect(rows).toEqual([{ key: 'fresh' }]);
  });
});

describe('a new password', () => {
  it('takes the present one, ends the person’s other sessions, and stands in the trail', async () => {
    const [here, there, other] = await Promise.all([
      app.signIn('second'),
      app.signIn('second'),
      app.signIn('reviewer'),
    ]);
    const change = (present: string, next: string) => here('PUT', '/session/password', { present, next });
    expect(await change('a wrong one', 'a long new password')).toMatchObject({
      status: 403,
      body: { error: { code: 'WRONG_PASSWORD' } },
    });
    expect((await change('right password', 'short')).status).toBe(400);
    expect((await change('right password', 'right password')).status).toBe(400);
    expect((await change('right password', 'a long new password')).status).toBe(204);
    expect((await here('GET', '/tests')).status).toBe(200);
    expect((await there('GET', '/tests')).status).toBe(401);
    expect((await other('GET', '/tests')).status).toBe(200);
    const signIn = (password: string) =>
      app.nobody('POST', '/session', { email: 'second@house.example', password });
    expect((await signIn('right password')).status).toBe(401);
    expect((await signIn('a long new password')).status).toBe(200);
    const { rows } = await app.pool.query<{ action: string }>(
      'select action from audit_entries where person_id = $1',
      [app.ids.second],
    );
    expect(rows.map(({ action }) => action)).toContain('password changed');
  });
});

describe('the demo', () => {
  it('answers under the names it knows, so that no other site’s name leads to it', async () => {
    const demo = await startApp({ demo: true, hosts: ['bench.house.example'] });
    try {
      const { hostname, port } = new URL(demo.base);
      const asked = async (host: string): Promise<number> => {
        const { request } = await import('node:http');
        return new Promise((resolve, reject) => {
          request({ hostname, port, path: '/api/session', headers: { host } }, (answer) => {
            answer.resume();
            resolve(answer.statusCode!);
          })
            .on('error', reject)
            .end();
        });
      };
      for (const host of ['127.0.0.1:80', 'localhost', '[::1]:4780', 'BENCH.house.example:443'])
        expect([host, await asked(host)]).toEqual([host, 200]);
      for (const host of ['evil.example', '127.0.0.1.evil.example', '10.0.0.1'])
        expect([host, await asked(host)]).toEqual([host, 421]);
    } finally {
      await demo.stop();
    }
  });
});
