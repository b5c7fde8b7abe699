/** Addresses of the web application: those it has, and the rest. */
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PAGES } from '../../contract/base/pages.ts';
import { startApp, type TestApp } from './app.ts';

const root = mkdtempSync(join(tmpdir(), 'web-'));
let app: TestApp;
beforeAll(async () => {
  mkdirSync(join(root, 'assets'));
  writeFileSync(join(root, 'index.html'), '<title>page</title>');
  writeFileSync(join(root, 'assets/a-1.js'), '1');
  app = await startApp({ webRoot: root });
});
afterAll(async () => {
  await app.stop();
  rmSync(root, { recursive: true });
});
const get = (path: string) => fetch(app.base.replace(/\/api$/, path));

describe('the web application', () => {
  it('answers at every address it has', async () => {
    for (const page of PAGES) {
      const answer = await get(page.replace(/:\w+/g, 'some-id'));
      expect([page, answer.status, await answer.text()]).toEqual([page, 200, '<title>page</title>']);
    }
  });
  it.each([
    '/nowhere',
    '/tests/1/nothing',
    '/catalogue/a/b',
    '/register/secrets',
    '/admin.php',
    '/%00',
    '/..%2f..',
  ])('answers %s as not found, with the page that says so', async (path) =>
    expect((await get(path)).status).toBe(404),
  );
  it('lets its files be kept for a year, and never the page', async () => {
    expect((await get('/assets/a-1.js')).headers.get('cache-control')).toBe(
      'public, max-age=31536000, immutable',
    );
    expect((await get('/assets/gone-2.js')).status).toBe(404);
    expect((await get('/')).headers.get('cache-control')).toBe('no-cache');
  });
  it('has every address of its router in the list', () => {
    const router = readFileSync('web/main.tsx', 'utf8');
    const absolute = [...router.matchAll(/path: '(\/[^']*)'/g)].map(([, path]) => path);
    const inRegister = [...router.matchAll(/path: '((?!\/)[^*'][^']*)'/g)].map(([, path]) => path);
    expect(absolute.length).toBeGreaterThan(10);
    for (const path of absolute) expect(PAGES).toContain(path);
    for (const path of inRegister)
      expect([`/register/${path}`, `/tests/:testId/${path}`].some((at) => PAGES.includes(at as never))).toBe(
        true,
      );
  });
});
