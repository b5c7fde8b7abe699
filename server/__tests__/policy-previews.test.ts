/** A policy is held against every public claim before it is in force, and nothing is changed by that. */
import { expect, it } from 'vitest';
import type { PolicyPreview } from '../../contract/base/policy-preview.ts';
import type { ClaimDetail, ClaimPage } from '../../contract/publish/claim.ts';
import type { Today } from '../../contract/publish/today.ts';
import { DEFAULT_POLICY } from '../../core/base/policy.ts';
import { HELD_BEFORE } from '../publish/policy-previews.ts';
import { houseWith } from './house.ts';
import { madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');
const REASON = 'Tried out before the season begins.';
const tried = async (change: object): Promise<PolicyPreview> => {
  const policy = { ...DEFAULT_POLICY, version: 'house-try', ...change };
  const asked = await manager<{ id: string }>('POST', '/policy-previews', { policy, reason: REASON });
  expect(asked.status).toBe(201);
  const shown = async () => (await manager<PolicyPreview>('GET', `/policy-previews/${asked.body.id}`)).body;
  await expect.poll(async () => (await shown()).state, { timeout: 60_000 }).toBe('done');
  return shown();
};

const enterFirst = async (): Promise<void> => {
  const policy = { ...DEFAULT_POLICY, version: 'house-first' };
  expect((await manager('POST', '/policies', { policy, reason: REASON })).status).toBe(201);
};

it('says which claims would change and how, keeps what was tried, and changes nothing', async () => {
  // The policy the house begins with is written down at its start.
  await enterFirst();
  const ids = [
    await measuredTest(app, { manager, operator }, madeSession(850)),
    await measuredTest(app, { manager, operator }, madeSession(851)),
  ];
  const unclaimed = await measuredTest(app, { manager, operator }, madeSession(852));
  await manager('GET', `/tests/${unclaimed}/analysis`);
  const [claim] = [
    await publish({ manager, reviewer }, ids[0]),
    await publish({ manager, reviewer }, ids[1]),
  ];
  const state = async () => (await manager<ClaimDetail>('GET', `/claims/${claim.id}`)).body.claim.state;

  expect(await tried({})).toMatchObject({ total: 2, done: 2, change: 0, claims: [], reason: REASON });
  const strict = await tried({ scatter: { ...DEFAULT_POLICY.scatter, mostPct: 0.01 } });
  expect(strict).toMatchObject({ total: 2, done: 2, change: 2, policy: { scatter: { mostPct: 0.01 } } });
  expect(strict.claims.map((c) => c.id)).toContain(claim.id);
  expect(strict.claims[0].instead).toBe('a gate fails: repeatability');
  const { id } = (await manager<ClaimDetail>('GET', `/claims/${claim.id}`)).body.claim;
  app.clock.now += 70 * 86_400_000;
  expect((await tried({ claimAgeMonths: 1 })).claims.find((c) => c.id === id)?.instead).toContain(
    'it is older than 1 month,',
  );
  app.clock.now -= 70 * 86_400_000;
  // None of it has touched the claim, and no analysis was kept.
  expect(await state()).toBe('published');
  const { rows } = await app.pool.query<{ n: number }>(
    'select max(number)::int as n from analyses where test_id = $1',
    [ids[0]],
  );
  expect(rows[0].n).toBe(1);
  await expect(app.pool.query('update policy_preview_claims set holds = true')).rejects.toThrow(
    /written once/,
  );
  expect(
    (await reviewer('POST', '/policy-previews', { policy: DEFAULT_POLICY, reason: REASON })).status,
  ).toBe(403);
  // Put in force as it was tried, what holds is never in question for it; what was touched meanwhile is evaluated.
  const held = { ...DEFAULT_POLICY, version: 'house-held' };
  const asked = await manager<{ id: string }>('POST', '/policy-previews', { policy: held, reason: REASON });
  const triedState = async () =>
    (await manager<PolicyPreview>('GET', `/policy-previews/${asked.body.id}`)).body.state;
  await expect.poll(triedState, { timeout: 60_000 }).toBe('done');
  const [, other] = (await manager<ClaimPage>('GET', '/claims?state=published')).body.items
    .map((c) => c.id)
    .sort((a, b) => Number(b === claim.id) - Number(a === claim.id));
  await app.pool.query(
    `insert into change_answers (claim_id, kind, subject_id, version, reason, at)
      values ($1, 'ledger', $2, 1, 'Something was answered meanwhile.', $3)`,
    [other, app.ids.vehicle, new Date(app.clock.now)],
  );
  expect((await manager('POST', '/policies', { policy: held, reason: REASON })).status).toBe(201);
  const answersOf = async (id: string) =>
    (await manager<ClaimDetail>('GET', `/claims/${id}`)).body.answers.map((a) => a.reason);
  expect(await answersOf(claim.id)).toContain(HELD_BEFORE);
  expect(await state()).toBe('published');
  await expect
    .poll(async () => (await answersOf(other)).at(-1), { timeout: 60_000 })
    .toContain('Evaluated again');
  expect(await answersOf(other)).not.toContain(HELD_BEFORE);
  // Put in force it does what was said.
  const policy = {
    ...DEFAULT_POLICY,
    version: 'house-strict',
    scatter: { ...DEFAULT_POLICY.scatter, mostPct: 0.01 },
  };
  expect((await manager('POST', '/policies', { policy, reason: REASON })).status).toBe(201);
  await expect.poll(state, { timeout: 60_000 }).toBe('stale');
  // A test that nobody claims from is computed again as well, without being opened.
  const uncounted = async () =>
    (
      await app.pool.query<{ n: number }>(
        `select count(*)::int as n from tests t where current_analysis_id is null
          and exists (select from analyses a where a.test_id = t.id)`,
      )
    ).rows[0].n;
  await expect.poll(uncounted, { timeout: 60_000 }).toBe(0);
  const stale = async () =>
    (await manager<Today>('GET', '/today')).body.groups.find((g) => g.group === 'claims gone stale')!.total;
  await expect.poll(stale, { timeout: 60_000 }).toBe(2);
});

it('stops when it is told to, and stays as far as it came', async () => {
  const id = '00000000-0000-4000-8000-00000000a11e';
  await app.pool.query(
    `insert into policy_previews (id, policy, reason, total, state, asked_by, asked_at)
      values ($1, $2, 'A reason for it.', 9, 'running', $3, now())`,
    [id, JSON.stringify(DEFAULT_POLICY), app.ids.manager],
  );
  expect((await manager('POST', `/policy-previews/${id}/cancel`)).status).toBe(204);
  expect((await manager<PolicyPreview>('GET', `/policy-previews/${id}`)).body).toMatchObject({
    state: 'cancelled',
    done: 0,
    total: 9,
  });
  expect((await manager('GET', `/policy-previews/${app.ids.part}`)).status).toBe(404);
});

it('answers are looked up change by change: one policy over a full house is one answer for every claim', async () => {
  // Joined, every claim's change would meet every claim's answer to the same policy.
  const { rows } = await app.pool.query<Record<string, string>>(
    "explain (costs off) select count(*) from claims_shown where state = 'in question'",
  );
  const plan = rows.map((row) => Object.values(row)[0]).join('\n');
  expect(plan).toContain('on change_answers');
  expect(plan).not.toContain('Anti Join');
});
