/** A published number that no longer stands stays to be read, with why it fell and what is said instead. */
import { expect, it } from 'vitest';
import type { Evidence } from '../../contract/publish/claim.ts';
import type { Corrections } from '../../contract/publish/corrections.ts';
import { houseWith } from './house.ts';
import { detailOf, draft, madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');
const METRICS = { plan: { metrics: ['bandAverage', 'upTo'] } };
const corrections = async (query = ''): Promise<Corrections> =>
  (await app.nobody<Corrections>('GET', `/corrections${query}`)).body;

it('lists what fell, why, and what replaced it; what stands or was never public is not in it', async () => {
  expect(await corrections()).toEqual({ items: [], next: null, total: 0 });
  const first = await measuredTest(app, { manager, operator }, madeSession(870), METRICS);
  const wrong = await publish({ manager, reviewer }, first, { metric: 'upTo', unit: 'kW' });
  const draftOnly = await draft(manager, first, { metric: 'bandAverage', unit: 'kW' });
  expect(draftOnly.status).toBe(201);
  expect((await corrections()).total).toBe(0);

  const unsaid = await manager('POST', `/claims/${wrong.id}/withdraw`, { reason: 'Read off wrongly.' });
  expect(unsaid.status).toBe(400);
  const said = { reason: 'The sensor was read in the wrong unit.', wrong: true };
  expect((await manager('POST', `/claims/${wrong.id}/withdraw`, said)).status).toBe(204);
  expect((await corrections()).items).toEqual([
    expect.objectContaining({
      code: wrong.code,
      wording: wrong.wording,
      fellBy: 'wrong',
      reason: said.reason,
      instead: null,
    }),
  ]);

  // The same part says something again: that is what is read instead, here and beside the old evidence.
  const right = await publish({ manager, reviewer }, first, { metric: 'upTo', unit: 'hp' });
  const instead = { code: right.code, wording: right.wording };
  expect((await corrections()).items[0].instead).toMatchObject(instead);
  const evidence = (await app.nobody<Evidence>('GET', `/evidence/${wrong.code}`)).body;
  expect(evidence.instead).toMatchObject(instead);
  expect((await app.nobody<Evidence>('GET', `/evidence/${right.code}`)).body.instead ?? null).toBeNull();

  // Another part on the same car replaces nothing.
  const other = await measuredTest(app, { manager, operator }, madeSession(871), METRICS);
  const lost = await publish({ manager, reviewer }, other, { metric: 'upTo', unit: 'kW' });
  expect((await corrections()).items[0].instead).toMatchObject(instead);
  const [pull] = (await detailOf(manager, other)).pulls.filter((p) => p.counted);
  await operator('POST', `/tests/${other}/pulls/${pull.id}/exclusion`, { reason: 'wheel slip' });
  const now = await corrections();
  expect(now.items.map((c) => [c.code, c.fellBy, c.instead?.code ?? null])).toEqual([
    [lost.code, 'evidence', null],
    [wrong.code, 'wrong', right.code],
  ]);

  // Found by why, by words (a percent sign is one), and page by page.
  expect((await corrections('?fellBy=wrong')).items.map((c) => c.code)).toEqual([wrong.code]);
  expect((await corrections('?q=%25')).total).toBe(0);
  expect((await corrections(`?q=${encodeURIComponent(now.items[0].subject)}`)).items[0].code).toBe(lost.code);
  const page = await corrections('?limit=1');
  expect([page.items[0].code, page.total]).toEqual([lost.code, 2]);
  expect((await corrections(`?limit=1&after=${page.next}`)).items.map((c) => c.code)).toEqual([wrong.code]);

  // A stale claim that is found wrong later says so; it has not stood since it fell first.
  const { fellAt } = now.items[0];
  app.clock.now += 86_400_000;
  await manager('POST', `/claims/${lost.id}/withdraw`, {
    reason: 'The part was mounted askew.',
    wrong: true,
  });
  expect((await corrections()).items[0]).toMatchObject({ code: lost.code, fellBy: 'wrong', fellAt });
});

it('why and when a claim fell is kept by the database', async () => {
  await expect(app.pool.query("update claims set fell_by = 'age' where fell_by = 'wrong'")).rejects.toThrow(
    /is kept/,
  );
  await expect(app.pool.query('update claims set fell_at = null where fell_at is not null')).rejects.toThrow(
    /is kept/,
  );
  await expect(
    app.pool.query("update claims set state = 'withdrawn' where state = 'published'"),
  ).rejects.toThrow(/fell_by_something/);
});
