import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ScenarioSchema } from '../../bench/capture/scenario.ts';
import { simulateSession } from '../../bench/judge/simulate.ts';
import type { AnalysisState } from '../../contract/judge/analysis.ts';
import type { TestDetail } from '../../contract/overview.ts';
import type { Part, PartDetail } from '../../contract/register/register.ts';
import { startApp, type Ask, type TestApp } from './app.ts';

const NAME = 'Resonance inlet plenum',
  SKU = 'CX-771',
  MAKER = 'Veiled Works',
  CODE = 'Project Corrie';
const secret = /resonance[\s_-]*inlet[\s_-]*plenum|cx-?771|veiled works/i;

let app: TestApp, manager: Ask, operator: Ask, reviewer: Ask, editor: Ask;
let partId: string, revisionId: string, testId: string, pullId: string;
const session = simulateSession(
  ScenarioSchema.parse({
    format: 'evidentia-scenario/1',
    seed: 77,
    title: 't',
    engine: 'na4',
    band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
    arms: [
      { id: 'stock', role: 'baseline' },
      { id: 'part', role: 'part', effect: [{ kind: 'constant', percent: 6 }] },
    ],
    protocol: { order: ['stock', 'part', 'stock'] },
  }),
);

beforeAll(async () => {
  app = await startApp();
  [manager, operator, reviewer, editor] = (await Promise.all(
    ['manager', 'operator', 'reviewer', 'editor'].map((key) => app.signIn(key)),
  )) as [Ask, Ask, Ask, Ask];
  partId = (
    await manager<Part>('POST', '/parts', {
      part: {
        sku: SKU,
        maker: MAKER,
        name: NAME,
        category: 'inlet',
        embargoUntil: '2027-03-01',
        codeName: CODE,
        note: `the ${NAME} is secret`,
        launchDate: '2027-03-01',
      },
      revision: { revision: 'P2', changeNote: `longer runners on the ${NAME}` },
    })
  ).body.id;
  revisionId = (await manager<PartDetail>('GET', `/parts/${partId}`)).body.revisions[0].id;
  await manager('PUT', '/applications', { partId, fitmentIds: [app.ids.fitment], fits: true });
  testId = (
    await manager<{ id: string }>(
      'POST',
      '/tests',
      app.plan({
        question: `Is the RESONANCE INLET-PLENUM (${SKU}) worth it?`,
        controls: [{ quantity: `${NAME} temperature`, target: 40, tolerance: 2, unit: '°C' }],
        arms: [
          { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] },
          {
            key: 'part',
            label: NAME.toLowerCase(),
            role: 'part',
            from: null,
            changes: [{ kind: 'part fitted', category: 'inlet', partRevisionId: revisionId, settings: {} }],
          },
        ],
      }),
    )
  ).body.id;
  await manager('POST', `/tests/${testId}/lock`);
  await manager('POST', `/tests/${testId}/amendments`, {
    reason: `The ${NAME} needs longer to cool.`,
    changes: { coolDownMinutes: 9 },
  });
  await manager('POST', `/vehicles/${app.ids.vehicle}/ledger`, {
    at: '2026-11-01T08:00:00Z',
    change: { kind: 'part fitted', category: 'inlet', partRevisionId: revisionId, settings: {} },
    note: `${NAME} for the fitting trial`,
  });
  // Off again before the session: the baseline is stock.
  await manager('POST', `/vehicles/${app.ids.vehicle}/ledger`, {
    at: '2026-11-01T15:00:00Z',
    change: { kind: 'returned to stock', category: 'inlet' },
    note: '',
  });
  await manager('POST', '/calibrations', {
    name: `For ${NAME}`,
    revision: '1',
    fileHash: 'c'.repeat(64),
    expectsPartRevisionIds: [revisionId],
  });
  await manager('POST', '/schedule/bookings', {
    placements: [{ testId, dynoId: app.ids.dyno, start: '2026-11-16T08:00:00Z' }],
  });
  const { pulls } = (await manager<TestDetail>('GET', `/tests/${testId}`)).body;
  for (const pull of pulls.filter((p) => p.counted)) {
    const made = session.test.pulls.find((p) => p.id === pull.label)!;
    await manager(
      'POST',
      `/tests/${testId}/pulls/${pull.id}/file?name=${encodeURIComponent(`${SKU} ${pull.label}.csv`)}`,
      new TextEncoder().encode(session.files.find((f) => f.path === made.file)!.text),
    );
    await operator('PUT', `/tests/${testId}/pulls/${pull.id}/air`, {
      temperatureC: made.air!.temperatureC,
      pressureHpa: made.air!.pressureHpa,
      humidityValue: made.air!.humidityPct,
    });
  }
  pullId = pulls.find((p) => p.counted)!.id;
  expect(
    (await manager<AnalysisState>('GET', `/tests/${testId}/analysis`)).body.analysis!.result.verdict,
  ).toBe('claim');
});
afterAll(async () => {
  await app.stop();
});

/** Every address a person can read, with ids that lead somewhere. */
const readable = (): string[] =>
  app.routes
    // News of a session never end; they carry numbers and ids (server/correct/bench-routes.ts).
    .filter((r) => r.method === 'get' && !r.path.endsWith('/bench/news'))
    .map((r) =>
      r.path
        .replace(':testId', testId)
        .replace(':pullId', pullId)
        .replace(':partId', partId)
        .replace(':fitmentId', app.ids.fitment)
        .replace(':vehicleId', app.ids.vehicle)
        .replace(':dynoId', app.ids.dyno)
        .replace(':kind', 'parts')
        .replace(/:(claimId)/, randomUUID())
        .replace(/:\w+/g, 'made-up-one'),
    )
    .map((p) =>
      p === '/schedule'
        ? '/schedule?from=2026-11-16'
        : p.endsWith('/configuration')
          ? `${p}?on=2026-11-05T00:00:00Z`
          : p,
    );

describe('an embargoed part', () => {
  it('is read by its name by who has clearance', async () =>
    expect((await manager<PartDetail>('GET', `/parts/${partId}`)).body.part).toMatchObject({
      name: NAME,
      sku: SKU,
      maker: MAKER,
      withheld: false,
      embargoed: true,
    }));
  it('is read by its code name by everybody else, in every route and every file', async () => {
    const paths = [
      ...readable(),
      '/register/export/applications',
      '/register/export/fitments',
      `/parts?q=${encodeURIComponent('corrie')}`,
      '/coverage?part=corrie',
      `/vehicles?q=car`,
    ];
    expect(paths.length).toBeGreaterThan(30);
    let named = 0;
    for (const [who, ask] of [
      ['operator', operator],
      ['reviewer', reviewer],
      ['editor', editor],
      ['nobody', app.nobody],
    ] as const) {
      for (const path of paths) {
        const answer = await ask('GET', path);
        // Lines of a calendar file are folded: unfolded they are what a calendar shows.
        const text = `${answer.bytes.toString().replace(/\r\n[ \t]/g, '')} ${answer.headers.get('content-disposition') ?? ''}`;
        const at = text.search(secret);
        expect(at < 0 ? '' : text.slice(Math.max(0, at - 120), at + 60), `${who} ${path}`).toBe('');
        if (text.includes(CODE)) named += 1;
      }
    }
    expect(named).toBeGreaterThan(25);
  });
  it('is not found by its name, nor sorted by it', async () => {
    for (const q of ['resonance', 'plenum', 'CX-771', 'veiled'])
      expect((await operator<{ items: unknown[] }>('GET', `/parts?q=${q}`)).body.items, q).toEqual([]);
    expect((await manager<{ items: unknown[] }>('GET', '/parts?q=plenum')).body.items).toHaveLength(1);
    expect(
      (await operator<{ parts: unknown[] }>('GET', '/coverage?launchFrom=2027-02-01&launchTo=2027-04-01'))
        .body.parts,
    ).toEqual([]);
    expect(
      (await manager<{ parts: unknown[] }>('GET', '/coverage?launchFrom=2027-02-01&launchTo=2027-04-01')).body
        .parts,
    ).toHaveLength(1);
  });
  it('stands in the audit trail, for the reviewer by its code name', async () => {
    const trail = JSON.stringify((await reviewer('GET', '/audit?limit=200')).body);
    expect(trail).toContain(CODE);
    expect(trail).not.toMatch(secret);
    expect(JSON.stringify((await manager('GET', '/audit?limit=200')).body)).toMatch(secret);
  });
  it('raw bytes, which may name it, are for clearance only', async () => {
    expect(await operator('GET', `/tests/${testId}/pulls/${pullId}/file`)).toMatchObject({
      status: 403,
      body: { error: { message: expect.stringContaining('embargo') as string } },
    });
    expect((await manager('GET', `/tests/${testId}/pulls/${pullId}/file`)).bytes.length).toBeGreaterThan(
      1000,
    );
  });
  it('refusals do not give it away either', async () => {
    expect(
      JSON.stringify(
        (
          await operator(
            'POST',
            `/tests/${testId}/pulls/${pullId}/file?name=again.csv`,
            new TextEncoder().encode(session.files.find((f) => f.path.endsWith('p2.csv'))!.text),
          )
        ).body,
      ),
    ).not.toMatch(secret);
  });
  it('a guess by who has no clearance is kept as typed, and answered the same whether it is right or wrong', async () => {
    const note = async (text: string) => {
      await operator('POST', `/vehicles/${app.ids.vehicle}/ledger`, {
        at: '2026-11-02T08:00:00Z',
        change: { kind: 'service', item: 'oil' },
        note: text,
      });
      const { body, status } = await operator<{ ledger: { note: string }[] }>(
        'GET',
        `/vehicles/${app.ids.vehicle}`,
      );
      return { status, found: body.ledger.some((e) => e.note === text) };
    };
    // Right and wrong read back alike: nothing to learn from either.
    expect(await note(`is it the ${SKU}?`)).toEqual({ status: 200, found: true });
    expect(await note('is it the CX-772?')).toEqual({ status: 200, found: true });
    // Nor from a refusal that repeats the headers of a file.
    const echo = async (header: string): Promise<string> =>
      JSON.stringify(
        (
          await operator(
            'POST',
            `/tests/${testId}/pulls/${pullId}/file?name=x.csv`,
            new TextEncoder().encode(`${header},Other\n${'1,2\n'.repeat(30)}`),
          )
        ).body,
      );
    expect((await echo(SKU)).replaceAll(SKU, 'CX-772')).toBe(await echo('CX-772'));
    await app.pool.query('alter table vehicle_ledger disable trigger ledger_append_only');
    await app.pool.query("delete from vehicle_ledger where note like 'is it the%'");
    await app.pool.query('alter table vehicle_ledger enable trigger ledger_append_only');
  });
  it('the plan that is hashed names nobody: guesses of the name find no hash', async () => {
    const { rows } = await app.pool.query<{ plan: string; question: string }>(
      'select v.document::text as plan, t.question from tests t join plan_versions v on v.test_id = t.id where t.id = $1',
      [testId],
    );
    expect(rows[0].plan).not.toMatch(secret);
    expect(rows[0].question).toMatch(/^Is the ⟦part:[0-9a-f-]{36}⟧ \(⟦part:/);
  });
  it('a former name stays hidden, in the trail too, and other words and dates stay whole', async () => {
    const { part } = (await manager<PartDetail>('GET', `/parts/${partId}`)).body;
    const { id: _i, version, embargoed: _e, withheld: _w, ...input } = part;
    const renamed = `${NAME} “long 3"”`;
    expect(
      (await manager('PUT', `/parts/${partId}`, { version, record: { ...input, name: renamed } })).status,
    ).toBe(200);
    // What somebody without clearance guessed at stands in the trail as they typed it; that is theirs.
    const trail = JSON.stringify(
      (await reviewer<{ items: { action: string }[] }>('GET', '/audit?limit=200')).body.items.filter(
        (entry) => entry.action !== 'wrote ledger entry',
      ),
    );
    expect(trail).not.toMatch(secret);
    expect(trail).toContain('"fields":["name"]');
    expect(JSON.stringify((await manager('GET', '/audit?limit=200')).body)).toContain('Resonance');
    const detail = await reviewer('GET', `/tests/${testId}`);
    expect(detail.status).toBe(200);
    expect(detail.bytes.toString()).not.toMatch(secret);
    expect((await manager<TestDetail>('GET', `/tests/${testId}`)).body.summary.title).toBe(
      `${renamed}, revision P2, on Made Up`,
    );
    await manager('PUT', `/parts/${partId}`, { version: version + 1, record: input });
  });
  it('the tripwire withholds an answer that would name it after all, and tells', async () => {
    await app.pool.query('update fitments set model = $1', [
      `Up, made for the ${NAME.replaceAll(' ', '\u2011')}`,
    ]);
    expect(await operator('GET', '/fitments')).toMatchObject({
      status: 409,
      body: { error: { code: 'WITHHELD' } },
    });
    expect((await manager('GET', '/fitments')).status).toBe(200);
    const { rows } = await app.pool.query(
      "select detail from audit_entries where action = 'embargo tripwire'",
    );
    expect(rows).toMatchObject([{ detail: { path: 'GET /fitments' } }]);
    await app.pool.query("update fitments set model = 'Up'");
  });
  it('cannot be published, nor put under embargo once it is public', async () => {
    const { analysis } = (await manager<AnalysisState>('GET', `/tests/${testId}/analysis`)).body;
    const claim = (
      await manager<{ id: string }>('POST', `/tests/${testId}/claims`, {
        analysisId: analysis!.id,
        metric: 'upTo',
        unit: 'kW',
        answer: 'The oil was renewed before both arms alike.',
      })
    ).body;
    await manager('POST', `/claims/${claim.id}/submit`);
    expect(await reviewer('POST', `/claims/${claim.id}/approve`)).toMatchObject({
      status: 409,
      body: { error: { code: 'UNDER_EMBARGO' } },
    });
    expect(JSON.stringify((await reviewer('GET', `/claims/${claim.id}`)).body)).not.toMatch(secret);
    const { part } = (await manager<PartDetail>('GET', `/parts/${partId}`)).body;
    const { id: _i, version, embargoed: _e, withheld: _w, ...record } = part;
    expect(
      (
        await manager('PUT', `/parts/${partId}`, {
          version,
          record: { ...record, embargoUntil: null, codeName: null },
        })
      ).status,
    ).toBe(200);
    expect((await reviewer('POST', `/claims/${claim.id}/approve`)).status).toBe(204);
    expect((await app.nobody('GET', '/catalogue/made-up-one')).bytes.toString()).toContain(NAME);
    expect(await manager('PUT', `/parts/${partId}`, { version: version + 1, record })).toMatchObject({
      status: 409,
      body: { error: { code: 'PUBLIC_ALREADY' } },
    });
  });
});

it('who has no clearance neither sets nor lifts an embargo', async () => {
  await app.pool.query("update people set clearance = false where name = 'manager'");
  const part = (sku: string, change: object) => ({
    part: { sku, maker: 'M', name: `Name ${sku}`, category: 'intake', ...change },
    revision: { revision: 'A' },
  });
  expect(
    (await manager('POST', '/parts', part('Q-1', { embargoUntil: '2027-05-01', codeName: 'Project Skye' })))
      .status,
  ).toBe(403);
  await app.pool.query("update people set clearance = true where name = 'manager'");
  const made = (
    await manager<Part>(
      'POST',
      '/parts',
      part('Q-1', { embargoUntil: '2027-05-01', codeName: 'Project Skye' }),
    )
  ).body;
  await app.pool.query("update people set clearance = false where name = 'manager'");
  expect(
    (
      await manager('PUT', `/parts/${made.id}`, {
        version: 1,
        record: { sku: 'Q-1', maker: 'M', name: 'open', category: 'intake' },
      })
    ).status,
  ).toBe(403);
  expect((await manager('POST', '/parts', part('Q-2', { embargoUntil: '2027-05-01' }))).status).toBe(400);
  app.clock.now = Date.parse('2027-05-01T00:00:01Z');
  expect((await operator<PartDetail>('GET', `/parts/${made.id}`)).body.part.name).toBe('Name Q-1');
});
