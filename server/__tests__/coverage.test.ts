import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Coverage, WorthRow } from '../../contract/publish/coverage.ts';
import { usualDynoHours } from '../../core/plan/hours.ts';
import { worthTesting } from '../../core/register/worth-testing.ts';
import { applications, fitments, partRevisions, parts } from '../register/tables.ts';
import { startApp, type Ask, type TestApp } from './app.ts';

let app: TestApp, manager: Ask;
const ids = { sibling: randomUUID(), variant: randomUUID(), launch: randomUUID(), sound: randomUUID() };
beforeAll(async () => {
  app = await startApp();
  manager = await app.signIn('manager');
  const [own] = await app.db.select().from(fitments);
  await app.db.update(fitments).set({ unitsPerYear: 900, foundBy: ' made up ' });
  await app.db.insert(fitments).values([
    {
      ...own,
      id: ids.sibling,
      slug: 's',
      model: 'Up estate',
      unitsPerYear: 400,
      foundBy: ' made up estate ',
    },
    {
      ...own,
      id: ids.variant,
      slug: 'v',
      outputVariant: '80 kW',
      ratedPowerKw: 80,
      unitsPerYear: 0,
      foundBy: ' made up 80 ',
    },
  ]);
  await app.db.insert(parts).values([
    {
      id: ids.launch,
      sku: 'L-1',
      maker: 'M',
      name: 'Launching',
      category: 'filter',
      launchDate: '2026-12-10',
    },
    { id: ids.sound, sku: 'S-1', maker: 'M', name: 'Loud', category: 'exhaust section', promise: 'sound' },
  ]);
  await app.db.insert(partRevisions).values([
    { id: randomUUID(), partId: ids.launch, revision: 'A', installHours: 2.5, removeHours: 1 },
    { id: randomUUID(), partId: ids.sound, revision: 'A' },
  ]);
  await app.db
    .insert(applications)
    .values(
      [ids.sibling, ids.variant].flatMap((fitmentId) =>
        [app.ids.part, ids.launch].map((partId) => ({ partId, fitmentId })),
      ),
    );
  await app.db.insert(applications).values({ partId: ids.sound, fitmentId: app.ids.fitment });
});
afterAll(async () => {
  await app.stop();
});
const grid = async (query = ''): Promise<Coverage> =>
  (await manager<Coverage>('GET', `/coverage?${query}`)).body;
const stateOf = (coverage: Coverage, fitmentId: string, partId: string) =>
  coverage.rows.find((r) => r.id === fitmentId)?.cells.find((c) => c.partId === partId);

describe('coverage', () => {
  it('has a cell for every application and none beside', async () => {
    const all = await grid();
    expect(all.rows.flatMap((r) => r.cells)).toHaveLength(6);
    expect(all.counts.untested).toBe(6);
    expect(all.parts.map((p) => p.name)).toEqual(['Loud', 'Launching', 'Part']);
    expect((await grid('launchFrom=2026-12-01&launchTo=2026-12-31')).parts.map((p) => p.name)).toEqual([
      'Launching',
    ]);
    expect((await grid('q=estate')).rows.map((r) => r.id)).toEqual([ids.sibling]);
    expect((await grid('category=exhaust%20section')).rows.map((r) => r.id)).toEqual([app.ids.fitment]);
  });
  it('follows a test from plan to claim, and tells siblings that could be served', async () => {
    const { id } = (await manager<{ id: string }>('POST', '/tests', app.plan())).body;
    expect(stateOf(await grid(), app.ids.fitment, app.ids.part)).toMatchObject({
      state: 'planned',
      testId: id,
      tests: 1,
    });
    await app.db.execute(
      sql`insert into analyses (id, test_id, number, inputs_hash, inputs, result, curves, policy,
        software_version, computed_at, glyphs) values (gen_random_uuid(), ${id}, 1, 'h', '{}',
        '{"verdict": "no gain shown"}', '{}', '{}', 'x', now(),
        '{"part": {"rpm": [2500, 6500], "gain": [0, 0], "lower": [-1, -1], "upper": [1, 1]}}')`,
    );
    // What counts is the analysis that stands for the test, not the one with the highest number.
    expect(stateOf(await grid(), app.ids.fitment, app.ids.part)).toMatchObject({ state: 'planned' });
    await app.db.execute(
      sql`update tests set current_analysis_id = (select id from analyses where test_id = ${id}) where id = ${id}`,
    );
    const now = await grid();
    expect(stateOf(now, app.ids.fitment, app.ids.part)).toMatchObject({
      state: 'no gain shown',
      glyph: { rpm: [2500, 6500] },
    });
    expect(stateOf(now, ids.sibling, app.ids.part)).toMatchObject({ state: 'untested', familyServed: true });
    expect(stateOf(now, ids.variant, app.ids.part)).toEqual({ partId: app.ids.part, state: 'untested' });
    expect((await grid('state=no%20gain%20shown')).rows.map((r) => r.id)).toEqual([app.ids.fitment]);
    const families = await grid('group=families');
    expect(families.rows.map((r) => r.group)).toEqual([1, 2, 2]);
  });
  it('ranks what is worth testing as the core scores it', async () => {
    const { items } = (await manager<{ items: WorthRow[] }>('GET', '/coverage/next')).body;
    expect(items).toHaveLength(5);
    const day = new Date(app.clock.now).toISOString().slice(0, 10);
    for (const row of items) {
      const hours = row.partId === ids.launch ? usualDynoHours(2.5, 1) : usualDynoHours(1, 0.5);
      expect(row.dynoHours).toBeCloseTo(hours, 9);
      const expected = worthTesting({
        state: row.state,
        familyServed: row.familyServed,
        unitsPerYear: row.unitsPerYear,
        launchInDays: row.launchDate ? (Date.parse(row.launchDate) - Date.parse(day)) / 86_400_000 : null,
        dynoHours: hours,
      });
      expect(Math.abs(row.score / expected - 1)).toBeLessThan(1e-12);
    }
    expect(items.map((r) => r.score)).toEqual([...items.map((r) => r.score)].sort((a, b) => b - a));
    expect(items.find((r) => r.fitmentId === ids.sibling && r.partId === app.ids.part)).toMatchObject({
      familyServed: true,
    });
    expect(items[0]).toMatchObject({ partId: ids.launch, fitmentId: ids.sibling, alsoServes: [] });
  });
  it('pages by its last row', async () => {
    const seen: string[] = [];
    let after: string | null = null;
    do {
      const page: { items: WorthRow[]; next: string | null } = (
        await manager<{ items: WorthRow[]; next: string | null }>(
          'GET',
          `/coverage/next?limit=2${after ? `&after=${after}` : ''}`,
        )
      ).body;
      seen.push(...page.items.map((r) => r.partId + r.fitmentId));
      after = page.next;
    } while (after);
    expect(seen).toHaveLength(5);
    expect(new Set(seen).size).toBe(5);
  });
});
