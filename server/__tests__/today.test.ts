/** The page of the day: what waits for whom, counted as it is listed. */
import { expect, it } from 'vitest';
import { TODAY_OF, type Today, type TodayGroup } from '../../contract/publish/today.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { draft, madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, reviewer, editor, partner } = houseWith(
  'manager',
  'operator',
  'reviewer',
  'editor',
  'partner',
);
const of = async (ask: Ask, all = ''): Promise<Today['groups']> =>
  (await ask<Today>('GET', `/today${all && `?all=${encodeURIComponent(all)}`}`)).body.groups;
const group = async (ask: Ask, name: TodayGroup) => (await of(ask)).find((g) => g.group === name);

it('asks each role for its own, and nobody for what is not theirs', async () => {
  for (const [ask, role] of [
    [manager, 'test manager'],
    [operator, 'operator'],
    [reviewer, 'reviewer'],
    [editor, 'catalogue editor'],
    [partner, 'partner shop'],
  ] as const)
    expect((await of(ask)).map((g) => g.group)).toEqual(TODAY_OF[role]);
  expect((await app.nobody('GET', '/today')).status).toBe(401);
});

it('a test goes from plan to pulls to result to review, and each step waits where it is done', async () => {
  const { body } = await manager<{ id: string }>('POST', '/tests', app.plan());
  expect(await group(manager, 'plans to lock')).toMatchObject({
    total: 1,
    items: [{ to: `/tests/${body.id}/plan` }],
  });
  await manager('POST', `/tests/${body.id}/lock`);
  expect(await group(manager, 'plans to lock')).toMatchObject({ total: 0, items: [] });

  const half = await measuredTest(app, { manager, operator }, madeSession(860), { without: ['p9'] });
  expect(await group(operator, 'pulls to complete')).toMatchObject({
    total: 1,
    items: [{ to: `/tests/${half}/pulls` }],
  });
  const whole = await measuredTest(app, { manager, operator }, madeSession(861));
  expect((await group(manager, 'results to tell'))?.items.map((i) => i.to)).toEqual([
    `/tests/${whole}/claim`,
  ]);

  const claim = (await draft(manager, whole)).body;
  expect(await group(manager, 'claims of mine to go on with')).toMatchObject({
    total: 1,
    items: [{ detail: 'draft' }],
  });
  expect(await group(manager, 'results to tell')).toMatchObject({ total: 0 });
  await manager('POST', `/claims/${claim.id}/submit`);
  expect(await group(reviewer, 'claims to review')).toMatchObject({
    total: 1,
    items: [{ to: `/claims/${claim.id}` }],
  });
  await reviewer('POST', `/claims/${claim.id}/approve`);
  expect(await group(reviewer, 'claims to review')).toMatchObject({ total: 0 });
  expect(await group(editor, 'to take over into the shop')).toMatchObject({ total: 1 });

  await operator('POST', `/vehicles/${app.ids.vehicle}/ledger`, {
    at: '2026-11-08T08:00:00Z',
    change: { kind: 'service', item: 'coolant' },
    note: '',
  });
  expect(await group(reviewer, 'claims in question')).toMatchObject({ total: 1 });
});

it('shows a few at first and all on demand, with the same count', async () => {
  for (let k = 0; k < 8; k++) await manager('POST', '/tests', app.plan());
  const few = (await group(manager, 'plans to lock'))!;
  expect([few.total, few.items.length]).toEqual([8, 6]);
  const [all] = await of(manager, 'plans to lock');
  expect([all.total, all.items.length]).toEqual([8, 8]);
  const { rows } = await app.pool.query<{ n: number }>(
    `select count(*)::int as n from tests where locked_at is null`,
  );
  expect(rows[0].n).toBe(8);
});
