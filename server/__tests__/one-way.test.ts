/** What cannot be undone: two mountings an arm, a control vehicle around each, and what keeps it from a claim. */
import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import type { ClaimDetail, Evidence } from '../../contract/publish/claim.ts';
import type { ControlShown } from '../../contract/register/control.ts';
import { policyOf, readTestFile, type TestFile } from '../../contract/judge/test-file.ts';
import { analyseTest } from '../../core/judge/analyse-test.ts';
import { isRefused, type Contrast } from '../../core/compare/result.ts';
import { sha256Of } from '../base/sha256.ts';
import { dynos, partRevisions } from '../register/tables.ts';
import { houseWith } from './house.ts';
import { check, nameControl, recordedAt } from './made-control.ts';
import {
  analysisOf,
  attach,
  detailOf,
  draft,
  madeSession,
  publish,
  type MadeSession,
} from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');

const ORDER = ['stock', 'stock', 'part', 'part'];
/** Site times of the runs: the baseline in the morning, the part after noon. */
const RUNS = ['2026-11-09 08:0', '2026-11-09 09:0', '2026-11-09 13:0', '2026-11-09 14:0'];
const AROUND = ['2026-11-09 07:30', '2026-11-09 10:00', '2026-11-09 12:30', '2026-11-09 15:00'];

async function registered(): Promise<void> {
  await app.db
    .update(dynos)
    .set({ repeatability: { mount: { variance: 0.2, df: 10 }, day: { variance: 0.05, df: 8 } } })
    .where(eq(dynos.id, app.ids.dyno));
}
/** A part of its own whose install drills into the car. */
async function forGood(steps = 'The crank pulley is drilled.'): Promise<void> {
  await app.anotherPart();
  const id = randomUUID();
  await app.db
    .insert(partRevisions)
    .values({ id, partId: app.ids.part, revision: 'B', irreversibleSteps: steps });
  app.ids.revision = id;
}
const planOf = (controlId: string | null, change: Record<string, unknown> = {}) =>
  app.plan({ protocol: 'one-way', order: ORDER, remount: true, controlId, ...change });

async function measured(controlId: string, session: MadeSession): Promise<string> {
  // Locked before the first pull, and captured after the last.
  app.clock.now = Date.parse('2026-11-09T06:00:00Z');
  const made = await manager<{ id: string; error?: { message: string } }>(
    'POST',
    '/tests',
    planOf(controlId),
  );
  if (made.status !== 201) throw new Error(made.body.error?.message);
  const { id } = made.body;
  expect((await manager('POST', `/tests/${id}/lock`)).status).toBe(204);
  app.clock.now = Date.parse('2026-11-10T12:00:00Z');
  for (const pull of (await detailOf(manager, id)).pulls.filter((p) => p.counted)) {
    const n = Number(pull.label.slice(1)) - 1;
    const at = `${RUNS[Math.floor(n / 3)]}${n % 3}:00`;
    const sent = await attach(
      operator,
      id,
      pull.id,
      recordedAt(session.textOf(pull.label), at),
      `${pull.label}.csv`,
    );
    expect(sent.status).toBe(201);
    await operator('PUT', `/tests/${id}/pulls/${pull.id}/air`, session.airOf(pull.label));
  }
  return id;
}
const gaining = (seed: number): MadeSession =>
  madeSession(seed, 7, ORDER, { protocol: { order: ORDER, remount: true } });
const designOf = async (id: string) =>
  (await analysisOf(manager, id)).analysis!.result.findings.find((f) => f.gate === 'design')!;
const contrastOf = async (id: string): Promise<Contrast> => {
  const [contrast] = (await analysisOf(manager, id)).analysis!.result.contrasts;
  if (isRefused(contrast)) throw new Error(contrast.message);
  return contrast;
};

describe('a plan without return', () => {
  it('is for what cannot come off again, with a control vehicle of the dyno that is another car', async () => {
    await registered();
    const controlId = await nameControl(app, manager, 'control 1');
    await app.anotherPart();
    const code = async (plan: Record<string, unknown>): Promise<unknown> =>
      (await manager<{ error: { code: string } }>('POST', '/tests', plan)).body.error.code;
    expect(await code(planOf(controlId))).toBe('PART_CAN_COME_OFF');
    await forGood();
    expect(await code(planOf(null))).toBe('BAD_REQUEST');
    expect(await code(planOf(controlId, { remount: false }))).toBe('BAD_REQUEST');
    expect(await code(planOf(controlId, { order: ['stock', 'part', 'stock'] }))).toBe('BAD_REQUEST');
    expect(await code(planOf(controlId, { protocol: 'A-B-A', order: ['stock', 'part', 'stock'] }))).toBe(
      'BAD_REQUEST',
    );
    expect(await code(planOf(randomUUID()))).toBe('NOT_CONTROL_OF_DYNO');
    const { body } = await manager<{ id: string }>('POST', '/tests', planOf(controlId));
    // Below the service too.
    await expect(
      app.pool.query('update tests set control_id = null where id = $1', [body.id]),
    ).rejects.toThrow(/one_way_names_its_control/);
    await expect(
      app.pool.query(
        'update tests set vehicle_id = (select vehicle_id from control_vehicles where id = control_id) where id = $1',
        [body.id],
      ),
    ).rejects.toThrow(/another car/);
  });

  it('may be claimed once the control vehicle was measured around both arms, and says so', async () => {
    const controlId = await nameControl(app, manager, 'control 2');
    await forGood();
    const id = await measured(controlId, gaining(900));
    expect(await designOf(id)).toMatchObject({ state: 'fail', code: 'ONE_WAY_NOT_HELD' });
    expect((await draft(manager, id)).status).toBe(409);
    for (const [i, when] of AROUND.slice(0, 3).entries())
      expect((await check(operator, controlId, { seed: 950 + i, when })).status).toBe(201);
    const missing = await designOf(id);
    expect(missing.message).toContain('control 2 was not measured after the part');
    expect(missing.message).not.toContain('before');
    const last = await check(operator, controlId, { seed: 953, when: AROUND[3] });
    expect(await designOf(id)).toMatchObject({ state: 'caution', code: 'ONE_WAY_HELD' });
    const { budget } = await contrastOf(id);
    expect(budget.map((b) => b.source)).toEqual(expect.arrayContaining(['repeatability', 'mount']));
    const claim = await publish({ manager, reviewer }, id);
    expect(claim.grade).toBe('single');
    expect(claim.disclosures.join(' ')).toMatch(
      /No return to baseline.*control 2, measured before and after each arm, moved by/,
    );

    // What is public gives the same limits again.
    const shown = await contrastOf(id);
    const { body } = await app.nobody<TestFile>('GET', `/evidence/${claim.code}/test.json`);
    const bytes = new Map<string, Uint8Array>();
    for (const { id: label, file } of body.pulls)
      if (file)
        bytes.set(file, (await app.nobody('GET', `/evidence/${claim.code}/pulls/${label}/file`)).bytes);
    const again = analyseTest(readTestFile(body), (file) => bytes.get(file), { policy: policyOf(body) });
    expect((again.result.contrasts[0] as Contrast).relative).toEqual(shown.relative);

    // The files of the control vehicle are public with it, and no other file is by this way.
    const { controls } = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
    expect(controls!.map((c) => new Date(c.at).toISOString())).toEqual(
      body.oneWay!.checks.map((c) => new Date(c.at).toISOString()),
    );
    for (const { sha256 } of controls!.flatMap((c) => c.files)) {
      const sent = await app.nobody('GET', `/evidence/${claim.code}/controls/${sha256}`);
      expect(await sha256Of(Buffer.from(sent.bytes))).toBe(sha256);
    }
    const { rows: others } = await app.pool.query<{ sha256: string }>(
      'select sha256 from pull_files limit 1',
    );
    for (const other of [others[0].sha256, 'x'])
      expect((await app.nobody('GET', `/evidence/${claim.code}/controls/${other}`)).status).toBe(404);

    // The check that was at fault takes the claim along.
    const struck = await manager('POST', `/control-checks/${last.body.id}/strike`, {
      reason: 'The control car had slipping tyres.',
    });
    expect(struck.status).toBe(204);
    expect((await manager<ClaimDetail>('GET', `/claims/${claim.id}`)).body.claim.state).toBe('stale');
  });

  it('fails where the control vehicle moved, or somebody worked on it between', async () => {
    const controlId = await nameControl(app, manager, 'control 3');
    await forGood();
    const id = await measured(controlId, gaining(901));
    for (const [i, when] of AROUND.entries())
      await check(operator, controlId, { seed: 960 + i, when, off: i < 2 ? 0 : 4 });
    const moved = await designOf(id);
    expect(moved).toMatchObject({ state: 'fail', code: 'ONE_WAY_CONTROL_MOVED' });
    expect(moved.message).toMatch(/moved by \+[34]/);

    const other = await nameControl(app, manager, 'control 4');
    await forGood();
    const next = await measured(other, gaining(902));
    for (const [i, when] of AROUND.entries()) await check(operator, other, { seed: 970 + i, when });
    expect(await designOf(next)).toMatchObject({ code: 'ONE_WAY_HELD' });
    const { rows } = await app.pool.query<{ vehicle_id: string }>(
      'select vehicle_id from control_vehicles where id = $1',
      [other],
    );
    const entry = await operator('POST', `/vehicles/${rows[0].vehicle_id}/ledger`, {
      at: '2026-11-09T11:00:00Z',
      odometerKm: null,
      change: { kind: 'service', item: 'air filter' },
      note: '',
    });
    expect(entry.status).toBe(204);
    expect((await designOf(next)).message).toContain('something was done on control 4 between its checks');
  });

  it('carries the days of its arms where they differ', async () => {
    const controlId = await nameControl(app, manager, 'control 5');
    await forGood();
    const one = await measured(controlId, gaining(903));
    for (const [i, when] of AROUND.entries()) await check(operator, controlId, { seed: 980 + i, when });
    const same = await contrastOf(one);
    expect(same.budget.some((b) => b.source === 'day')).toBe(false);
    const [former2, former3] = [RUNS[2], RUNS[3]];
    [RUNS[2], RUNS[3]] = ['2026-11-10 06:0', '2026-11-10 07:0'];
    try {
      await forGood();
      const two = await measured(controlId, gaining(904));
      for (const [i, when] of ['2026-11-10 05:30', '2026-11-10 08:00'].entries())
        await check(operator, controlId, { seed: 990 + i, when });
      const apart = await contrastOf(two);
      expect(apart.budget.find((b) => b.source === 'day')!.variance).toBeCloseTo(2 * 0.05, 9);
    } finally {
      [RUNS[2], RUNS[3]] = [former2, former3];
    }
  });
});

describe('a control vehicle', () => {
  const shownOf = async (id: string) =>
    (await manager<ControlShown>('GET', `/dynos/${app.ids.dyno}/control`)).body.vehicles.find(
      (v) => v.id === id,
    )!;

  it('takes each file once, and what the files say of their time', async () => {
    const controlId = await nameControl(app, manager, 'control 6');
    const session = madeSession(700, 0);
    const first = await check(operator, controlId, { seed: 0, when: '2026-11-08 08:30', session });
    expect(first.status).toBe(201);
    expect((await shownOf(controlId)).checks[0]).toMatchObject({
      at: '2026-11-08T08:30:00.000Z',
      timed: 'file',
      enteredBy: 'operator',
    });
    const again = await check(operator, controlId, { seed: 0, when: '2026-11-08 08:30', session });
    expect(again.body.error?.code).toBe('FILE_USED_TWICE');
    const future = await check(operator, controlId, { seed: 701, when: '2027-01-08 08:30' });
    expect(future.body.error?.code).toBe('CHECK_IN_THE_FUTURE');
    expect((await shownOf(controlId)).checks).toHaveLength(1);
    const raw = await manager('GET', `/control-checks/${first.body.id}/files/1`);
    expect(raw.bytes.toString()).toContain('# Recorded at: 2026-11-08 08:30:00');
    for (const table of ['control_checks', 'control_check_pulls', 'control_vehicles'])
      await expect(app.pool.query(`delete from ${table}`)).rejects.toThrow();
  });

  it('out of its limits keeps the sessions around it from a claim, and brings back what is crossed out', async () => {
    const controlId = await nameControl(app, manager, 'control 7');
    for (let i = 0; i < 20; i++)
      await check(operator, controlId, {
        seed: 800 + i,
        when: `2026-10-${String(i + 1).padStart(2, '0')} 08:30`,
      });
    expect(await shownOf(controlId)).toMatchObject({ missing: 0 });
    const { measuredTest } = await import('./made-session.ts');
    const id = await measuredTest(app, { manager, operator }, madeSession(710));
    const claim = await publish({ manager, reviewer }, id);
    // A check as it belongs asks nobody about what is in review.
    const inReview = await draft(manager, id, { metric: 'upTo', unit: '%' });
    await manager('POST', `/claims/${inReview.body.id}/submit`);
    await check(operator, controlId, { seed: 829, when: '2026-11-10 08:30' });
    const { openChanges, claim: waiting } = (await manager<ClaimDetail>('GET', `/claims/${inReview.body.id}`))
      .body;
    expect([waiting.state, openChanges]).toEqual(['in review', []]);
    app.clock.now = Date.parse('2026-11-12T12:00:00Z');
    const bad = await check(operator, controlId, { seed: 830, when: '2026-11-12 08:30', off: 8 });
    expect((await shownOf(controlId)).checks.at(-1)!.chart).toMatchObject({ alarm: true });
    const state = async () => (await manager<ClaimDetail>('GET', `/claims/${claim.id}`)).body.claim.state;
    expect(await state()).toBe('stale');
    const found = (await analysisOf(manager, id)).analysis!.result.findings;
    expect(found.find((f) => f.code === 'CONTROL_OUT_OF_LIMITS')).toMatchObject({
      gate: 'control vehicle',
      state: 'fail',
    });
    await manager('POST', `/control-checks/${bad.body.id}/strike`, { reason: 'Driven in the wrong gear.' });
    const after = (await analysisOf(manager, id)).analysis!.result.findings;
    expect(after.some((f) => f.code === 'CONTROL_OUT_OF_LIMITS')).toBe(false);
    // Crossing it out is told to whoever reviews the claim, with the reason.
    expect(after.find((f) => f.code === 'CONTROL_SET_ASIDE')).toMatchObject({
      state: 'caution',
      message: expect.stringContaining(
        'control 7, check of 2026-11-12 crossed out: Driven in the wrong gear',
      ) as string,
    });
  });
});
