import { and, eq } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import type { ScheduleShown, Suggestion } from '../../contract/plan/schedule.ts';
import type { TestDetail, TestPage } from '../../contract/overview.ts';
import type { Part, PartDetail, Vehicle } from '../../contract/register/register.ts';
import type { PlanDocument } from '../../core/plan/plan-document.ts';
import { documentOf, fieldsOf, hashOf, sheetOf } from '../plan/plan-document.ts';
import { planVersions, tests } from '../plan/tables.ts';
import type { Answer } from './app.ts';
import { houseWith } from './house.ts';

const { app, manager, operator } = houseWith('manager', 'operator');
let calibrationId: string, tunedRevision: string;
beforeAll(async () => {
  const made = (
    await manager<Part>('POST', '/parts', {
      part: { sku: 'SC-1', maker: 'M', name: 'Charger', category: 'supercharger' },
      revision: {
        revision: 'A',
        installHours: 3,
        removeHours: 2,
        needs: { partIds: [], calibration: true, fuel: '98 RON' },
        options: [{ name: 'pulley', settings: ['90 mm', '80 mm'] }],
      },
    })
  ).body;
  tunedRevision = (await manager<PartDetail>('GET', `/parts/${made.id}`)).body.revisions[0].id;
  await manager('PUT', '/applications', { partId: made.id, fitmentIds: [app.ids.fitment], fits: true });
  calibrationId = (
    await manager<{ id: string }>('POST', '/calibrations', {
      name: 'For the charger',
      revision: '1',
      fileHash: 'd'.repeat(64),
      fuel: '98 RON',
    })
  ).body.id;
});

/** A version of a plan as the database keeps it. */
const versionKept = async (testId: string, version: number) => {
  const [row] = await app.db
    .select()
    .from(planVersions)
    .where(and(eq(planVersions.testId, testId), eq(planVersions.version, version)));
  return { hash: row.hash, document: row.document as PlanDocument };
};
const detail = async (id: string): Promise<TestDetail> =>
  (await manager<TestDetail>('GET', `/tests/${id}`)).body;
const create = (
  change: Record<string, unknown> = {},
): Promise<Answer<{ id: string; ids: string[]; error: { code: string; message: string } }>> =>
  manager('POST', '/tests', app.plan(change));
const charger = (label: string, changes: object[], key = 'part', from: string | null = null) => ({
  key,
  label,
  role: 'part',
  from,
  changes,
});
const fit = (settings: object = { pulley: '90 mm' }) => ({
  kind: 'part fitted',
  category: 'supercharger',
  partRevisionId: tunedRevision,
  settings,
});
const stock = { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] };

describe('a plan', () => {
  it('says what differs between its arms and which claim it could support', async () => {
    const alone = await detail((await create()).body.id);
    expect(alone.arms[1]).toMatchObject({
      scope: 'part alone',
      differences: [{ subject: 'intake', from: 'stock', to: 'Part, revision A' }],
      facts: { subject: { kind: 'part', text: 'Part, revision A', against: null } },
    });
    const both = await detail(
      (
        await create({
          fuel: '98 RON',
          arms: [stock, charger('kit', [fit(), { kind: 'calibration', calibrationId }])],
        })
      ).body.id,
    );
    expect(both.arms[1]).toMatchObject({
      scope: 'part with its calibration',
      facts: {
        subject: {
          kind: 'part with calibration',
          text:
            'Charger, revision A (pulley 90 mm) with calibration For the charger, ' +
            'revision 1 against the same vehicle with 98 RON; stock runs on petrol 95 RON',
        },
      },
    });
    expect(both.plan.hours).toMatchObject({ pulls: 18, counted: 9, minutes: { installs: 300 } });
  });
  it('that lacks what a part needs is kept, and cannot be locked', async () => {
    const { id } = (await create({ fuel: '98 RON', arms: [stock, charger('kit', [fit()])] })).body;
    expect(await manager('POST', `/tests/${id}/lock`)).toMatchObject({
      status: 409,
      body: {
        error: {
          code: 'PLAN_HAS_STOPS',
          message: expect.stringContaining('without a calibration') as string,
        },
      },
    });
    expect(
      (
        await manager(
          'PUT',
          `/tests/${id}/plan`,
          app.plan({
            fuel: '98 RON',
            arms: [stock, charger('kit', [fit(), { kind: 'calibration', calibrationId }])],
          }),
        )
      ).status,
    ).toBe(204);
    expect((await manager('POST', `/tests/${id}/lock`)).status).toBe(204);
    expect(await manager('PUT', `/tests/${id}/plan`, app.plan())).toMatchObject({
      status: 409,
      body: { error: { code: 'PLAN_LOCKED' } },
    });
  });
  it.each([
    ['an arm that is never run', { order: ['stock', 'stock'] }, 400],
    [
      'two parts in a protocol of one',
      {
        arms: [stock, charger('a', [fit()]), charger('b', [fit()], 'b')],
        order: ['stock', 'part', 'b', 'stock'],
      },
      400,
    ],
    ['no metric', { metrics: [] }, 400],
    [
      'a part of no register',
      {
        arms: [
          stock,
          charger('x', [
            {
              kind: 'part fitted',
              category: 'intake',
              partRevisionId: '00000000-0000-4000-8000-000000000000',
              settings: {},
            },
          ]),
        ],
      },
      422,
    ],
    ['arms that differ in nothing', { arms: [stock, charger('x', [])] }, 422],
    ['no gear', { gear: ' ' }, 400],
    ['no fuel', { fuel: '' }, 400],
  ])('is refused with %s', async (_what, change, status) => {
    const before = (await manager<TestPage>('GET', '/tests')).body.items.length;
    expect((await create(change)).status).toBe(status);
    expect((await manager<TestPage>('GET', '/tests')).body.items).toHaveLength(before);
  });
  it('of stages, options and own order makes its run sheet', async () => {
    const options = ['90 mm', '80 mm'].map((size, i) =>
      charger(size, [fit({ pulley: size }), { kind: 'calibration', calibrationId }], `option-${i}`),
    );
    const sweep = await detail(
      (
        await create({
          protocol: 'options',
          fuel: '98 RON',
          remount: true,
          arms: [stock, ...options],
          order: ['stock', 'option-0', 'option-1', 'stock'],
        })
      ).body.id,
    );
    expect(sweep.pulls.filter((p) => p.counted).map((p) => p.arm)).toEqual([
      ...Array<string>(3).fill('stock'),
      ...Array<string>(3).fill('option-0'),
      ...Array<string>(3).fill('option-1'),
      ...Array<string>(3).fill('stock'),
    ]);
    expect(new Set(sweep.pulls.map((p) => p.mount)).size).toBe(4);
    const ladder = await detail(
      (
        await create({
          protocol: 'ladder',
          fuel: '98 RON',
          arms: [
            stock,
            charger('intake', [
              { kind: 'part fitted', category: 'intake', partRevisionId: app.ids.revision, settings: {} },
            ]),
            charger('kit', [fit(), { kind: 'calibration', calibrationId }], 'kit', 'part'),
          ],
          order: ['stock', 'part', 'kit', 'stock'],
        })
      ).body.id,
    );
    expect(ladder.arms[2].differences.map((d) => d.subject)).toEqual([
      'intake',
      'supercharger',
      'calibration',
    ]);
  });
  it('for several vehicles makes a test of each', async () => {
    const second = (
      await operator<Vehicle>('POST', '/vehicles', {
        fitmentId: app.ids.fitment,
        tag: 'car 2',
        odometerKm: 5,
        wheels: '205/55 R16',
      })
    ).body;
    const { body } = await create({
      protocol: 'vehicles',
      series: [{ vehicleId: second.id, dynoId: app.ids.dyno }],
    });
    expect(body.ids).toHaveLength(2);
    expect((await detail(body.ids[0])).series).toMatchObject([{ id: body.ids[1], vehicle: 'car 2' }]);
    expect(
      (await create({ protocol: 'vehicles', series: [{ vehicleId: app.ids.vehicle, dynoId: app.ids.dyno }] }))
        .body.error.code,
    ).toBe('VEHICLE_TWICE');
  });
});

describe('lock and amendment', () => {
  let id: string;
  beforeAll(async () => {
    id = (await create()).body.id;
    await manager('POST', `/tests/${id}/lock`);
  });
  it('an amendment changes what it names and nothing else', async () => {
    const full = (
      await create({
        controls: [{ quantity: 'oil', target: 95, tolerance: 5, unit: '°C' }],
        photographs: ['strapping'],
        logs: ['lambda'],
        coolDownMinutes: 11,
        standard: 'iso-1585',
      })
    ).body.id;
    await manager('POST', `/tests/${full}/lock`);
    const before = (await detail(full)).plan;
    expect(
      (
        await manager('POST', `/tests/${full}/amendments`, {
          reason: 'The fourth gear slips under load.',
          changes: { gear: '5th' },
        })
      ).status,
    ).toBe(204);
    const after = await detail(full);
    expect(after.plan).toEqual({ ...before, gear: '5th' });
    expect(after.amendments[0].changes).toHaveLength(1);
  });
  it('the hash is that of the plan kept beside it, and of the same plan locked elsewhere', async () => {
    const document = await versionKept(id, 1);
    expect(document.hash).toBe(hashOf(document.document));
    expect((await detail(id)).plan.hash).toBe(document.hash);
    const twin = (await create()).body.id;
    await manager('POST', `/tests/${twin}/lock`);
    expect((await versionKept(twin, 1)).hash).toBe(document.hash);
    expect(document.document).toMatchObject({
      format: 'evidentia-plan/2',
      version: 1,
      reason: null,
      fields: { protocol: 'A-B-A', runOrder: ['stock', 'part', 'stock'] },
      arms: [{ key: 'stock' }, { key: 'part', scope: 'part alone' }],
    });
  });
  it('an amendment is the next version: whole, hashed, and what the test then is', async () => {
    const own = (await create()).body.id;
    await manager('POST', `/tests/${own}/lock`);
    const amend = (changes: object) =>
      manager('POST', `/tests/${own}/amendments`, { reason: 'As the day has shown it.', changes });
    for (const changes of [
      { gear: '5th', logs: ['lambda'] },
      { addedRun: { arm: 'part', newMount: true }, band: { fromRpm: 2600, toRpm: 6400, stepRpm: 50 } },
      {
        metrics: ['bandAverage', 'upTo'],
        controls: [{ quantity: 'oil', target: 95, tolerance: 5, unit: '°C' }],
      },
    ])
      expect((await amend(changes)).status).toBe(204);
    for (let number = 1; number <= 4; number++) {
      const { hash, document } = await versionKept(own, number);
      expect(hash).toBe(hashOf(document));
      expect(document.version).toBe(number);
    }
    const [test] = await app.db.select().from(tests).where(eq(tests.id, own));
    const now = await documentOf(app.db, own, {
      version: 4,
      reason: 'As the day has shown it.',
      fields: fieldsOf(test),
      sheet: await sheetOf(app.db, own),
    });
    expect((await versionKept(own, 4)).document).toEqual(JSON.parse(JSON.stringify(now)));
    const file = await operator<{ sha256: string; plan: PlanDocument }>(
      'GET',
      `/tests/${own}/plan-versions/2`,
    );
    expect(file.body.plan.fields).toMatchObject({ gear: '5th', logs: ['lambda'], band: { fromRpm: 2500 } });
    expect(file.body.sha256).toBe(hashOf(file.body.plan));
    for (const none of ['5', '0', 'x', '1.5'])
      expect((await operator('GET', `/tests/${own}/plan-versions/${none}`)).status).toBe(404);
  });
  it('a repeat and a further run in one amendment each find their place, and two at once make two versions', async () => {
    const own = (await create()).body.id;
    await manager('POST', `/tests/${own}/lock`);
    const { pulls: before } = await detail(own);
    const of = before.find((p) => p.label === 'p2')!.id;
    await operator('POST', `/tests/${own}/pulls/${of}/exclusion`, {
      reason: 'aborted pull',
      note: 'lifted early',
    });
    const amend = (changes: object) =>
      manager('POST', `/tests/${own}/amendments`, { reason: 'As the day has shown it.', changes });
    const both = { repeatedPull: { pullId: of }, addedRun: { arm: 'part', newMount: true } };
    expect((await amend(both)).status).toBe(204);
    const { pulls } = await detail(own);
    expect(pulls.map((p) => p.position)).toEqual(pulls.map((_, i) => i + 1));
    expect(pulls[6]).toMatchObject({ label: 'p2r', run: 1, repeats: 'p2' });
    expect(pulls.slice(-6).map((p) => [p.label, p.run, p.mount])).toEqual(
      ['w20', 'w21', 'w22', 'p10', 'p11', 'p12'].map((label) => [label, 4, 2]),
    );
    expect((await versionKept(own, 2)).document.sheet.map((p) => p.label)).toEqual(pulls.map((p) => p.label));
    const answers = await Promise.all([amend({ gear: '5th' }), amend({ fuel: '98 RON' })]);
    expect(answers.map((a) => a.status)).toEqual([204, 204]);
    expect((await versionKept(own, 4)).document.fields).toMatchObject({ gear: '5th', fuel: '98 RON' });
  });
  it('the database keeps versions in turn, whole, and locks nothing without one', async () => {
    const own = (await create()).body.id;
    const refused = async (text: string, why: RegExp) =>
      expect(app.pool.query(text, [own, app.ids.manager])).rejects.toThrow(why);
    await refused(
      "update tests set locked_at = now(), locked_by = $2, plan_hash = 'made up' where id = $1",
      /without the plan/,
    );
    const insert = (version: number, document: string, reason: string) =>
      `insert into plan_versions (test_id, version, at, person_id, reason, hash, document) values ($1, ${version},
        now(), $2, ${reason}, 'h', ${document})`;
    await refused(insert(3, "'{}'", "'a reason of some length'"), /follows none/);
    await refused(insert(1, 'null', 'null'), /kept whole/);
    await refused(insert(1, "'{}'", "'a reason of some length'"), /amended_for_a_reason/);
    await manager('POST', `/tests/${own}/lock`);
    await refused(insert(2, "'{}'", "'short'"), /amended_for_a_reason/);
    for (const text of ['update plan_versions set hash = hash', 'delete from plan_versions'])
      await expect(app.pool.query(text)).rejects.toThrow(/written once/);
  });
  it('a change takes a reason, is listed, and leaves the lock as it was', async () => {
    const before = (await detail(id)).plan;
    expect(
      (await manager('POST', `/tests/${id}/amendments`, { reason: 'short', changes: { gear: '5th' } }))
        .status,
    ).toBe(400);
    expect(
      (
        await operator('POST', `/tests/${id}/amendments`, {
          reason: 'The fourth gear slips under load.',
          changes: { gear: '5th' },
        })
      ).status,
    ).toBe(403);
    expect(
      (
        await manager('POST', `/tests/${id}/amendments`, {
          reason: 'The fourth gear slips under load.',
          changes: { gear: '5th' },
        })
      ).status,
    ).toBe(204);
    const after = await detail(id);
    expect(after.plan).toMatchObject({ gear: '5th', hash: before.hash, lockedAt: before.lockedAt });
    expect(after.amendments).toMatchObject([
      {
        number: 1,
        person: 'manager',
        reason: 'The fourth gear slips under load.',
        changes: [{ field: 'gear', from: '4th', to: '5th' }],
      },
    ]);
    expect(after.summary.stages[0].note).toBe('locked, amended once');
    expect(
      await manager('POST', `/tests/${id}/amendments`, {
        reason: 'The fourth gear slips under load.',
        changes: { gear: '5th' },
      }),
    ).toMatchObject({ status: 422, body: { error: { code: 'NOTHING_CHANGED' } } });
  });
  it('the plan as it was locked can be taken away, whatever was amended since', async () => {
    const file = await operator<{ sha256: string; plan: PlanDocument; names: Record<string, string> }>(
      'GET',
      `/tests/${id}/locked-plan.json`,
    );
    expect(file.body).toMatchObject({
      sha256: (await detail(id)).plan.hash,
      plan: { fields: { gear: '4th' } },
      names: { [`⟦part:${app.ids.part}⟧`]: 'Part' },
    });
    expect(file.body.sha256).toBe(hashOf(file.body.plan));
    expect((await operator('GET', `/tests/${(await create()).body.id}/locked-plan.json`)).status).toBe(404);
  });
  it('a run can be added, and only so', async () => {
    expect(
      (
        await manager('POST', `/tests/${id}/amendments`, {
          reason: 'A second look at the part.',
          changes: { addedRun: { arm: 'part', newMount: false } },
        })
      ).status,
    ).toBe(204);
    const { pulls, plan } = await detail(id);
    expect(plan.order).toEqual(['stock', 'part', 'stock', 'part']);
    expect(pulls.filter((p) => p.run === 4).map((p) => p.label)).toEqual([
      'w19',
      'w20',
      'w21',
      'p10',
      'p11',
      'p12',
    ]);
    await expect(
      app.pool.query(
        'insert into pulls (id, test_id, position, label, run, arm, mount, ' +
          "counted) values (gen_random_uuid(), $1, 99, 'p99', 9, 'part', 1, true)",
        [id],
      ),
    ).rejects.toThrow(/locked/);
  });
  it.each([
    "update tests set gear = 'x' where id = $1",
    "update tests set plan_hash = repeat('0', 64) where id = $1",
    'update tests set amendment_count = 7 where id = $1',
    "update test_arms set label = 'x' where test_id = $1",
    'delete from test_arms where test_id = $1',
  ])('the database refuses: %s', async (statement) => {
    await expect(app.pool.query(statement, [id])).rejects.toThrow(/locked/);
  });
  it('the run sheet is a table a spreadsheet reads', async () => {
    const file = await operator('GET', `/tests/${id}/run-sheet.csv`);
    expect(file.headers.get('content-disposition')).toMatch(/run-sheet\.csv/);
    const lines = file.bytes.toString().trim().split('\r\n');
    expect(lines).toHaveLength(25);
    expect(lines[4]).toMatch(/^4,p1,1,1,stock,yes,/);
  });
});

describe('the calendar', () => {
  const week = async (): Promise<ScheduleShown> =>
    (await manager<ScheduleShown>('GET', '/schedule?from=2026-11-16&days=7')).body;
  const place = (testId: string, start: string): Promise<Answer<{ error: { code: string } }>> =>
    operator('POST', '/schedule/bookings', { placements: [{ testId, dynoId: app.ids.dyno, start }] });
  let ids: string[];
  beforeAll(async () => {
    ids = [(await create()).body.id, (await create()).body.id];
  });
  it('suggests places for all that waits, in opening hours, and places nothing by itself', async () => {
    const { body } = await operator<Suggestion>('POST', '/schedule/suggestion', {
      from: '2026-11-16T00:00:00Z',
      days: 28,
    });
    expect(body.placements.length + body.unplaced.length).toBe((await week()).waiting.length);
    expect((await week()).bookings).toEqual([]);
    for (const p of body.placements) {
      expect(new Date(p.start).getUTCHours()).toBeGreaterThanOrEqual(8);
      expect(Date.parse(p.end)).toBeLessThanOrEqual(Date.parse(`${p.start.slice(0, 10)}T17:00:00Z`));
    }
  });
  it('keeps to opening hours, to one session on a dyno and to one place for a vehicle', async () => {
    expect((await place(ids[0], '2026-11-17T08:00:00Z')).status).toBe(204);
    expect((await place(ids[1], '2026-11-17T09:00:00Z')).body.error.code).toBe('DYNO_TAKEN');
    expect((await place(ids[1], '2026-11-17T16:00:00Z')).body.error.code).toBe('OUTSIDE_OPENING');
    expect((await place(ids[1], '2026-11-21T09:00:00Z')).body.error.code).toBe('OUTSIDE_OPENING');
    const both = await Promise.all([
      place(ids[1], '2026-11-18T08:00:00Z'),
      place(ids[0], '2026-11-18T08:00:00Z'),
    ]);
    expect(both.map((a) => a.status).sort()).toEqual([204, 409]);
    await expect(
      app.pool.query(
        'insert into bookings select $1, vehicle_id, dyno_id, starts_at, ends_at, placed_by, person_id, placed_at from bookings limit 1',
        [(await create()).body.id],
      ),
    ).rejects.toThrow(/vehicle_in_one_place/);
  });
  it('is given out as iCalendar', async () => {
    const file = await operator('GET', '/schedule.ics');
    expect(file.headers.get('content-type')).toContain('text/calendar');
    const text = file.bytes.toString().replace(/\r\n[ \t]/g, '');
    expect(text.match(/BEGIN:VEVENT/g)).toHaveLength((await week()).bookings.length);
    expect(text).toMatch(/DTSTART:202611\d\dT\d{6}Z/);
    expect((await operator('GET', `/tests/${(await create()).body.id}/session.ics`)).status).toBe(404);
  });
  it('closes a day with nothing on it, and takes a session out again', async () => {
    const { bookings } = await week();
    const [first] = bookings;
    const closure = {
      dynoId: app.ids.dyno,
      start: `${first.start.slice(0, 10)}T00:00:00Z`,
      end: `${first.start.slice(0, 10)}T23:00:00Z`,
      reason: 'service',
    };
    expect(await operator('POST', '/schedule/closures', closure)).toMatchObject({
      status: 409,
      body: { error: { code: 'SESSIONS_THERE' } },
    });
    expect((await operator('DELETE', `/schedule/bookings/${first.testId}`)).status).toBe(204);
    expect((await operator('POST', '/schedule/closures', closure)).status).toBe(204);
    expect((await place(first.testId, first.start)).body.error.code).toBe('OUTSIDE_OPENING');
    expect((await operator('DELETE', `/schedule/closures/${(await week()).closures[0].id}`)).status).toBe(
      204,
    );
    expect((await place(first.testId, first.start)).status).toBe(204);
  });
});
