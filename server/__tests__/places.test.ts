import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Found, TestFilter, TestPage, TestSummary } from '../../contract/overview.ts';
import type { CataloguePage, ClaimPage } from '../../contract/publish/claim.ts';
import { EVIDENCE_STATES, FAMILY_DISCOUNT, OPEN_SHARE } from '../../core/register/worth-testing.ts';
import { countsIn, pullCountsOf } from '../capture/pull-counts.ts';
import { listPulls } from '../capture/repository.ts';
import { applications, fitments, partRevisions, parts } from '../register/tables.ts';
import { placesAreRight, type Ask } from './app.ts';
import { houseWith } from './house.ts';
import { analysisOf, draft, madeSession, measuredTest } from './made-session.ts';

const { app, manager, reviewer, operator } = houseWith('manager', 'reviewer', 'operator');
/** Tests in every place a list has: planned, measured, drafted, in review, published, in question. */
const made: Record<string, string> = {};
beforeAll(async () => {
  await app.db.update(fitments).set({ foundBy: ' made up 100 kw ' });
  const plan = async (): Promise<string> =>
    (await manager<{ id: string }>('POST', '/tests', app.plan())).body.id;
  made.open = await plan();
  made.locked = await plan();
  await manager('POST', `/tests/${made.locked}/lock`);
  for (const [i, name] of ['measured', 'drafted', 'published'].entries()) {
    made[name] = await measuredTest(app, { manager, operator }, madeSession(700 + i));
    expect((await analysisOf(manager, made[name])).analysis).not.toBeNull();
  }
  await draft(manager, made.drafted);
  const { id } = (await draft(manager, made.published)).body;
  await manager('POST', `/claims/${id}/submit`);
  expect((await reviewer('POST', `/claims/${id}/approve`)).status).toBe(204);
});

const page = async (query = ''): Promise<TestPage> =>
  (await manager<TestPage>('GET', `/tests?${query}`)).body;
/** What each filter means, said of what is shown of a test. */
const MEANS: Readonly<Record<TestFilter, (t: TestSummary) => boolean>> = {
  all: () => true,
  asks: (t) => t.stages.some((s) => s.state === 'asks'),
  capturing: (t) => t.pullsCaptured < t.pullsCounted,
  published: (t) => t.claimState === 'published',
};
const expectFiltersRight = async (): Promise<TestPage['counts']> => {
  const { items, counts } = await page();
  for (const [show, means] of Object.entries(MEANS)) {
    const wanted = items.filter(means).map((t) => t.id);
    expect(
      (await page(`show=${show}`)).items.map((t) => t.id),
      show,
    ).toEqual(wanted);
    expect(counts[show as TestFilter], show).toBe(wanted.length);
  }
  return counts;
};

describe('rank and share', () => {
  it('are in the database those of the core', async () => {
    for (const [rank, state] of EVIDENCE_STATES.entries()) {
      const { rows } = await app.db.execute<{ rank: number; open: number; discount: number }>(
        sql`select evidence_rank(${state}) as rank, evidence_open(${rank}::int) as open, family_discount() as discount`,
      );
      expect(rows[0]).toEqual({ rank, open: OPEN_SHARE[state], discount: FAMILY_DISCOUNT });
    }
  });
});

describe('the list of tests', () => {
  it('narrows as its stages say, before and after a change that puts a claim in question', async () => {
    expect(await expectFiltersRight()).toEqual({ all: 5, asks: 2, capturing: 2, published: 1 });
    await app.pool.query(
      "insert into input_changes (kind, subject_id, version, at, what) values ('plan', $1, 99, now(), 'the plan was amended')",
      [made.published],
    );
    expect(await expectFiltersRight()).toEqual({ all: 5, asks: 3, capturing: 2, published: 0 });
    const { items } = (await manager<ClaimPage>('GET', '/claims')).body;
    expect(items.map((c) => c.state)).toEqual(['in question', 'draft']);
  });
  it('is read in pages without a row twice or left out', async () => {
    const seen: number[] = [];
    for (let after = ''; ;) {
      const { items, next, total } = await page(`limit=2${after && `&after=${after}`}`);
      expect(total).toBe(5);
      seen.push(...items.map((t) => t.number));
      if (!next) break;
      after = next;
    }
    expect(seen).toEqual([5, 4, 3, 2, 1]);
  });
  it('is found by number, vehicle, dyno, fitment and part, each word somewhere', async () => {
    for (const words of ['3', 'car', 'cell made', 'part up 100 kw', 'PART']) {
      const { items } = await page(`q=${encodeURIComponent(words)}`);
      expect(items.length, words).toBe(words === '3' ? 1 : 5);
    }
    expect((await page('q=nowhere')).items).toEqual([]);
    expect((await page('q=part%20nowhere')).total).toBe(0);
  });
});

describe('a part under embargo', () => {
  it('is found by its code name alone by who may not know it', async () => {
    const rows = await app.db.select().from(parts);
    const [row] = rows;
    await app.db
      .update(parts)
      .set({ embargoUntil: '2030-01-01', codeName: 'Nightjar', foundBy: ' velvet plenum ' });
    try {
      const found = async (ask: Ask, q: string): Promise<number[]> => [
        (await ask<TestPage>('GET', `/tests?q=${q}`)).body.total,
        (await ask<ClaimPage>('GET', `/claims?q=${q}`)).body.total,
        (await ask<Found>('GET', `/find?q=${q}`)).body.parts.length,
      ];
      expect(await found(manager, 'velvet')).toEqual([5, 2, rows.length]);
      expect(await found(operator, 'velvet')).toEqual([0, 0, 0]);
      expect(await found(operator, 'nightjar')).toEqual([5, 2, rows.length]);
    } finally {
      await app.db.update(parts).set({ embargoUntil: null, codeName: null, foundBy: row.foundBy });
    }
  });
});

describe('claims, catalogue and finder', () => {
  it('claims are narrowed by state, test and words, and say how many wait for whom', async () => {
    const { id } = (await manager<ClaimPage>('GET', '/claims?state=draft')).body.items[0];
    await manager('POST', `/claims/${id}/submit`);
    const read = async (ask: Ask, query = ''): Promise<ClaimPage> =>
      (await ask<ClaimPage>('GET', `/claims?${query}`)).body;
    expect(await read(reviewer)).toMatchObject({
      total: 2,
      mine: 1,
      counts: { 'in question': 1, 'in review': 1 },
    });
    expect((await read(manager)).mine).toBe(0);
    expect((await read(manager, `testId=${made.drafted}`)).items.map((c) => c.id)).toEqual([id]);
    expect((await read(manager, 'q=nowhere')).total).toBe(0);
    expect((await read(manager, 'limit=1')).items).toHaveLength(1);
    const { next } = await read(manager, 'limit=1');
    expect((await read(manager, `limit=1&after=${next}`)).items.map((c) => c.id)).toEqual([id]);
  });
  it('what is in question is in no page of the catalogue', async () => {
    const catalogue = async (query = ''): Promise<CataloguePage> =>
      (await app.nobody<CataloguePage>('GET', `/catalogue?${query}`)).body;
    expect(await catalogue()).toEqual({ items: [], next: null, total: 0 });
    const { openChanges, claim } = (
      await reviewer<{ openChanges: { id: number }[]; claim: { id: string } }>(
        'GET',
        `/claims/${(await manager<ClaimPage>('GET', `/claims?testId=${made.published}`)).body.items[0].id}`,
      )
    ).body;
    await reviewer('POST', `/claims/${claim.id}/answers`, {
      changeId: openChanges[0].id,
      reason: 'A slip of the pen, nothing of what was done.',
    });
    expect(await catalogue()).toMatchObject({ items: [{ slug: 'made-up-one', claims: [{}] }], total: 1 });
    expect((await catalogue('q=nowhere')).items).toEqual([]);
    expect(await app.nobody('GET', '/catalogue?after=nonsense')).toMatchObject({ status: 400 });
  });
  it('the finder finds a fitment, a part, a vehicle, a test and a claim by one word', async () => {
    const { body } = await manager<Found>('GET', '/find?q=made');
    expect(body).toMatchObject({ tests: [{}, {}, {}, {}, {}], claims: [{}, {}], fitments: [{}] });
    expect((await manager<Found>('GET', '/find?q=car')).body.vehicles).toMatchObject([{ tag: 'car' }]);
    expect((await manager<Found>('GET', '/find')).body.fitments).toEqual([]);
  });
});

describe('a page of a list', () => {
  const cursor = (...values: unknown[]): string => Buffer.from(JSON.stringify(values)).toString('base64url');
  it.each([
    ['/tests', ['x']],
    ['/tests', [1.5]],
    ['/claims', [1, 'yesterday', randomUUID()]],
    ['/claims', [1, '2026-11-10', 'no id']],
    ['/catalogue', ['Made', 'Up', 'no id']],
    ['/catalogue', ['Ma\0de', 'Up', randomUUID()]],
    ['/coverage', ['Made', 'Up', '100 kW', 'EU', 'no id']],
    ['/coverage/next', ['high', randomUUID(), randomUUID()]],
    ['/fitments', ['Made', 'Up', '100 kW', 'EU', 7]],
    ['/parts', ['Part', 'P-1', 'no id']],
    ['/vehicles', [7]],
  ])('%s behind a cursor made up as %j is refused in words', async (path, values) => {
    expect(await manager('GET', `${path}?after=${cursor(...values)}`)).toMatchObject({
      status: 400,
      body: { error: { code: 'BAD_CURSOR', action: 'Begin at the first page.' } },
    });
  });
});

describe('counts of pulls', () => {
  it('by the database are those among the rows', async () => {
    const ids = Object.values(made);
    const counted = await pullCountsOf(app.db, ids);
    for (const id of ids) expect(counted.get(id)).toEqual(countsIn(await listPulls(app.db, [id])));
    expect(counted.get(made.measured)).toMatchObject({ counted: 9, withFile: 9, withAir: 9, missing: false });
    expect(counted.get(made.open)).toMatchObject({ withFile: 0, missing: true });
  });
});

describe('what stands for a test is its own', () => {
  it('the database takes no analysis of another test, for a test or for a claim', async () => {
    const { rows } = await app.pool.query<{ id: string }>(
      'select current_analysis_id as id from tests where id = $1',
      [made.measured],
    );
    await expect(
      app.pool.query('update tests set current_analysis_id = $1 where id = $2', [rows[0].id, made.drafted]),
    ).rejects.toThrow(/current_analysis_is_its_own/);
    const claimOn = (testId: string, arm: string) =>
      app.pool.query(
        `insert into claims (id, code, test_id, analysis_id, fitment_id, arm, metric, value, unit, wording,
          conditions, disclosures, grade, state, author_id, drafted_at)
          select gen_random_uuid(), 'X-' || gen_random_uuid(), $1, $2, fitment_id, $3, 'upTo', 99, 'kW',
            'Up to +99 kW', '[]', '[]', 'single', 'draft', created_by, now() from tests where id = $1`,
        [testId, rows[0].id, arm],
      );
    await expect(claimOn(made.drafted, 'part')).rejects.toThrow(/analysis_is_of_the_test/);
    await expect(claimOn(made.measured, 'no such arm')).rejects.toThrow(/claim_of_an_arm/);
  });
});

describe('places', () => {
  it('follow from the records whatever happened to them, and from what happens in between', async () => {
    const [own] = await app.db.select().from(fitments);
    const sibling = randomUUID();
    await app.db.insert(fitments).values({ ...own, id: sibling, slug: 'sibling', model: 'Up estate' });
    await app.db.insert(applications).values({ partId: app.ids.part, fitmentId: sibling });
    await placesAreRight(app.pool);
    await app.db
      .update(fitments)
      .set({ ratedPowerKw: 140, unitsPerYear: 70 })
      .where(sql`id = ${sibling}`);
    await app.pool.query("update vehicles set tag = 'K 12-3'");
    await placesAreRight(app.pool);
    expect((await page('q=k12')).total).toBe(5);
    await app.db
      .update(fitments)
      .set({ family: 'elsewhere' })
      .where(sql`id = ${sibling}`);
    await placesAreRight(app.pool);
    await app.db.delete(applications).where(sql`fitment_id = ${sibling}`);
    await placesAreRight(app.pool);
  });
  it('what is not committed yet is not lost when others refresh meanwhile', async () => {
    const client = await app.pool.connect();
    try {
      await client.query('begin');
      await client.query('update fitments set units_per_year = 4321 where id = $1', [app.ids.fitment]);
      await app.pool.query('select refresh_places()');
      await client.query('commit');
    } finally {
      client.release();
    }
    await placesAreRight(app.pool);
    const { rows } = await app.pool.query<{ worth: number }>('select worth from coverage_cells');
    expect(rows[0].worth).toBeGreaterThan(400);
  });
});

describe('a part in several arms of a test', () => {
  it('is shown by the first of them, wherever the rows happen to lie', async () => {
    const [partId, revisionId] = [randomUUID(), randomUUID()];
    await app.db
      .insert(parts)
      .values({ id: partId, sku: 'P-9', maker: 'Made', name: 'Two-way', category: 'intake' });
    await app.db.insert(partRevisions).values({ id: revisionId, partId, revision: 'A' });
    await app.db.insert(applications).values({ partId, fitmentId: app.ids.fitment });
    const plan = app.plan();
    plan.arms[1].changes[0].partRevisionId = revisionId;
    const { id } = (await manager<{ id: string }>('POST', '/tests', plan)).body;
    await app.pool.query(
      `insert into test_arms (test_id, key, position, label, role, part_revision_id)
        select $1, 'another-' || i, 10 - i, 'x', 'part', $2 from generate_series(1, 8) i`,
      [id, revisionId],
    );
    for (const [position, first] of [
      [1, 'part'],
      [20, 'another-8'],
      [1, 'part'],
    ]) {
      await app.pool.query("update test_arms set position = $2 where test_id = $1 and key = 'part'", [
        id,
        position,
      ]);
      await app.pool.query('select refresh_places()');
      const { rows } = await app.pool.query('select arm, tests from coverage_cells where part_id = $1', [
        partId,
      ]);
      expect(rows).toEqual([{ arm: first, tests: 1 }]);
    }
  });
});
