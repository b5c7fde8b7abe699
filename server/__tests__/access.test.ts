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
  'get /catalogue/:slug',
  'get /evidence/:code',
  'get /evidence/:code/test.json',
  'get /evidence/:code/pulls/:label/file',
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
});

it('answers carry the usual protections', async () => {
  const { headers } = await app.nobody('GET', '/health');
  expect(headers.get('content-security-policy')).toMatch(/default-src 'self'/);
  expect(headers.get('x-content-type-options')).toBe('nosniff');
  expect(headers.get('x-powered-by')).toBeNull();
});
