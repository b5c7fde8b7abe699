import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ROLES, type Role } from '../../contract/base/roles.ts';
import { startApp, type Ask, type TestApp } from './app.ts';

let app: TestApp;
const as = new Map<Role, Ask>();
beforeAll(async () => {
  app = await startApp();
  for (const [key, role] of [
    ['manager', 'test manager'],
    ['operator', 'operator'],
    ['reviewer', 'reviewer'],
    ['editor', 'catalogue editor'],
    ['partner', 'partner shop'],
  ] as const)
    as.set(role, await app.signIn(key));
});
afterAll(async () => {
  await app.stop();
});
const address = (path: string): string =>
  path
    .replace(/:(testId|pullId|claimId|fitmentId|vehicleId|partId|dynoId|sensorId|closureId)/g, () =>
      randomUUID(),
    )
    .replace(/:\w+/g, 'nothing');
/** What every person may read without signing in; a route added to this list is a decision. */
const PUBLIC = [
  'get /health',
  'get /session',
  'post /session',
  'delete /session',
  'get /catalogue',
  'get /corrections',
  'get /catalogue/:slug',
  'get /evidence/:code',
  'get /evidence/:code/page',
  'get /evidence/:code/test.json',
  'get /evidence/:code/pulls/:label/file',
  'get /evidence/:code/controls/:sha256',
  'get /evidence/:code/pulls/:label/log',
];

describe('every route says who may use it, and means it', () => {
  it('the public ones are these and no others', () =>
    expect(app.routes.filter((r) => r.access === 'public').map((r) => `${r.method} ${r.path}`)).toEqual(
      PUBLIC,
    ));
  it('signed out: 401 on all the rest', async () => {
    const closed = app.routes.filter((r) => r.access !== 'public');
    expect(closed.length).toBeGreaterThan(12);
    for (const route of closed)
      expect(
        (await app.nobody(route.method.toUpperCase(), address(route.path))).status,
        `${route.method} ${route.path}`,
      ).toBe(401);
  });
  it('in the wrong role: 403; in the right one: anything but 401 and 403', async () => {
    for (const route of app.routes) {
      if (route.access === 'public') continue;
      for (const role of ROLES) {
        const { status } = await as.get(role)!(
          route.method.toUpperCase(),
          address(route.path),
          route.method === 'get' ? undefined : {},
        );
        if (route.access.includes(role))
          expect([401, 403], `${role}: ${route.method} ${route.path}`).not.toContain(status);
        else expect(status, `${role}: ${route.method} ${route.path}`).toBe(403);
      }
    }
  });
  it('an address that is none answers 404 with words', async () =>
    expect(await app.nobody('GET', '/nothing/here')).toMatchObject({
      status: 404,
      body: { error: { code: 'NOT_FOUND' } },
    }));
});

describe('sign-in', () => {
  it('refuses a wrong password and an unknown address alike', async () => {
    for (const email of ['manager@house.example', 'nobody@house.example'])
      expect(await app.nobody('POST', '/session', { email, password: 'wrong' })).toMatchObject({
        status: 401,
        body: { error: { code: 'WRONG_SIGN_IN' } },
      });
  });
  it('keeps argon2id hashes and nothing else', async () => {
    const { rows } = await app.pool.query<{ password_hash: string }>('select password_hash from people');
    for (const row of rows) expect(row.password_hash).toMatch(/^\$argon2id\$/);
  });
  it('sets a cookie that scripts and other sites cannot use', async () => {
    const { headers } = await app.nobody('POST', '/session', {
      email: 'manager@house.example',
      password: 'right password',
    });
    expect(headers.get('set-cookie')).toMatch(/HttpOnly.*SameSite=Strict/);
  });
  it('ends with sign-out', async () => {
    const ask = await app.signIn('editor');
    expect((await ask('GET', '/tests')).status).toBe(200);
    await ask('DELETE', '/session');
    expect((await ask('GET', '/tests')).status).toBe(401);
  });
  it('refuses a change that comes from another site', async () =>
    expect(
      await as.get('test manager')!('POST', '/tests', {}, { origin: 'https://elsewhere.example' }),
    ).toMatchObject({ status: 403, body: { error: { code: 'OTHER_SITE' } } }));
  it('has no sample people outside demo mode', async () => {
    expect((await app.nobody('GET', '/demo/people')).status).toBe(404);
  });
  it('limits the tries', async () => {
    const strict = await startApp({ signInTries: 3 });
    try {
      const statuses: number[] = [];
      for (let i = 0; i < 5; i++)
        statuses.push(
          (await strict.nobody('POST', '/session', { email: 'manager@house.example', password: 'wrong' }))
            .status,
        );
      expect(statuses).toEqual([401, 401, 401, 429, 429]);
    } finally {
      await strict.stop();
    }
  });
  it('counts tries at every server alike, by person and place; others’ wrong ones shut out nobody', async () => {
    const strict = await startApp({ signInTries: 3, trustProxy: 1 });
    const at = (base: string) => async (key: string, password: string, address: string) =>
      (
        await fetch(`${base}/session`, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'x-forwarded-for': address },
          body: JSON.stringify({ email: `${key}@house.example`, password }),
        })
      ).status;
    try {
      const [here, there] = [at(strict.base), at(await strict.another(false))];
      expect(await here('operator', 'right password', '10.0.0.1')).toBe(200);
      for (const ask of [here, there, here]) expect(await ask('manager', 'wrong', '10.0.0.1')).toBe(401);
      // Right or wrong makes no difference from there, at no server; elsewhere its owner comes in.
      for (const ask of [here, there]) expect(await ask('manager', 'right password', '10.0.0.1')).toBe(429);
      expect(await there('manager', 'right password', '10.0.0.2')).toBe(200);
      // A place from which very many are tried: only who came in from there before still may.
      for (let i = 0; i < 12; i++) await here(`nobody-${i}`, 'wrong', '10.0.0.1');
      expect(await here('editor', 'right password', '10.0.0.1')).toBe(429);
      expect(await here('operator', 'right password', '10.0.0.1')).toBe(200);
      // A quarter of an hour later it is over.
      strict.clock.now += 16 * 60_000;
      expect(await here('manager', 'right password', '10.0.0.1')).toBe(200);
      const { rows } = await strict.pool.query<{ action: string; n: number }>(
        "select action, count(*)::int as n from audit_entries where action like 'sign%' group by 1 order by 1",
      );
      expect(rows).toEqual([
        { action: 'sign-in refused', n: 15 },
        { action: 'signed in', n: 4 },
      ]);
    } finally {
      await strict.stop();
    }
  });
  it('a sign-out stands in the trail', async () => {
    const ask = await app.signIn('editor');
    await ask('DELETE', '/session');
    const { rows } = await app.pool.query(
      "select 1 from audit_entries where action = 'signed out' and person_id = $1",
      [app.ids.editor],
    );
    expect(rows.length).toBeGreaterThan(0);
  });
  it('the cookie is secure behind a proxy that speaks HTTPS to the reader', async () => {
    const behind = await startApp({ secureCookie: true, trustProxy: 1 });
    try {
      const answer = await behind.nobody(
        'POST',
        '/session',
        { email: 'manager@house.example', password: 'right password' },
        { 'x-forwarded-proto': 'https' },
      );
      expect(answer.headers.get('set-cookie')).toMatch(/; Secure/);
      // Over plain HTTP there is none to steal.
      const plain = await behind.nobody('POST', '/session', {
        email: 'manager@house.example',
        password: 'right password',
      });
      expect(plain.headers.get('set-cookie')).toBeNull();
    } finally {
      await behind.stop();
    }
  });
});

it('answers carry the usual protections', async () => {
  const { headers } = await app.nobody('GET', '/health');
  expect(headers.get('content-security-policy')).toMatch(/default-src 'self'/);
  expect(headers.get('x-content-type-options')).toBe('nosniff');
  expect(headers.get('x-powered-by')).toBeNull();
});
