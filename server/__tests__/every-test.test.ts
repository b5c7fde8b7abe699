/** Every test counts: the best of several is not published, and what comes later reaches the claim. */
import { randomUUID } from 'node:crypto';
import { expect, it } from 'vitest';
import type { Beside } from '../../contract/judge/beside.ts';
import type { ClaimDetail, WordingShown } from '../../contract/publish/claim.ts';
import type { Ask } from './app.ts';
import { houseWith } from './house.ts';
import { draft, madeSession, measuredTest, publish } from './made-session.ts';

const { app, manager, operator, reviewer } = houseWith('manager', 'operator', 'reviewer');
const METRICS = { metrics: ['bandAverage', 'upTo'] };

/** Another car of the same kind. */
async function vehicle(tag: string): Promise<string> {
  const { rows } = await app.pool.query<{ id: string }>(
    `insert into vehicles
      select (jsonb_populate_record(v, jsonb_build_object('id', gen_random_uuid(), 'tag', $1::text))).*
      from vehicles v where id = $2 returning id`,
    [tag, app.plan({}).vehicleId],
  );
  return rows[0].id;
}
const gaining = (seed: number, percent: number, tag: string, plan: Record<string, unknown> = {}) =>
  (async () => {
    const vehicleId = tag === '' ? app.plan({}).vehicleId : await vehicle(tag);
    return measuredTest(app, { manager, operator }, madeSession(seed, percent), {
      plan: { ...METRICS, vehicleId, ...plan },
      samePart: true,
    });
  })();
const claimOf = async (ask: Ask, id: string): Promise<ClaimDetail> =>
  (await ask<ClaimDetail>('GET', `/claims/${id}`)).body;
const gateOf = async (id: string) =>
  (await manager<Beside>('GET', `/tests/${id}/beside`)).body.findings.find(
    (f) => f.gate === 'every test counts',
  );
const findingsOf = async (id: string) =>
  (await manager<Beside>('GET', `/tests/${id}/beside`)).body.findings
    .filter((f) => f.gate === 'every test counts')
    .map(({ code, message }) => [code, message]);
const numberOf = async (id: string): Promise<number> =>
  (await app.pool.query<{ number: number }>('select number from tests where id = $1', [id])).rows[0].number;

it('of several tests of one part the best is not published, and a later one reaches the claims before it', async () => {
  const first = await gaining(810, 5, '');
  expect(await gateOf(first)).toMatchObject({ state: 'pass', code: 'ONLY_TEST' });
  // Planned over another range it does not count, but what it reads is told.
  const narrow = await gaining(813, 0, 'SV-900', { band: { fromRpm: 3000, toRpm: 6000, stepRpm: 50 } });
  expect(await gateOf(first)).toMatchObject({ state: 'caution', code: 'ANOTHER_READS_LESS' });
  const claim = await publish({ manager, reviewer }, first, { metric: 'upTo', unit: 'kW' });
  expect(claim.disclosures.join(' ')).toContain(
    `Another test of the part reads less: test ${await numberOf(narrow)}`,
  );
  expect(claim.disclosures.join(' ')).toMatch(/planned from 3.000 to 6.000 rpm/);
  const waiting = await draft(manager, first, { metric: 'bandAverage', unit: 'kW' });
  await manager('POST', `/claims/${waiting.body.id}/submit`);

  // A second car gains more: the claim holds beside it, and says that it was looked at again.
  const better = await gaining(811, 12, 'SV-901');
  expect((await claimOf(manager, claim.id)).claim.state).toBe('published');
  expect((await claimOf(manager, claim.id)).answers[0]).toMatchObject({
    what: `test ${await numberOf(better)} of the part has another result`,
    reason: expect.stringContaining('still holds') as string,
  });
  // The better one is not published instead.
  const refused = await draft(manager, better, { metric: 'upTo', unit: 'kW' });
  expect(refused.body.error).toMatchObject({ code: 'ANOTHER_TEST_SAYS_LESS' });
  const asked = `metric=upTo&unit=kW&tells=gain&arm=part`;
  const { body } = await manager<WordingShown>('GET', `/tests/${better}/wording?${asked}`);
  expect(body.said).toBeNull();
  expect(body.why).toContain(`Test ${await numberOf(first)} of the same change says less`);
  expect((await gateOf(better))!.state).not.toBe('fail');

  // One that was begun and left is not passed over in silence.
  const begun = await measuredTest(app, { manager, operator }, madeSession(814), {
    plan: { ...METRICS, vehicleId: await vehicle('SV-903') },
    samePart: true,
    without: ['p9'],
  });
  const told = await manager<WordingShown>('GET', `/tests/${first}/wording?${asked}`);
  expect(told.body.said?.conditions).toContain(
    `Begun, and without a result that can be compared: test ${await numberOf(begun)}`,
  );

  // Nor one that was strapped down anew, so that its arms cannot be compared at all.
  const loose = await measuredTest(app, { manager, operator }, madeSession(815, 0), {
    plan: { ...METRICS, vehicleId: await vehicle('SV-904'), remount: true },
    samePart: true,
  });
  const named = await manager<WordingShown>('GET', `/tests/${first}/wording?${asked}`);
  expect(named.body.said?.conditions).toContain(
    `Begun, and without a result that can be compared: test ${await numberOf(loose)}`,
  );

  // A third gains nothing. What was published is stale, what waits for review cannot be approved.
  const nothing = await gaining(812, 0, 'SV-902');
  const now = (await claimOf(manager, claim.id)).claim;
  expect(now.state).toBe('stale');
  expect(now.staleReason).toContain(`test ${await numberOf(nothing)} of the part has another result`);
  const approved = await reviewer<{ error: { code: string } }>('POST', `/claims/${waiting.body.id}/approve`);
  expect(approved.body.error.code).toBe('OTHER_TESTS_SAY_OTHERWISE');
  for (const id of [first, better]) {
    expect(await gateOf(id)).toMatchObject({ state: 'fail', code: 'NOT_SHOWN_TOGETHER' });
    const average = await draft(manager, id, { metric: 'bandAverage', unit: '%' });
    expect(average.body.error).toMatchObject({ code: 'NOT_SHOWN_TOGETHER' });
  }
  // Nor may “no gain” be told as if the others were not there.
  const advice = await draft(manager, nothing, { tells: 'advice', metric: 'bandAverage', unit: '%' });
  expect(advice.body.error).toMatchObject({ code: 'ANOTHER_TEST_SAYS_MORE' });
});

it('the same part on another fitment of the family is told, never counted, and its number stays there', async () => {
  const sibling = async (slug: string, ratedPowerKw: number): Promise<string> => {
    const { rows } = await app.pool.query<{ id: string }>(
      `insert into fitments select (jsonb_populate_record(f, jsonb_build_object('id', gen_random_uuid(), 'slug', $1::text,
        'model', $1::text, 'rated_power_kw', $2::float8))).* from fitments f where id = $3 returning id`,
      [slug, ratedPowerKw, app.ids.fitment],
    );
    await manager('PUT', '/applications', {
      partId: app.ids.part,
      fitmentIds: [rows[0].id],
      fits: true,
    });
    return rows[0].id;
  };
  const carOf = async (fitmentId: string, tag: string): Promise<string> => {
    const id = await vehicle(tag);
    await app.pool.query('update vehicles set fitment_id = $1 where id = $2', [fitmentId, id]);
    return id;
  };
  const own = await measuredTest(app, { manager, operator }, madeSession(821, 6), { plan: METRICS });
  const claim = await publish({ manager, reviewer }, own, { metric: 'upTo', unit: 'kW' });
  const estate = await sibling('estate', 100);
  const there = await measuredTest(app, { manager, operator }, madeSession(822, 0), {
    plan: { ...METRICS, fitmentId: estate, vehicleId: await carOf(estate, 'SV-950') },
    samePart: true,
  });
  const gate = (await gateOf(own))!;
  expect(gate).toMatchObject({ state: 'caution', code: 'ANOTHER_READS_LESS' });
  expect(gate.message).toContain('on another fitment of the family');
  expect(gate.message).not.toMatch(/% on average/);
  // It reaches the claim, which does not tell of it.
  const { claim: after } = await claimOf(manager, claim.id);
  expect(after.state).toBe('stale');
  expect(after.staleReason).toContain(`test ${await numberOf(there)} of the part has another result`);
  const next = await draft(manager, own, { metric: 'upTo', unit: 'kW' });
  expect(next.body.disclosures.join(' ')).toMatch(
    /Another test of the part reads less: test \d+ \(SV-950.*\): on another fitment of the family, .*estate/,
  );
  expect(next.body.disclosures.join(' ')).not.toMatch(/SV-950[^.]*\d %/);
  // Another output is another engine: of it nothing is told.
  const stronger = await sibling('stronger', 130);
  const far = await measuredTest(app, { manager, operator }, madeSession(823, 0), {
    plan: { ...METRICS, fitmentId: stronger, vehicleId: await carOf(stronger, 'SV-951') },
    samePart: true,
  });
  expect((await gateOf(own))!.message).not.toContain(`test ${await numberOf(far)}`);
  // Under another family, and else the same, it may be the same car registered once more: for the house to see.
  const twin = await sibling('estate-again', 100);
  await app.pool.query(`update fitments set family = 'of its own' where id = $1`, [twin]);
  const again = await measuredTest(app, { manager, operator }, madeSession(824, 7), {
    plan: { ...METRICS, fitmentId: twin, vehicleId: await carOf(twin, 'SV-952') },
    samePart: true,
  });
  const [[, first], [code, seen]] = await findingsOf(again);
  expect(first).toContain('No other finished test');
  expect(code).toBe('KIN_READS_LESS');
  expect(seen).toMatch(/SV-950.*on a fitment with the same engine and output, .*estate/);
  expect(seen).not.toMatch(/% on average/);
  const alone = await draft(manager, again, { metric: 'upTo', unit: 'kW' });
  expect(alone.status).toBe(201);
  expect(JSON.stringify(alone.body)).not.toContain('SV-950');
});

/** Registers the part that was tested last once more, as another revision or under another number; tests go on with it. */
async function anew(as: { revision: string; changeNote: string } | { sku: string; name: string }) {
  const { part, revision } = app.ids;
  const isRevision = 'revision' in as;
  if (!isRevision) {
    app.ids.part = randomUUID();
    await app.pool.query(
      `insert into parts select (jsonb_populate_record(p, $1::jsonb)).* from parts p where id = $2`,
      [JSON.stringify({ id: app.ids.part, ...as }), part],
    );
    await app.pool.query('insert into applications (part_id, fitment_id) values ($1, $2)', [
      app.ids.part,
      app.ids.fitment,
    ]);
  }
  app.ids.revision = randomUUID();
  await app.pool.query(
    `insert into part_revisions select
      (jsonb_populate_record(r, $1::jsonb || jsonb_build_object('created_at', clock_timestamp()))).*
      from part_revisions r where id = $2`,
    [
      JSON.stringify({
        id: app.ids.revision,
        part_id: app.ids.part,
        ...(isRevision ? { revision: as.revision, change_note: as.changeNote } : {}),
      }),
      revision,
    ],
  );
}

it('a part registered anew does not begin from nothing', async () => {
  const nothing = await measuredTest(app, { manager, operator }, madeSession(831, 0), { plan: METRICS });
  const number = await numberOf(nothing);
  const { part, revision } = app.ids;

  // A revision that says of no change is the same part: its tests are told with the claim.
  await anew({ revision: 'B', changeNote: 'no change' });
  const again = await gaining(832, 6, 'SV-960');
  expect(await gateOf(again)).toMatchObject({ state: 'caution', code: 'ANOTHER_READS_LESS' });
  const claim = await publish({ manager, reviewer }, again, { metric: 'upTo', unit: 'kW' });
  expect(claim.disclosures.join(' ')).toMatch(
    new RegExp(`reads less: test ${number} .*of revision A; what has changed between them is not recorded`),
  );

  // One of it that was begun and left is named as well, whichever revision it is of.
  const begun = await measuredTest(app, { manager, operator }, madeSession(836), {
    plan: { ...METRICS, vehicleId: await vehicle('SV-964') },
    samePart: true,
    without: ['p9'],
  });
  Object.assign(app.ids, { part, revision });
  const asked = 'metric=upTo&unit=kW&tells=gain&arm=part';
  const shown = await manager<WordingShown>(
    'GET',
    `/tests/${nothing}/wording?${asked.replace('gain', 'advice')}`,
  );
  expect(JSON.stringify(shown.body)).toContain(`result that can be compared: test ${await numberOf(begun)}`);

  // A revision with its change is another thing: the house sees what the former reads, the claim is silent of it.
  Object.assign(app.ids, { part, revision });
  await anew({ revision: 'C', changeNote: 'runners 12 mm longer' });
  const changed = await gaining(833, 6, 'SV-961');
  expect(await findingsOf(changed)).toContainEqual([
    'KIN_READS_LESS',
    expect.stringContaining(`test ${number} `),
  ]);
  const own = await draft(manager, changed, { metric: 'upTo', unit: 'kW' });
  expect(own.status).toBe(201);
  expect(JSON.stringify(own.body)).not.toContain(`test ${number} `);

  // Under another number and nearly the same name it is seen as well.
  Object.assign(app.ids, { part, revision });
  await anew({ sku: 'P-ANEW', name: 'Part II' });
  const twin = await gaining(834, 6, 'SV-962');
  expect(await findingsOf(twin)).toContainEqual([
    'KIN_READS_LESS',
    expect.stringMatching(new RegExp(`test ${number} .*of “Part” by the same maker`)),
  ]);
  await anew({ sku: 'P-OTHER', name: 'Cold-side ducting' });
  const other = await gaining(835, 6, 'SV-963');
  expect((await findingsOf(other)).map(([code]) => code)).toEqual(['ONLY_TEST']);
});

it('a later test of a revision that says of no change reaches the claim of the one before', async () => {
  const first = await measuredTest(app, { manager, operator }, madeSession(841, 6), { plan: METRICS });
  const claim = await publish({ manager, reviewer }, first, { metric: 'upTo', unit: 'kW' });
  await anew({ revision: 'B', changeNote: '' });
  await gaining(842, 0, 'SV-970');
  const { claim: after } = await claimOf(manager, claim.id);
  expect(after.state).toBe('stale');
  expect(after.staleReason).toContain('of the part has another result');
});

it('two tags that have run as far as each other are asked to be two cars', async () => {
  await measuredTest(app, { manager, operator }, madeSession(851, 6), {
    plan: { ...METRICS, vehicleId: await vehicle('SV-981') },
  });
  const second = await gaining(852, 6, 'SV-982');
  const codes = async () => (await findingsOf(second)).map(([code]) => code);
  expect(await codes()).toEqual(['PUT_TOGETHER']);
  await app.pool.query(
    `update vehicles set odometer_km = 44900 + 100 * right(tag, 1)::int where tag in ('SV-981', 'SV-982')`,
  );
  expect(await codes()).toEqual(['PUT_TOGETHER', 'MAYBE_ONE_CAR']);
});
