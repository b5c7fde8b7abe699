import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Chosen } from '../../contract/base/choices.ts';
import type { Found, TestPage } from '../../contract/overview.ts';
import type { CataloguePage, ClaimPage } from '../../contract/publish/claim.ts';
import type { Shelf } from '../../contract/publish/shelf.ts';
import type { Part, PartDetail, Vehicle } from '../../contract/register/register.ts';
import { tests } from '../plan/tables.ts';
import { fitments } from '../register/tables.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { detailOf, draft, madeSession, measuredTest, publish } from './made-session.ts';

interface Refused {
  error: { code: string; message: string; details?: { wouldFit?: string } };
}
const { app, manager, operator, reviewer, editor, partner } = houseWith(
  'manager',
  'operator',
  'reviewer',
  'editor',
  'partner',
);
beforeAll(async () => {
  await app.db.update(fitments).set({ foundBy: ' made up 100 kw ' });
});

const plan = async (change: Record<string, unknown> = {}): Promise<string> =>
  (await manager<{ id: string }>('POST', '/tests', app.plan(change))).body.id;

describe('what a person has chosen', () => {
  const units = { power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi', keys: 'off' };
  it('is kept with the account, and is nobody else’s', async () => {
    expect((await manager<Chosen>('GET', '/session/choices')).body).toEqual({});
    expect((await manager('PUT', '/session/choices/units', { value: units })).status).toBe(200);
    // Another device of the same person.
    const elsewhere = await app.signIn('manager');
    expect((await elsewhere<Chosen>('GET', '/session/choices')).body).toEqual({ units });
    expect((await operator<Chosen>('GET', '/session/choices')).body).toEqual({});
    const view = { list: 'tests', name: 'mine', search: 'q=tern' };
    expect((await manager<Chosen>('PUT', '/session/choices/views', { value: [view] })).body).toEqual({
      units,
      views: [view],
    });
  });
  it.each([
    ['units', { ...units, power: 'stone' }],
    ['units', { power: 'hp' }],
    ['views', [{ list: 'people', name: 'x', search: '' }]],
    ['views', Array.from({ length: 61 }, (_, i) => ({ list: 'tests', name: `v${i}`, search: '' }))],
    ['seenOnShelf', -1],
  ])('refuses %s that are none', async (name, value) => {
    expect((await partner('PUT', `/session/choices/${name}`, { value })).status).toBe(400);
    expect((await partner<Chosen>('GET', '/session/choices')).body).toEqual({});
  });
  it('there is no other choice, and none for nobody', async () => {
    expect((await manager('PUT', '/session/choices/role', { value: 'reviewer' })).status).toBe(404);
    expect((await app.nobody('GET', '/session/choices')).status).toBe(401);
  });
});

describe('a plan two people have open', () => {
  it('is not changed or locked by who has read another', async () => {
    const id = await plan();
    const read = (await detailOf(manager, id)).summary.updatedAt;
    const elsewhere = await app.signIn('manager');
    const asked = (question: string, basedOn?: string) => ({ ...app.plan({ question }), basedOn });
    expect((await elsewhere('PUT', `/tests/${id}/plan`, asked('A better question?', read))).status).toBe(204);
    const late = await manager<Refused>('PUT', `/tests/${id}/plan`, asked('My question?', read));
    expect([late.status, late.body.error.code]).toEqual([409, 'PLAN_CHANGED']);
    const lock = await manager<Refused>('POST', `/tests/${id}/lock`, { basedOn: read });
    expect([lock.status, lock.body.error.code]).toEqual([409, 'PLAN_CHANGED']);
    const now = await detailOf(manager, id);
    expect([now.question, now.plan.lockedAt]).toEqual(['A better question?', null]);
    expect((await manager('POST', `/tests/${id}/lock`, { basedOn: now.summary.updatedAt })).status).toBe(204);
  });
  it('is assigned as long as it is not locked, to a partner shop or the house alone', async () => {
    const id = await plan();
    const assign = (partnerId: string | null) =>
      manager<Refused>('PUT', `/tests/${id}/partner`, { partnerId });
    expect((await assign(app.ids.partner)).status).toBe(204);
    expect((await partner<TestPage>('GET', '/tests')).body.items.map((t) => t.id)).toEqual([id]);
    expect((await assign(app.ids.operator)).status).toBeGreaterThanOrEqual(400);
    expect((await assign(null)).status).toBe(204);
    expect((await partner<TestPage>('GET', '/tests')).body.items).toEqual([]);
    await manager('POST', `/tests/${id}/lock`);
    expect((await assign(app.ids.partner)).body.error.code).toBe('PLAN_LOCKED');
    expect((await operator('PUT', `/tests/${id}/partner`, { partnerId: null })).status).toBe(403);
  });
});

describe('the next free place', () => {
  it('is never in the past, begins on a quarter of an hour, and is told where another was refused', async () => {
    const id = await plan();
    const free = async (from: string): Promise<string> =>
      (await operator<{ start: string }>('GET', `/schedule/free/${id}?from=${from}`)).body.start;
    const first = await free('2020-01-01T00:00:00Z');
    expect(Date.parse(first)).toBeGreaterThanOrEqual(app.clock.now);
    expect(Date.parse(first) % (15 * 60_000)).toBe(0);
    const place = (testId: string, start: string) =>
      operator<Refused>('POST', '/schedule/bookings', {
        placements: [{ testId, dynoId: app.ids.dyno, start }],
      });
    // A Sunday.
    const closed = await place(id, '2026-11-15T09:00:00Z');
    expect([closed.status, closed.body.error.code]).toEqual([409, 'OUTSIDE_OPENING']);
    const fits = closed.body.error.details!.wouldFit!;
    expect(fits >= '2026-11-16').toBe(true);
    expect((await place(id, fits)).status).toBe(204);
    // Taken now: the next test is shown another place, which then is free.
    const other = await plan();
    const taken = await place(other, fits);
    expect(taken.status).toBe(409);
    expect((await place(other, taken.body.error.details!.wouldFit!)).status).toBe(204);
  });
  it('there is none for a car that is not there', async () => {
    const { body: car } = await operator<Vehicle>('POST', '/vehicles', {
      fitmentId: app.ids.fitment,
      tag: 'gone',
      odometerKm: 1,
      owner: 'house',
      wheels: '205/55 R16',
      finalDrive: null,
      gears: [],
      availableFrom: '2020-01-01',
      availableTo: '2020-02-01',
      note: '',
    });
    const id = await plan({ vehicleId: car.id });
    const { body } = await operator<{ start: null }>('GET', `/schedule/free/${id}?from=2026-11-10T09:00:00Z`);
    expect(body).toEqual({ start: null });
  });
});

it('a new part is listed for its fitments at once, or not at all', async () => {
  const part = { sku: 'P-77', maker: 'Made', name: 'Listed part', category: 'intake' };
  const ask = (sku: string, fitmentIds: string[]) =>
    manager<Part>('POST', '/parts', { part: { ...part, sku }, revision: { revision: 'A' }, fitmentIds });
  const { body } = await ask('P-77', [app.ids.fitment]);
  const detail = (await manager<PartDetail>('GET', `/parts/${body.id}`)).body;
  expect(detail.fitments.map((f) => f.id)).toEqual([app.ids.fitment]);
  expect((await ask('P-78', [app.ids.fitment, randomUUID()])).status).toBe(404);
  expect((await manager<Found>('GET', '/find?q=P-78')).body.parts).toEqual([]);
});

describe('the lists in every order', () => {
  const walked = async <T extends { items: { id: string }[]; next: string | null }>(
    path: string,
  ): Promise<string[]> => {
    const ids: string[] = [];
    for (let after = ''; ;) {
      const { body } = await manager<T>(
        'GET',
        `${path}&limit=2${after && `&after=${encodeURIComponent(after)}`}`,
      );
      ids.push(...body.items.map((i) => i.id));
      if (body.next === null) return ids;
      after = body.next;
    }
  };
  it('pages hold each row once, in that order', async () => {
    await measuredTest(app, { manager, operator }, madeSession(801));
    await measuredTest(app, { manager, operator }, madeSession(802, 4));
    await plan();
    const all = (await manager<TestPage>('GET', '/tests?limit=200')).body.items;
    expect(all.filter((t) => t.upToKw !== null)).toHaveLength(2);
    const by = {
      newest: [...all].sort((a, b) => b.number - a.number),
      oldest: [...all].sort((a, b) => a.number - b.number),
      changed: [...all].sort((a, b) => (a.updatedAt < b.updatedAt ? 1 : -1)),
      gain: [...all].sort(
        (a, b) => (b.upToKw ?? -Infinity) - (a.upToKw ?? -Infinity) || b.number - a.number || 0,
      ),
    };
    for (const [sort, wanted] of Object.entries(by))
      expect(await walked(`/tests?sort=${sort}`), sort).toEqual(wanted.map((t) => t.id));
    expect((await walked('/tests?sort=fitment')).sort()).toEqual(all.map((t) => t.id).sort());
    expect((await manager('GET', '/tests?sort=luck')).status).toBe(400);
  });
});

describe('what the catalogue editor takes over', () => {
  const shelf = async (ask = editor): Promise<Shelf> => (await ask<Shelf>('GET', '/shelf')).body;
  it('stands there once published, is marked once, and comes back when it goes stale', async () => {
    const id = await measuredTest(app, { manager, operator }, madeSession(810));
    expect((await shelf()).open).toEqual([]);
    const waiting = (await draft(manager, id)).body;
    await manager('POST', `/claims/${waiting.id}/submit`);
    expect((await shelf()).open, 'nothing before it is published').toEqual([]);
    await reviewer('POST', `/claims/${waiting.id}/approve`);
    const [published] = (await shelf()).open;
    expect(published).toMatchObject({ what: 'published', inQuestion: false, claim: { code: waiting.code } });
    const mark = (ask: Ask, eventId: number) => ask<Refused>('POST', `/shelf/${eventId}/taken-over`);
    expect((await mark(manager, published.eventId)).status, 'not hers').toBe(403);
    expect((await mark(editor, published.eventId)).status).toBe(204);
    expect((await mark(editor, published.eventId)).status, 'twice is once').toBe(204);
    expect(await shelf()).toMatchObject({ open: [], done: [{ takenOver: { by: 'editor' } }] });
    // Something under it changes: what stands on the shelf is told to be in question.
    await app.pool.query(
      "insert into input_changes (kind, subject_id, version, at, what) values ('plan', $1, 99, now(), 'the plan was amended')",
      [id],
    );
    expect((await shelf()).done).toMatchObject([{ inQuestion: true, claim: { state: 'in question' } }]);
    // A pull is left out afterwards: the claim goes stale, and the shop has to know.
    const { pulls } = await detailOf(manager, id);
    await operator('POST', `/tests/${id}/pulls/${pulls.find((p) => p.counted)!.id}/exclusion`, {
      reason: 'wheel slip',
      note: 'seen on the film',
    });
    const [stale] = (await shelf()).open;
    expect(stale).toMatchObject({ what: 'stale', claim: { code: waiting.code, state: 'stale' } });
    expect(stale.claim.staleReason).toContain('excluded');
    expect((await mark(editor, published.eventId)).body.error.code).toBe('MOVED_ON');
    expect((await partner('GET', '/shelf')).status).toBe(403);
    expect((await editor('POST', '/shelf/999999/taken-over')).status).toBe(404);
  });
  it('the mark is never changed or taken back', async () => {
    for (const deed of ['update taken_over set at = now()', 'delete from taken_over', 'truncate taken_over'])
      await expect(app.pool.query(deed)).rejects.toThrow();
  });
  it('the register of claims and the catalogue are sorted by what was published last', async () => {
    const made = [];
    for (const seed of [820, 821]) {
      const id = await measuredTest(app, { manager, operator }, madeSession(seed));
      made.push((await publish({ manager, reviewer }, id)).id);
    }
    const { items } = (await manager<ClaimPage>('GET', '/claims?sort=published')).body;
    expect(items.slice(0, 2).map((c) => c.id)).toEqual([...made].reverse());
    const { body } = await app.nobody<CataloguePage>('GET', '/catalogue?sort=newest');
    expect(body.items.map((f) => f.slug)).toEqual(['made-up-one']);
  });
});

it('the finder knows dynos and calibrations, and a number before all', async () => {
  const newest = await app.db
    .select({ number: tests.number, id: tests.id })
    .from(tests)
    .where(eq(tests.number, 1));
  const { body } = await manager<Found>('GET', '/find?q=1');
  expect(body.tests[0].id).toBe(newest[0].id);
  expect((await manager<Found>('GET', '/find?q=cell')).body.dynos).toMatchObject([{ name: 'Cell' }]);
  await manager('POST', '/calibrations', {
    name: '100% touring',
    revision: '4',
    fileHash: 'a'.repeat(64),
    fileName: 'x.bin',
    fitmentId: null,
    fuel: null,
    ethanolPct: null,
    expectsPartRevisionIds: [],
    note: '',
  });
  expect((await manager<Found>('GET', '/find?q=touring')).body.calibrations).toHaveLength(1);
  // What a search pattern would take for anything is a letter here.
  expect((await manager<Found>('GET', '/find?q=zz%25')).body.calibrations).toEqual([]);
  expect((await partner<Found>('GET', '/find?q=cell')).body.dynos).toEqual([]);
});
