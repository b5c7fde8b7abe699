import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TrailEntry, TrailPage } from '../../contract/publish/trail.ts';
import { startApp, type Ask, type TestApp } from './app.ts';

let app: TestApp, manager: Ask;
beforeAll(async () => {
  app = await startApp();
  manager = await app.signIn('manager');
  for (let i = 0; i < 7; i++) await manager('POST', '/tests', app.plan());
  await manager('POST', `/parts/${app.ids.part}/revisions`, { revision: 'B' });
});
afterAll(async () => {
  await app.stop();
});
const page = async (query: string): Promise<TrailPage> =>
  (await manager<TrailPage>('GET', `/audit?${query}`)).body;

describe('the audit trail', () => {
  it('is read in pages, newest first, each entry once, whatever is added meanwhile', async () => {
    const seen: TrailEntry[] = [];
    const { total } = await page('limit=3');
    for (let after = ''; ;) {
      const { items, next } = await page(`limit=3${after}`);
      seen.push(...items);
      await manager('POST', '/tests', app.plan());
      if (!next) break;
      after = `&after=${next}`;
    }
    const ids = seen.map(({ id }) => id);
    expect(ids).toEqual([...new Set(ids)].sort((a, b) => b - a));
    expect(ids).toHaveLength(total);
  });
  it('is narrowed by who, what and kind', async () => {
    expect((await page('kind=test')).items.map((e) => e.action)).toContain('created test');
    expect(new Set((await page('kind=part')).items.map((e) => e.kind))).toEqual(new Set(['part']));
    const signedIn = await page('q=signed%20in');
    expect(signedIn.items.map((e) => e.action)).toEqual(['signed in']);
    expect(await page('q=nobody%25')).toMatchObject({ items: [], total: 0, next: null });
    expect((await page('q=MANAGER')).total).toBeGreaterThan(8);
  });
  it('names records and leads to them', async () => {
    const [revised] = (await page('kind=part')).items;
    expect(revised).toMatchObject({
      about: 'Part',
      href: `/register/parts/${app.ids.part}`,
      person: 'manager',
    });
    const [created] = (await page('q=created%20test')).items;
    expect(created.about).toMatch(/^test \d+$/);
    expect(created.href).toBe(`/tests/${created.subjectId}`);
  });
  it('is for those who oversee, and refuses a cursor that is none', async () => {
    for (const who of ['operator', 'editor', 'partner'])
      expect((await (await app.signIn(who))('GET', '/audit')).status).toBe(403);
    expect((await manager('GET', '/audit?after=xx')).status).toBe(400);
    expect((await manager('GET', '/audit?kind=secret')).status).toBe(400);
  });
});
