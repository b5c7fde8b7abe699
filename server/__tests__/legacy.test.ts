/** Evidence from before is registered, doubted, shown where it needs testing, and never becomes a claim. */
import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import type { Coverage } from '../../contract/publish/coverage.ts';
import type { LegacyPage } from '../../contract/publish/legacy.ts';
import { houseWith } from './house.ts';
import { madeSession, measuredTest } from './made-session.ts';

const { app, manager, operator, reviewer, partner } = houseWith('manager', 'operator', 'reviewer', 'partner');
type Refused = { error: { code: string; message: string } };
const entry = (change: Record<string, unknown> = {}) => ({
  fitmentId: app.ids.fitment,
  partId: app.ids.part,
  kind: 'printed graph',
  source: 'Shop page of 2019, printed',
  missing: 'air, baseline',
  figures: 'stock 100 kW at 5500\npart 112 kW at 5500\ngain 12 kW at 5500',
  ...change,
});
const list = async (query = ''): Promise<LegacyPage> =>
  (await manager<LegacyPage>('GET', `/legacy${query}`)).body;
const cellOf = async () => {
  const { rows } = (await manager<Coverage>('GET', '/coverage')).body;
  return rows.flatMap((row) => row.cells).find((cell) => cell.partId === app.ids.part)!;
};

it('is registered with its file, marks the cell that needs testing, and meets what is measured later', async () => {
  expect(await cellOf()).not.toHaveProperty('legacy');
  const made = await manager<{ id: string }>('POST', '/legacy', entry());
  expect(made.status).toBe(201);
  const { id } = made.body;
  expect(await cellOf()).toMatchObject({ state: 'untested', legacy: true });
  expect((await list()).items[0]).toMatchObject({
    id,
    figures: [{ of: 'stock', value: 100, unit: 'kW', rpm: 5500 }, {}, {}],
    doubts: [],
    tests: [],
    file: null,
    struck: null,
  });

  const scan = new TextEncoder().encode('a scan of the page');
  const put = (bytes: Uint8Array) => manager<Refused>('PUT', `/legacy/${id}/file?name=page.png`, bytes);
  expect((await put(new Uint8Array())).body.error.code).toBe('FILE_IS_EMPTY');
  expect((await put(scan)).status).toBe(204);
  expect((await put(scan)).status).toBe(204);
  expect((await put(new TextEncoder().encode('another'))).body.error.code).toBe('FILE_IS_THERE');
  const sha256 = createHash('sha256').update(scan).digest('hex');
  expect((await list()).items[0].file).toEqual({ name: 'page.png', sha256, size: scan.length });

  // Measured: 3 %, not 12.
  const testId = await measuredTest(app, { manager, operator }, madeSession(880, 3), { samePart: true });
  await manager('GET', `/tests/${testId}/analysis`);
  const [later] = (await list()).items;
  expect(later.tests.map((t) => t.id)).toEqual([testId]);
  expect(later.doubts).toEqual([expect.objectContaining({ code: 'MEASURED_OTHERWISE' })]);
});

it('leads to no claim, whoever asks and however', async () => {
  const { id } = (await list()).items[0];
  await app.anotherPart();
  await manager('POST', '/legacy', entry({ figures: 'gain 40 %' }));
  const planned = await manager<{ id: string }>('POST', '/tests', app.plan({}));
  for (const analysisId of [id, planned.body.id]) {
    const asked = { analysisId, metric: 'upTo', unit: 'kW' };
    const refused = await manager<Refused>('POST', `/tests/${planned.body.id}/claims`, asked);
    expect(refused.body.error.code).toBe('NO_ANALYSIS');
  }
  // The database knows no claim without an analysis of a test either.
  await expect(
    app.pool.query(
      `insert into claims (id, code, test_id, analysis_id, fitment_id, metric, value, unit, wording, conditions,
        disclosures, grade, state, author_id, drafted_at)
      select gen_random_uuid(), 'x', $1, $2, $3, 'upTo', 9, 'kW', 'x', '[]', '[]', 'single', 'draft', id, now()
      from people limit 1`,
      [planned.body.id, id, app.ids.fitment],
    ),
  ).rejects.toThrow(/foreign key/);
  expect((await manager<{ total: number }>('GET', '/claims')).body.total).toBe(0);
});

it('says what is wrong with an entry, and keeps nothing of it', async () => {
  const before = (await list()).total;
  const refused = await manager<Refused>(
    'POST',
    '/legacy',
    entry({ figures: 'gain 1 hp\nabout five horses' }),
  );
  expect(refused.status).toBe(400);
  expect(JSON.stringify(refused.body)).toContain('Line 2');
  expect((await manager('POST', '/legacy', entry({ source: 'web' }))).status).toBe(400);
  expect((await manager('POST', '/legacy', entry({ partId: app.ids.fitment }))).status).toBe(404);
  expect((await reviewer('POST', '/legacy', entry())).status).toBe(403);
  expect((await partner('GET', '/legacy')).status).toBe(403);
  expect((await list()).total).toBe(before);
});

it('is crossed out with a reason and stays to be read; the database keeps it', async () => {
  const { id } = (await list()).items[0];
  expect(await cellOf()).toHaveProperty('legacy');
  expect((await manager('POST', `/legacy/${id}/strike`, { reason: 'Another engine.' })).status).toBe(204);
  expect((await manager('POST', `/legacy/${id}/strike`, { reason: 'Once more.' })).status).toBe(409);
  expect((await list()).items[0].struck).toMatchObject({ reason: 'Another engine.' });
  expect(await cellOf()).not.toHaveProperty('legacy');
  for (const table of ['legacy_evidence', 'legacy_files', 'legacy_struck'])
    await expect(app.pool.query(`delete from ${table}`)).rejects.toThrow(/written once/);
});

it('of a part under embargo nobody reads anything who may not know it', async () => {
  await app.anotherPart();
  await manager('POST', '/legacy', entry({ source: 'Prototype sheet, page 2' }));
  const [{ id }] = (await list('?q=prototype')).items;
  await app.pool.query(
    "update parts set embargo_until = '2999-01-01', code_name = 'Project Heron' where id = $1",
    [app.ids.part],
  );
  const seen = await operator<LegacyPage>('GET', '/legacy?q=prototype');
  expect(seen.body.items).toEqual([]);
  expect((await operator('GET', `/legacy/${id}/file`)).status).toBe(404);
  await app.pool.query('update parts set embargo_until = null where id = $1', [app.ids.part]);
  expect((await operator<LegacyPage>('GET', '/legacy?q=prototype')).body.items).toHaveLength(1);
});
