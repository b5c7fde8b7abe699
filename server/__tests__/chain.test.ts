import { createHash } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { ScenarioSchema } from '../../bench/capture/scenario.ts';
import { simulateSession } from '../../bench/judge/simulate.ts';
import { readTestFile } from '../../contract/judge/test-file.ts';
import type { AnalysisState } from '../../contract/judge/analysis.ts';
import type { Found, TestDetail, TestPage } from '../../contract/overview.ts';
import type { CatalogueFitment, Claim, ClaimDetail, Evidence } from '../../contract/publish/claim.ts';
import { analyseTest, isRefused } from '../../core/judge/analyse-test.ts';
import { claimRounded } from '../../core/base/rounding.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';

const session = simulateSession(
  ScenarioSchema.parse({
    format: 'evidentia-scenario/1',
    seed: 31,
    title: 'chain',
    engine: 'na4',
    band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
    noise: { level: 0.4, slow: 0.2, quick: 0.2 },
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part', effect: [{ kind: 'bump', percent: 7, centreRpm: 5600, widthRpm: 2400 }] },
    ],
    protocol: { order: ['stock', 'part', 'stock'] },
  }),
);
const bytesOf = (label: string): Uint8Array =>
  new TextEncoder().encode(session.files.find((f) => f.path === `pulls/${label}.csv`)!.text);
const airOf = (label: string) => {
  const air = session.test.pulls.find((p) => p.id === label)!.air!;
  return { temperatureC: air.temperatureC, pressureHpa: air.pressureHpa, humidityValue: air.humidityPct! };
};

const { app, manager, operator, reviewer, second, partner } = houseWith(
  'manager',
  'operator',
  'reviewer',
  'second',
  'partner',
);

const detail = async (id: string): Promise<TestDetail> =>
  (await manager<TestDetail>('GET', `/tests/${id}`)).body;
const create = async (change = {}): Promise<string> =>
  (await manager<{ id: string }>('POST', '/tests', app.plan(change))).body.id;
const stored = async (): Promise<number[]> =>
  Promise.all(
    ['raw_files', 'pull_files', 'audit_entries'].map(async (t) =>
      Number((await app.pool.query<{ n: string }>(`select count(*) n from ${t}`)).rows[0].n),
    ),
  );
async function capture(id: string): Promise<void> {
  for (const pull of (await detail(id)).pulls.filter((p) => p.counted)) {
    expect(
      (
        await operator(
          'POST',
          `/tests/${id}/pulls/${pull.id}/file?name=${pull.label}.csv`,
          bytesOf(pull.label),
        )
      ).status,
    ).toBe(201);
    expect((await operator('PUT', `/tests/${id}/pulls/${pull.id}/air`, airOf(pull.label))).status).toBe(204);
  }
}

describe('bad files leave nothing behind', () => {
  let id: string, url: string;
  beforeAll(async () => {
    id = await create();
    url = `/tests/${id}/pulls/${(await detail(id)).pulls.find((p) => p.label === 'p1')!.id}/file?name=bad.csv`;
  });
  const text = (s: string): Uint8Array => new TextEncoder().encode(s);
  const good = (): string => new TextDecoder().decode(bytesOf('p1'));
  it.each<[string, () => Uint8Array, number, string]>([
    ['wrong type', () => new Uint8Array([0x50, 0x4b, 3, 4, 5, 6, 7, 8]), 422, 'NOT_TEXT'],
    ['empty', () => new Uint8Array(0), 422, 'EMPTY_FILE'],
    ['no engine speed', () => text(good().replace('Engine speed (rpm)', 'Mystery')), 422, 'NO_ENGINE_SPEED'],
    [
      'no torque nor power',
      () => text(good().replace('Torque (N·m)', 'Mystery')),
      422,
      'NO_TORQUE_NOR_POWER',
    ],
    [
      'text in numbers',
      () => text(good().replace(/^((?:[^,\n]*,){3})[\d.]+/gm, '$1high')),
      422,
      'TEXT_IN_NUMBERS',
    ],
    ['truncated', () => text(good().slice(0, good().lastIndexOf(',') + 3)), 422, 'TRUNCATED_FILE'],
    ['60 MB', () => new Uint8Array(60 * 1024 * 1024).fill(49), 413, 'FILE_TOO_LARGE'],
  ])('%s', async (_what, bytes, status, code) => {
    const before = await stored();
    const answer = await operator<{ error: { code: string; message: string } }>('POST', url, bytes());
    expect(answer).toMatchObject({ status, body: { error: { code } } });
    expect(answer.body.error.message).toMatch(/^bad\.csv/);
    expect(await stored()).toEqual(before);
  });
  it('an answer to “which column?” is kept for this dyno and layout', async () => {
    const unclear = (label: string): Uint8Array =>
      text(new TextDecoder().decode(bytesOf(label)).replace('Torque (N·m)', 'Torque'));
    expect(await operator('POST', url, unclear('p1'))).toMatchObject({
      status: 422,
      body: { error: { code: 'UNIT_UNKNOWN' } },
    });
    expect(
      (
        await operator(
          'POST',
          `${url}&columns=${encodeURIComponent(JSON.stringify({ torque: { column: 'Torque', unit: 'N·m' } }))}`,
          unclear('p1'),
        )
      ).status,
    ).toBe(201);
    const next = (await detail(id)).pulls.find((p) => p.label === 'p2')!;
    const send = (ask: Ask, name: string) =>
      ask<{ findings: { code: string; message: string }[] }>(
        'POST',
        `/tests/${id}/pulls/${next.id}/file?name=${name}`,
        unclear('p2'),
      );
    // One shop's answer is not applied to another's files unseen: its people are asked themselves.
    await app.pool.query('update tests set partner_id = $1 where id = $2', [app.ids.partner, id]);
    expect(await send(await app.signIn('partner'), 'p2.csv')).toMatchObject({
      status: 422,
      body: { error: { code: 'UNIT_UNKNOWN' } },
    });
    await app.pool.query('update tests set partner_id = null where id = $1', [id]);
    const answer = await send(operator, 'p2.csv');
    expect(answer.status).toBe(201);
    expect(answer.body.findings[0]).toMatchObject({
      code: 'COLUMNS_REMEMBERED',
      message: expect.stringMatching(/as .+ said of bad\.csv on 2026-11-\d\d: check them/) as string,
    });
  });
  it('air that cannot be right is refused and not kept', async () => {
    const pull = (await detail(id)).pulls.find((p) => p.label === 'p1')!;
    expect(
      await operator('PUT', `/tests/${id}/pulls/${pull.id}/air`, {
        temperatureC: 20,
        pressureHpa: 29.9,
        humidityValue: 40,
      }),
    ).toMatchObject({ status: 422, body: { error: { code: 'AIR_OUT_OF_RANGE' } } });
    expect((await detail(id)).pulls.find((p) => p.label === 'p1')!.air).toBeNull();
  });
});

describe('from a plan to a published claim and back', () => {
  let id: string, claim: Claim, published: Evidence;
  it('locks the plan, which then cannot change, not even in the database', async () => {
    id = await create();
    expect((await manager('POST', `/tests/${id}/lock`)).status).toBe(204);
    expect((await manager('POST', `/tests/${id}/lock`)).status).toBe(409);
    expect((await detail(id)).plan.hash).toMatch(/^[0-9a-f]{64}$/);
    await expect(
      app.pool.query('update tests set metric = $1 where id = $2', ['bandAverage', id]),
    ).rejects.toThrow(/locked/);
    await expect(app.pool.query('update pulls set counted = true where test_id = $1', [id])).rejects.toThrow(
      /locked/,
    );
    await expect(app.pool.query('delete from pulls where test_id = $1', [id])).rejects.toThrow(/locked/);
  });
  it('says what the analysis waits for', async () =>
    expect((await manager<AnalysisState>('GET', `/tests/${id}/analysis`)).body.waitsFor).toEqual([
      expect.stringContaining('the files of p1, p2'),
      expect.stringContaining('the air readings of p1'),
    ]));
  it('captures nine pulls and analyses them as the core does', async () => {
    await capture(id);
    const { body } = await manager<AnalysisState>('GET', `/tests/${id}/analysis`);
    expect(body.analysis!.result).toMatchObject({ verdict: 'claim', grade: 'single' });
    const own = analyseTest({ ...readTestFile(session.test) }, (f) => bytesOf(/p\d/.exec(f)![0])).result
      .contrasts[0];
    const served = body.analysis!.result.contrasts[0];
    if (isRefused(own) || isRefused(served)) throw new Error('refused');
    expect(served.power.upTo).toEqual(own.power.upTo);
  });
  it('finds the same bytes a second time', async () => {
    const other = await create();
    const pull = (await detail(other)).pulls.find((p) => p.label === 'p1')!;
    expect(
      await operator('POST', `/tests/${other}/pulls/${pull.id}/file?name=again.csv`, bytesOf('p1')),
    ).toMatchObject({
      status: 409,
      body: {
        error: {
          code: 'SAME_FILE_TWICE',
          message: expect.stringContaining('again.csv: these bytes stand for pull p1 of test') as string,
        },
      },
    });
  });
  it('asks only once: the same inputs keep their analysis', async () => {
    const [a, b] = [
      await manager<AnalysisState>('GET', `/tests/${id}/analysis`),
      await reviewer<AnalysisState>('GET', `/tests/${id}/analysis`),
    ];
    expect(a.body.analysis!.id).toBe(b.body.analysis!.id);
  });
  it('drafts the planned metric only, with a number nobody typed', async () => {
    const { analysis } = (await manager<AnalysisState>('GET', `/tests/${id}/analysis`)).body;
    expect(
      await manager('POST', `/tests/${id}/claims`, {
        analysisId: analysis!.id,
        metric: 'bandAverage',
        unit: '%',
      }),
    ).toMatchObject({ status: 409, body: { error: { code: 'METRIC_NOT_PLANNED' } } });
    claim = (
      await reviewer<Claim>('POST', `/tests/${id}/claims`, {
        analysisId: analysis!.id,
        metric: 'upTo',
        unit: 'kW',
      })
    ).body;
    const contrast = analysis!.result.contrasts[0];
    if (isRefused(contrast)) throw new Error('refused');
    expect(claim).toMatchObject({ value: claimRounded(contrast.power.upTo.gain, 'kW'), state: 'draft' });
    await expect(
      app.pool.query('update claims set value = value + 1 where id = $1', [claim.id]),
    ).rejects.toThrow(/keeps its number/);
  });
  it('who drafted cannot approve: in the service and in the database', async () => {
    expect((await second('POST', `/claims/${claim.id}/submit`)).status).toBe(403);
    expect((await reviewer('POST', `/claims/${claim.id}/submit`)).status).toBe(204);
    expect(await reviewer('POST', `/claims/${claim.id}/approve`)).toMatchObject({
      status: 403,
      body: { error: { message: expect.stringContaining('cannot approve') as string } },
    });
    await expect(
      app.pool.query('update claims set reviewer_id = author_id where id = $1', [claim.id]),
    ).rejects.toThrow(/author_does_not_approve/);
    expect((await app.nobody('GET', `/evidence/${claim.code}`)).status).toBe(404);
  });
  it('the database takes no step that the application does not have, and no publisher who does not review', async () => {
    for (const state of ['draft', 'stale', 'withdrawn'])
      await expect(
        app.pool.query('update claims set state = $2 where id = $1', [claim.id, state]),
        state,
      ).rejects.toThrow(/cannot go from in review/);
    for (const person of [app.ids.operator, app.ids.manager, null])
      await expect(
        app.pool.query(
          "update claims set state = 'published', reviewer_id = $2, snapshot = '{}' where id = $1",
          [claim.id, person],
        ),
      ).rejects.toThrow(/published by nobody who reviews/);
  });
  it('goes back with a reason and comes again', async () => {
    expect((await second('POST', `/claims/${claim.id}/return`, { reason: 'Tell the fuel.' })).status).toBe(
      204,
    );
    expect((await reviewer('POST', `/claims/${claim.id}/submit`)).status).toBe(204);
    expect((await second('POST', `/claims/${claim.id}/approve`)).status).toBe(204);
    const { body } = await manager<ClaimDetail>('GET', `/claims/${claim.id}`);
    expect(body.history.map((h) => `${h.from}→${h.to} ${h.person}`)).toEqual([
      'null→draft reviewer',
      'draft→in review reviewer',
      'in review→returned second',
      'returned→in review reviewer',
      'in review→published second',
    ]);
  });
  it('is in the public catalogue with its conditions, and leads back to the raw bytes', async () => {
    const fitment = (await app.nobody<CatalogueFitment>('GET', '/catalogue/made-up-one')).body;
    expect(fitment.claims).toMatchObject([
      {
        code: claim.code,
        value: claim.value,
        conditions: expect.arrayContaining([expect.stringContaining('SAE J1349')]) as string[],
      },
    ]);
    expect(JSON.stringify(fitment)).not.toContain('@house.example');
    published = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
    const counted = published.pulls.filter((p) => p.counted);
    expect(counted).toHaveLength(9);
    for (const { air } of counted)
      expect(air, 'decimals alike').toMatch(/^\d+\.\d °C, \d+\.\d hPa, \d+ % RH$/);
    for (const pull of counted) {
      const file = await app.nobody('GET', `/evidence/${claim.code}/pulls/${pull.label}/file`);
      expect(file.bytes.equals(Buffer.from(bytesOf(pull.label)))).toBe(true);
      expect(createHash('sha256').update(file.bytes).digest('hex')).toBe(pull.file!.sha256);
      expect(file.headers.get('content-disposition')).toMatch(/attachment/);
    }
  });
  it('its test file and raw files compute to the same number outside', async () => {
    const outside = analyseTest(
      readTestFile((await app.nobody('GET', `/evidence/${claim.code}/test.json`)).body),
      (f) => bytesOf(/p\d/.exec(f)![0]),
    ).result.contrasts[0];
    if (isRefused(outside)) throw new Error('refused');
    expect(claimRounded(outside.power.upTo.gain, 'kW')).toBe(claim.value);
  });
  it('goes stale when a pull under it is excluded, and says why', async () => {
    const pull = (await detail(id)).pulls.find((p) => p.label === 'p5')!;
    expect(
      (await operator('POST', `/tests/${id}/pulls/${pull.id}/exclusion`, { reason: 'wheel slip' })).status,
    ).toBe(204);
    const fitment = (await app.nobody<CatalogueFitment>('GET', '/catalogue/made-up-one')).body;
    expect(fitment.claims).toEqual([]);
    expect(fitment.former).toMatchObject([
      {
        code: claim.code,
        state: 'stale',
        staleReason: 'Since publication pull p5 was excluded (wheel slip).',
      },
    ]);
    expect((await detail(id)).pulls.find((p) => p.label === 'p5')!.excluded).toMatchObject({
      seenResult: true,
      by: 'operator',
    });
  });
  it('the page of the evidence asks for what it draws, to the same numbers', async () => {
    const drawn = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}/page`)).body;
    const whole = (await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body;
    const relative = (e: Evidence) =>
      (e.result as { contrasts: { relative: { upTo: object; curve: Record<string, number>[] } }[] })
        .contrasts[0].relative;
    expect({ ...drawn, result: whole.result }).toEqual(whole);
    expect(relative(drawn).upTo).toEqual(relative(whole).upTo);
    expect(relative(drawn).curve).toHaveLength(relative(whole).curve.length);
    relative(drawn).curve.forEach((p, i) => {
      for (const [name, value] of Object.entries(p))
        expect(value).toBeCloseTo(relative(whole).curve[i][name], 4);
    });
    expect(JSON.stringify(drawn).length).toBeLessThan(JSON.stringify(whole).length / 2);
  });
  it('the evidence of then stays what it was', async () =>
    expect((await app.nobody<Evidence>('GET', `/evidence/${claim.code}`)).body).toMatchObject({
      analysis: published.analysis,
      pulls: published.pulls,
    }));
  it('is withdrawn with a reason and stays visible as withdrawn', async () => {
    expect(
      (
        await manager('POST', `/claims/${claim.id}/withdraw`, {
          reason: 'Replaced by a new test.',
          wrong: true,
        })
      ).status,
    ).toBe(204);
    expect((await app.nobody<CatalogueFitment>('GET', '/catalogue/made-up-one')).body.former).toMatchObject([
      { state: 'withdrawn', staleReason: 'Replaced by a new test.' },
    ]);
  });
  it('every change is in the audit trail', async () => {
    const actions = (
      await reviewer<{ items: { action: string }[] }>('GET', '/audit?limit=200')
    ).body.items.map((e) => e.action);
    for (const action of [
      'created test',
      'locked plan',
      'attached pull file',
      'entered air reading',
      'drafted claim',
      'claim in review',
      'claim returned',
      'claim published',
      'excluded pull',
      'claim stale',
      'claim withdrawn',
    ])
      expect(actions).toContain(action);
  });
});

describe('what is written once stays', () => {
  it.each([
    'update raw_files set size = size',
    'delete from raw_files',
    'truncate raw_files cascade',
    "update analyses set software_version = 'x'",
    'delete from analyses',
    "update audit_entries set action = 'x'",
    'delete from audit_entries',
    'delete from claim_events',
    'truncate analyses cascade',
    'truncate audit_entries',
    'truncate claims cascade',
    'truncate vehicle_ledger',
    'truncate people cascade',
  ])('%s is refused', async (statement) => {
    await expect(app.pool.query(statement)).rejects.toThrow(/written once/);
  });
  it('a raw file must be named by its own hash', async () => {
    await expect(
      app.pool.query(
        "insert into raw_files select repeat('0', 64), 'abc'::bytea, 3, now(), id from people limit 1",
      ),
    ).rejects.toThrow(/named_by_hash/);
  });
});

it('a partner shop sees the tests assigned to it and nothing else', async () => {
  const theirs = await create({ partnerId: app.ids.partner });
  const { body } = await partner<TestPage>('GET', '/tests');
  expect(body.items.map((t) => t.id)).toEqual([theirs]);
  expect(body).toMatchObject({ total: 1, counts: { all: 1 }, next: null });
  const { body: found } = await partner<Found>('GET', '/find');
  expect(found).toMatchObject({ tests: [{ id: theirs }], claims: [], fitments: [], parts: [], vehicles: [] });
  const other = await create();
  for (const path of [`/tests/${other}`, `/tests/${other}/analysis`])
    expect((await partner('GET', path)).status).toBe(404);
  const pull = (await detail(other)).pulls.find((p) => p.counted)!;
  expect((await partner('PUT', `/tests/${other}/pulls/${pull.id}/air`, airOf('p1'))).status).toBe(404);
});
