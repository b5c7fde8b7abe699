/** The rest of the register over HTTP: dynos and sensors, applications, vehicles, who may change what, and the trail it leaves. */
import { describe, expect, it } from 'vitest';
import type {
  ApplicationGrid,
  Dyno,
  DynoDetail,
  Fitment,
  Part,
  Planning,
  Register,
  Vehicle,
} from '../../contract/register/register.ts';
import { houseWith } from './house.ts';

const { app, manager, operator, editor } = houseWith('manager', 'operator', 'editor');

const dyno = (change: object = {}) => ({
  name: 'Cell 2',
  site: 'yard',
  kind: 'hub',
  siteHeightM: 120,
  appliesStandard: 'none',
  repeatability: { bandAverage: { variance: 0.25, df: 12 } },
  opening: [{ day: 1, from: '08:00', to: '16:00' }],
  ...change,
});
const trail = async (action: string): Promise<{ person: string; detail: Record<string, unknown> }[]> =>
  (
    await manager<{ items: { action: string; person: string; detail: Record<string, unknown> }[] }>(
      'GET',
      '/audit?limit=200',
    )
  ).body.items.filter((e) => e.action === action);

describe('dynos and sensors', () => {
  let made: Dyno;
  it('are registered with scatter and opening hours', async () => {
    made = (await manager<Dyno>('POST', '/dynos', dyno())).body;
    expect(made).toMatchObject({ name: 'Cell 2', version: 1, timeZone: 'UTC', driftBound: null });
    expect((await manager<Register>('GET', '/register')).body.dynos.map((d) => d.name)).toEqual([
      'Cell',
      'Cell 2',
    ]);
  });
  it('one name is one dyno, and a time zone must be one', async () => {
    expect(await manager('POST', '/dynos', dyno())).toMatchObject({
      status: 409,
      body: { error: { code: 'NAME_TAKEN' } },
    });
    expect(await manager('POST', '/dynos', dyno({ name: 'Cell 3', timeZone: 'Oslo' }))).toMatchObject({
      status: 422,
      body: { error: { code: 'UNKNOWN_TIME_ZONE' } },
    });
  });
  it('a change is told by field in the trail, and an older version is refused', async () => {
    expect(
      (await manager('PUT', `/dynos/${made.id}`, { version: 1, record: dyno({ driftBound: 0.2 }) })).status,
    ).toBe(200);
    expect((await trail('changed dyno'))[0].detail).toMatchObject({
      changes: { driftBound: { from: null, to: 0.2 } },
    });
    expect(await manager('PUT', `/dynos/${made.id}`, { version: 1, record: dyno() })).toMatchObject({
      status: 409,
      body: { error: { code: 'CHANGED_MEANWHILE' } },
    });
  });
  it('a newer calibration takes the place of the older one of the same sensor', async () => {
    const sensor = {
      quantity: 'barometer',
      serial: 'BP-1',
      uncertainty: 0.4,
      unit: 'hPa',
      calibratedOn: '2026-01-01',
      dueOn: '2027-01-01',
    };
    expect((await operator('POST', `/dynos/${made.id}/sensors`, sensor)).status).toBe(204);
    expect(
      (await operator('POST', `/dynos/${made.id}/sensors`, { ...sensor, calibratedOn: '2026-06-01' })).status,
    ).toBe(204);
    const { sensors } = (await operator<DynoDetail>('GET', `/dynos/${made.id}`)).body;
    expect(sensors).toMatchObject([{ serial: 'BP-1', calibratedOn: '2026-06-01' }]);
    expect((await operator('POST', `/dynos/${made.id}/sensors`, { ...sensor, uncertainty: 0 })).status).toBe(
      400,
    );
    expect((await operator('DELETE', `/dynos/${made.id}/sensors/${sensors[0].id}`)).status).toBe(204);
    expect((await operator('DELETE', `/dynos/${made.id}/sensors/${sensors[0].id}`)).status).toBe(404);
    expect(await trail('entered sensor')).toHaveLength(2);
  });
});

describe('who may change the register', () => {
  it('reading is for the house, changing for those who answer for it', async () => {
    expect((await editor('GET', '/parts')).status).toBe(200);
    for (const [method, path, body] of [
      ['POST', '/fitments', {}],
      ['POST', '/parts', {}],
      ['POST', '/dynos', {}],
      ['POST', '/calibrations', {}],
      ['PUT', '/applications', {}],
    ] as const) {
      expect((await operator(method, path, body)).status, `operator ${path}`).toBe(403);
      expect((await editor(method, path, body)).status, `editor ${path}`).toBe(403);
    }
    expect((await editor('POST', `/vehicles/${app.ids.vehicle}/ledger`, {})).status).toBe(403);
  });
  it('a body that does not parse is refused by field, and nothing is kept', async () => {
    const before = (await manager<{ total: number }>('GET', '/parts')).body.total;
    expect(
      await manager('POST', '/parts', {
        part: { sku: '', maker: 'M', name: 'x', category: 'intake' },
        revision: { revision: 'A' },
      }),
    ).toMatchObject({
      status: 400,
      body: { error: { code: 'BAD_REQUEST', message: expect.stringContaining('sku') as string } },
    });
    // A revision that cannot be kept takes its part with it.
    expect(
      await manager('POST', '/parts', {
        part: { sku: 'N', maker: 'M', name: 'x', category: 'intake' },
        revision: { revision: 'A', conflicts: ['00000000-0000-4000-8000-000000000000'] },
      }),
    ).toMatchObject({ status: 422, body: { error: { code: 'UNKNOWN_PART' } } });
    expect((await manager<{ total: number }>('GET', '/parts')).body.total).toBe(before);
  });
});

describe('vehicles', () => {
  it('have a tag of their own and stay of their fitment', async () => {
    const other = (
      await manager<Fitment>('POST', '/fitments', {
        maker: 'Quillon',
        model: 'Sprat',
        yearFrom: 2019,
        engineCode: 'Q',
        displacementCc: 999,
        cylinders: 3,
        aspiration: 'turbo',
        ignition: 'spark',
        fuel: 'petrol',
        drivenWheels: 'front',
        outputVariant: '85 kW',
        market: 'EU',
        ratedPowerKw: 85,
        ratedTorqueNm: 190,
        ratedStandard: 'ISO 1585',
        family: 'Q',
      })
    ).body;
    const vehicle = (
      await operator<Vehicle>('POST', '/vehicles', {
        fitmentId: other.id,
        tag: 'SV-2',
        odometerKm: 10,
        gears: [{ name: '4th', ratio: 1.03 }],
      })
    ).body;
    expect(
      await operator('POST', '/vehicles', { fitmentId: other.id, tag: 'sv-2', odometerKm: 10 }),
    ).toMatchObject({ status: 409, body: { error: { code: 'TAG_TAKEN' } } });
    expect(
      await operator('PUT', `/vehicles/${vehicle.id}`, {
        version: 1,
        record: { ...vehicle, fitmentId: app.ids.fitment },
      }),
    ).toMatchObject({ status: 409, body: { error: { code: 'FITMENT_FIXED' } } });
    expect(
      (await operator<{ items: { tag: string; stock: string }[] }>('GET', '/vehicles?q=sprat')).body.items,
    ).toMatchObject([{ tag: 'SV-2', stock: 'unknown' }]);
    expect((await operator<Planning>('GET', `/vehicles/${vehicle.id}/planning`)).body.revisions).toEqual([]);
  });
  it('a reading in the ledger moves the odometer on, never back', async () => {
    const path = `/vehicles/${app.ids.vehicle}`;
    await operator('POST', `${path}/ledger`, {
      at: '2026-11-02T08:00:00Z',
      change: { kind: 'service', item: 'oil' },
      odometerKm: 52_000,
    });
    await operator('POST', `${path}/ledger`, {
      at: '2026-10-02T08:00:00Z',
      change: { kind: 'service', item: 'air filter' },
      odometerKm: 50_000,
    });
    expect((await operator<{ vehicle: Vehicle }>('GET', path)).body.vehicle.odometerKm).toBe(52_000);
  });
});

describe('the application grid', () => {
  it('lists every fitment and part, and takes a mark on and off', async () => {
    const made = (
      await manager<Part>('POST', '/parts', {
        part: { sku: 'G-1', maker: 'M', name: 'Grid part', category: 'filter' },
        revision: { revision: 'A' },
      })
    ).body;
    const grid = async (): Promise<ApplicationGrid> =>
      (await manager<ApplicationGrid>('GET', '/applications')).body;
    expect((await grid()).rows.every((row) => !row.partIds.includes(made.id))).toBe(true);
    expect(
      (await manager('PUT', '/applications', { partId: made.id, fitmentIds: [app.ids.fitment], fits: true }))
        .status,
    ).toBe(204);
    // Said twice is said once.
    expect(
      (await manager('PUT', '/applications', { partId: made.id, fitmentIds: [app.ids.fitment], fits: true }))
        .status,
    ).toBe(204);
    const marked = await grid();
    expect(marked.parts.map((p) => p.name)).toEqual(['Grid part', 'Part']);
    expect(marked.rows.filter((row) => row.partIds.includes(made.id)).map((row) => row.id)).toEqual([
      app.ids.fitment,
    ]);
    expect(
      (await manager('PUT', '/applications', { partId: made.id, fitmentIds: [app.ids.fitment], fits: false }))
        .status,
    ).toBe(204);
    expect((await grid()).rows.every((row) => !row.partIds.includes(made.id))).toBe(true);
    expect(
      (
        await manager('PUT', '/applications', {
          partId: made.id,
          fitmentIds: ['00000000-0000-4000-8000-000000000000'],
          fits: true,
        })
      ).status,
    ).toBe(404);
    expect((await trail('listed part for fitments'))[0].detail).toMatchObject({
      part: 'Grid part',
      fitments: 1,
    });
  });
});

it('every change of the register is in the trail, with who made it', async () => {
  const {
    body: { items: body },
  } = await manager<{ items: { action: string; person: string }[] }>('GET', '/audit?limit=200');
  for (const action of [
    'added dyno',
    'changed dyno',
    'entered sensor',
    'removed sensor',
    'added fitment',
    'added vehicle',
    'wrote ledger entry',
    'added part',
    'listed part for fitments',
    'took part off fitments',
  ]) {
    expect(
      body.map((e) => e.action),
      action,
    ).toContain(action);
    expect(body.find((e) => e.action === action)!.person).toMatch(/manager|operator/);
  }
});
