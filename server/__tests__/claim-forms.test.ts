/** Policy on how claims are worded and what plans begin with: it reaches the draft, the claims before it and the database. */
import { expect, it } from 'vitest';
import type { TestDetail } from '../../contract/overview.ts';
import type { PolicyPreview } from '../../contract/base/policy-preview.ts';
import type { ClaimDetail, Evidence } from '../../contract/publish/claim.ts';
import { DEFAULT_POLICY, DEFAULT_RULES, type Policy } from '../../core/base/policy.ts';
import { CLAIM_STEP } from '../../core/base/rounding.ts';
import { HELD_BEFORE } from '../publish/policy-previews.ts';
import { houseWith } from './house.ts';
import { draft, madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, reviewer, operator } = houseWith('manager', 'operator', 'reviewer');
const REASON = 'The catalogue is to read like this from now on.';
const AVERAGE = { metric: 'bandAverage', unit: '%' } as const;
const MEANS = { claims: { ...DEFAULT_RULES, says: 'mean with range' as const } };

async function tried(change: Partial<Policy>): Promise<PolicyPreview> {
  const policy = { ...DEFAULT_POLICY, ...change };
  const asked = await manager<{ id: string }>('POST', '/policy-previews', { policy, reason: REASON });
  expect(asked.status).toBe(201);
  const shown = async () => (await manager<PolicyPreview>('GET', `/policy-previews/${asked.body.id}`)).body;
  await expect.poll(async () => (await shown()).state, { timeout: 60_000 }).toBe('done');
  return shown();
}
const enter = async (change: Partial<Policy>): Promise<void> => {
  const policy = { ...DEFAULT_POLICY, ...change };
  expect((await manager('POST', '/policies', { policy, reason: REASON })).status).toBe(201);
};
const measured = (seed: number) =>
  measuredTest(app, { manager, operator }, madeSession(seed), {
    plan: { metrics: ['bandAverage', 'upTo'] },
  });
const detail = async (id: string): Promise<ClaimDetail> =>
  (await manager<ClaimDetail>('GET', `/claims/${id}`)).body;

it('words new claims by the mean, leaves those that say less, and takes the means back', async () => {
  await enter({ version: 'house-first' });
  const [first, second] = [await measured(1710), await measured(1711)];
  const least = await publish({ manager, reviewer }, first, AVERAGE);
  expect(least).toMatchObject({
    says: 'lower limit',
    wording: expect.stringMatching(/^At least \+/) as string,
  });

  // Allowing means changes nothing that is said: each claim by its lower limit says less, and holds.
  const means = { version: 'house-means', ...MEANS };
  expect(await tried(means)).toMatchObject({ done: 1, change: 0, policy: MEANS });
  await enter(means);
  expect((await detail(least.id)).claim.state).toBe('published');
  expect((await detail(least.id)).answers.map((a) => a.reason)).toContain(HELD_BEFORE);

  const mean = await publish({ manager, reviewer }, second, AVERAGE);
  expect(mean).toMatchObject({
    says: 'mean with range',
    wording: expect.stringMatching(
      /^\+\d\.\d % \(95 % range \+\d\.\d to \+\d\.\d %\) on average from/,
    ) as string,
  });
  const { gain, lower } = mean.interval!;
  expect(mean.value).toBeLessThanOrEqual(gain);
  expect(mean.value).toBeGreaterThan(lower);
  const evidence = (await app.nobody<Evidence>('GET', `/evidence/${mean.code}`)).body;
  expect(evidence).toMatchObject({
    claim: { says: 'mean with range', value: mean.value },
    analysis: { policyVersion: 'house-means' },
  });
  // The same test in another unit, and “up to”, which is a limit whatever policy says.
  expect((await draft(manager, second, { metric: 'upTo', unit: 'kW' })).body).toMatchObject({
    says: 'lower limit',
    wording: expect.stringMatching(/^Up to \+/) as string,
  });

  const waiting = (await draft(manager, second, { metric: 'bandAverage', unit: 'kW' })).body;
  expect(waiting.says).toBe('mean with range');
  await manager('POST', `/claims/${waiting.id}/submit`);

  // Back to lower limits: the mean says too much and goes, the other stays; told before, and done.
  const least2 = { version: 'house-limits' };
  const back = await tried(least2);
  expect(back).toMatchObject({ done: 2, change: 1 });
  expect(back.claims).toEqual([expect.objectContaining({ id: mean.id })]);
  expect(back.claims[0].instead).toMatch(/^it would now read “At least \+/);
  await enter(least2);
  await expect.poll(async () => (await detail(mean.id)).claim.state, { timeout: 60_000 }).toBe('stale');
  expect((await detail(mean.id)).claim.staleReason).toContain('it would now read “At least +');
  expect((await detail(least.id)).claim.state).toBe('published');
  // Nor does a mean that was drafted before come out afterwards.
  expect(await reviewer('POST', `/claims/${waiting.id}/approve`)).toMatchObject({
    status: 409,
    body: { error: { code: 'ANALYSIS_SUPERSEDED' } },
  });

  // Coarser steps: a tenth of a per cent more than they allow is too much.
  const coarse = { claims: { ...DEFAULT_RULES, steps: { ...CLAIM_STEP, '%': 4 } } };
  const rounded = await tried({ version: 'house-coarse', ...coarse });
  expect(rounded).toMatchObject({ done: 1, change: 1 });
  expect(rounded.claims[0].instead).toMatch(/^it would now read “At least \+\d\.0 %/);
});

it('no claim is kept that says more than its interval, whoever writes it', async () => {
  const kept =
    'test_id, analysis_id, fitment_id, part_revision_id, arm, subject, subject_kind, tells, unit, interval, wording, ' +
    'conditions, disclosures, grade, author_id, drafted_at';
  const copy = (value: string, says: string) =>
    app.pool.query(
      `insert into claims (id, code, state, metric, value, says, ${kept})
        select gen_random_uuid(), 'copy' || random(), 'draft', 'peakToPeak', ${value}, $1, ${kept}
        from claims where metric = 'bandAverage' and state = 'stale' limit 1`,
      [says],
    );
  await expect(copy(`(interval ->> 'gain')::float8`, 'lower limit')).rejects.toThrow(/claim_says_at_most/);
  await expect(copy(`(interval ->> 'upper')::float8`, 'mean with range')).rejects.toThrow(
    /claim_says_at_most/,
  );
  await expect(copy('value', 'whatever it is')).rejects.toThrow(/claim_form_known|claim_says_at_most/);
  expect((await copy(`(interval ->> 'lower')::float8`, 'lower limit')).rowCount).toBe(1);
  await expect(app.pool.query(`update claims set says = 'mean with range'`)).rejects.toThrow(
    /keeps its number and wording/,
  );
});

it('plans begin with the standard of policy, and keep it whatever policy says later', async () => {
  const { standard: _, ...unsaid } = app.plan({}) as Record<string, unknown>;
  const standardOf = async (plan: object): Promise<unknown> => {
    await app.anotherPart(false);
    const made = await manager<{ id: string }>('POST', '/tests', { ...app.plan({}), ...unsaid, ...plan });
    expect(made.status).toBe(201);
    return (await manager<TestDetail>('GET', `/tests/${made.body.id}`)).body.plan.standard;
  };
  const { body } = await manager<{ id: string }>('POST', '/tests', { ...unsaid, standard: undefined });
  const before = async () => (await manager<TestDetail>('GET', `/tests/${body.id}`)).body.plan.standard;
  expect(await before()).toBe('sae-j1349');
  await enter({ version: 'house-iso', standard: 'iso-1585' });
  expect(await standardOf({ standard: undefined })).toBe('iso-1585');
  expect(await standardOf({ standard: 'din-70020' })).toBe('din-70020');
  expect(await before()).toBe('sae-j1349');
});

it('refuses steps that nobody could read or that say nothing', async () => {
  for (const step of [0, 0.05, 0.25, 11, -1]) {
    const policy = {
      ...DEFAULT_POLICY,
      version: `house-${step}`,
      claims: { ...DEFAULT_RULES, steps: { ...CLAIM_STEP, kW: step } },
    };
    expect((await manager('POST', '/policies', { policy, reason: REASON })).status).toBe(400);
  }
});
