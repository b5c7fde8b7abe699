import { describe, expect, it } from 'vitest';
import type {
  ConfigurationShown,
  Fitment,
  Part,
  PartDetail,
  VehicleDetail,
} from '../../contract/register/register.ts';
import type { ImportPreview } from '../../contract/register/import.ts';
import type { Answer } from './app.ts';
import { houseWith } from './house.ts';

const { app, manager, operator } = houseWith('manager', 'operator');
type Refused = { error: { code: string; message: string } };

const fitment = (change: object = {}) => ({
  maker: 'Oriel',
  model: 'Tern 1.8 estate',
  platformCode: 'OT3',
  yearFrom: 2017,
  yearTo: 2023,
  engineCode: 'O18N',
  displacementCc: 1798,
  cylinders: 4,
  aspiration: 'natural',
  ignition: 'spark',
  fuel: 'petrol 95 RON',
  transmission: '6-speed manual',
  drivenWheels: 'front',
  outputVariant: '103 kW',
  market: 'EU',
  ratedPowerKw: 103,
  ratedTorqueNm: 174,
  ratedStandard: 'ISO 1585',
  family: 'O18',
  stockTyres: '205/55 R16',
  unitsPerYear: 4200,
  ...change,
});
const part = (sku: string, change: object = {}) => ({
  part: { sku, maker: 'Lowmoss', name: `Part ${sku}`, category: 'intake', ...change },
  revision: { revision: 'A' },
});

describe('fitments', () => {
  let first: Fitment;
  it('are added once, found by a loosely typed phrase, and changed by who has the newest version', async () => {
    first = (await manager<Fitment>('POST', '/fitments', fitment())).body;
    expect(await manager('POST', '/fitments', fitment({ model: 'TERN 1.8 Estate' }))).toMatchObject({
      status: 409,
      body: { error: { code: 'FITMENT_THERE_ALREADY' } },
    });
    await manager('POST', '/fitments', fitment({ outputVariant: '92 kW', ratedPowerKw: 92 }));
    for (const phrase of [
      'tern 1,8 estate',
      'oriell tern',
      '2019 tern',
      'terrn estat',
      'O18N 103',
      'tern wagon',
    ])
      expect(
        (
          await manager<{ items: Fitment[] }>('GET', `/fitments?q=${encodeURIComponent(phrase)}`)
        ).body.items.map((f) => f.model),
        phrase,
      ).toContain('Tern 1.8 estate');
    for (const phrase of ['tern 2010', 'sprat', 'tern diesel'])
      expect(
        (await manager<{ items: Fitment[] }>('GET', `/fitments?q=${encodeURIComponent(phrase)}`)).body.items,
        phrase,
      ).toEqual([]);
    expect(
      (
        await manager<Fitment>('PUT', `/fitments/${first.id}`, {
          version: first.version,
          record: fitment({ unitsPerYear: 5000 }),
        })
      ).body,
    ).toMatchObject({ unitsPerYear: 5000, version: 2 });
    expect(
      await manager('PUT', `/fitments/${first.id}`, { version: first.version, record: fitment() }),
    ).toMatchObject({ status: 409, body: { error: { code: 'CHANGED_MEANWHILE' } } });
  });
  it('keyset pages hold every row once, whatever is added meanwhile', async () => {
    const seen: string[] = [];
    let after: string | null = '';
    let added = false;
    do {
      const page: { items: Fitment[]; next: string | null } = (
        await manager<{ items: Fitment[]; next: string | null }>(
          'GET',
          `/fitments?limit=1${after ? `&after=${after}` : ''}`,
        )
      ).body;
      seen.push(...page.items.map((f) => f.id));
      if (!added) {
        await manager('POST', '/fitments', fitment({ maker: 'Aaa', model: 'before all others' }));
        added = true;
      }
      after = page.next;
    } while (after);
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen).toHaveLength(3);
    expect(await manager('GET', '/fitments?after=nonsense')).toMatchObject({
      status: 400,
      body: { error: { code: 'BAD_CURSOR' } },
    });
  });
  it('says which siblings a test would serve, and what bars the others', async () => {
    const { body } = await manager<{
      family: { name: string; state: string; bars: { code: string }[] }[];
      groups: number;
    }>('GET', `/fitments/${first.id}`);
    expect(body.family.find((f) => f.name.includes('92 kW'))).toMatchObject({
      state: 'barred',
      bars: [{ code: 'OTHER_OUTPUT' }],
    });
    expect(body.groups).toBe(2);
  });
});

describe('the ledger answers what was on the car', () => {
  const on = async (day: string): Promise<ConfigurationShown> =>
    (
      await operator<ConfigurationShown>(
        'GET',
        `/vehicles/${app.ids.vehicle}/configuration?on=${day}T12:00:00Z`,
      )
    ).body;
  const enter = (at: string, change: object | null, more: object = {}): Promise<Answer<Refused>> =>
    operator<Refused>('POST', `/vehicles/${app.ids.vehicle}/ledger`, {
      at: `${at}T08:00:00Z`,
      change,
      ...more,
    });
  it('on any day, with what is not stock listed', async () => {
    expect((await on('2026-09-01')).stock.stock).toBe('unknown');
    for (const item of ['air filter', 'oil'])
      expect((await enter('2026-08-01', { kind: 'service', item }, { odometerKm: 41_000 })).status).toBe(204);
    await enter('2026-08-01', { kind: 'tyres', text: '205/55 R16' });
    await enter('2026-09-10', {
      kind: 'part fitted',
      category: 'intake',
      partRevisionId: app.ids.revision,
      settings: {},
    });
    await enter('2026-09-20', { kind: 'returned to stock', category: 'intake' });
    expect((await on('2026-09-05')).stock).toMatchObject({ stock: 'yes', notStock: [] });
    expect((await on('2026-09-15')).stock).toMatchObject({
      stock: 'no',
      notStock: [{ code: 'PART_FITTED', text: 'Part, revision A' }],
    });
    expect((await on('2026-09-25')).stock.stock).toBe('yes');
    expect((await on('2027-08-25')).stock.worn).toEqual(
      expect.arrayContaining([expect.objectContaining({ subject: 'air filter' })]),
    );
  });
  it('a wrong entry is put right with a reason and stays readable', async () => {
    const { body } = await operator<VehicleDetail>('GET', `/vehicles/${app.ids.vehicle}`);
    const wrong = body.ledger.find((e) => e.change?.kind === 'part fitted')!;
    expect(await enter('2026-09-10', null, { supersedes: wrong.id })).toMatchObject({
      status: 400,
      body: { error: { message: expect.stringContaining('why') as string } },
    });
    expect(
      (await enter('2026-09-10', null, { supersedes: wrong.id, note: 'The part was fitted to another car.' }))
        .status,
    ).toBe(204);
    expect((await on('2026-09-15')).stock.stock).toBe('yes');
    expect(
      await enter('2026-09-10', null, { supersedes: wrong.id, note: 'Once more for the same.' }),
    ).toMatchObject({ status: 409, body: { error: { code: 'SUPERSEDED_ALREADY' } } });
    expect(
      (await operator<VehicleDetail>('GET', `/vehicles/${app.ids.vehicle}`)).body.ledger.find(
        (e) => e.id === wrong.id,
      ),
    ).toMatchObject({ superseded: true, text: 'Part, revision A fitted' });
  });
  it.each([
    ['the future', () => enter('2031-01-01', { kind: 'fuel', text: '95' }), 422, 'IN_THE_FUTURE'],
    [
      'kilometres that run back',
      () => enter('2026-09-21', { kind: 'service', item: 'oil' }, { odometerKm: 39_000 }),
      422,
      'ODOMETER_RUNS_BACK',
    ],
    [
      'a part in another place',
      () =>
        enter('2026-09-21', {
          kind: 'part fitted',
          category: 'pulley',
          partRevisionId: app.ids.revision,
          settings: {},
        }),
      422,
      'OTHER_PLACE',
    ],
    [
      'a setting it does not have',
      () =>
        enter('2026-09-21', {
          kind: 'part fitted',
          category: 'intake',
          partRevisionId: app.ids.revision,
          settings: { insert: 'out' },
        }),
      422,
      'UNKNOWN_SETTING',
    ],
  ] as const)('refuses %s', async (_what, ask, status, code) =>
    expect(await ask()).toMatchObject({ status, body: { error: { code } } }),
  );
  it('cannot be rewritten, not even in the database', async () => {
    for (const statement of ["update vehicle_ledger set note = 'x'", 'delete from vehicle_ledger'])
      await expect(app.pool.query(statement)).rejects.toThrow(/written once/);
  });
});

describe('parts and calibrations', () => {
  it('a new revision never rewrites the old one', async () => {
    const made = (await manager<Part>('POST', '/parts', part('IN-9'))).body;
    expect(
      (
        await manager('POST', `/parts/${made.id}/revisions`, {
          revision: 'B',
          changeNote: 'wider',
          installHours: 2,
        })
      ).status,
    ).toBe(201);
    expect(await manager('POST', `/parts/${made.id}/revisions`, { revision: 'a' })).toMatchObject({
      status: 409,
      body: { error: { code: 'REVISION_THERE_ALREADY' } },
    });
    expect(
      (await manager<PartDetail>('GET', `/parts/${made.id}`)).body.revisions.map((r) => [
        r.revision,
        r.installHours,
      ]),
    ).toEqual([
      ['B', 2],
      ['A', 1],
    ]);
    await expect(app.pool.query('update part_revisions set install_hours = 9')).rejects.toThrow(
      /written once/,
    );
    expect(
      await manager('POST', `/parts/${made.id}/revisions`, {
        revision: 'C',
        needs: { partIds: [made.id], calibration: false, fuel: null },
      }),
    ).toMatchObject({ status: 422, body: { error: { code: 'NEEDS_ITSELF' } } });
  });
  it('a calibration is known by its file', async () => {
    const calibration = { name: 'Touring', revision: '1', fileHash: 'a'.repeat(64) };
    expect((await manager('POST', '/calibrations', calibration)).status).toBe(201);
    expect(await manager('POST', '/calibrations', { ...calibration, name: 'Another name' })).toMatchObject({
      status: 409,
      body: { error: { code: 'SAME_CALIBRATION_FILE' } },
    });
    expect(
      await manager('POST', '/calibrations', { ...calibration, fileHash: 'b'.repeat(64) }),
    ).toMatchObject({ status: 409, body: { error: { code: 'CALIBRATION_THERE_ALREADY' } } });
  });
});

describe('spreadsheet import', () => {
  const csv = (text: string) => new TextEncoder().encode(text);
  const send = <T>(path: string, text: string): Promise<Answer<T>> =>
    manager<T>('POST', path, csv(text), { 'content-type': 'text/csv' });
  const head =
    'Maker;Model;Output variant;Market;Year from;Engine ' +
    'code;Displacement;Cyl;Aspiration;Ignition;Fuel;Drive;Power;Torque;Rated to;Family;Units a year';
  const row = (model: string, units: string, aspiration = 'turbo') =>
    `Quillon;${model};85 kW;EU;2019;Q10T;999;3;${aspiration};spark;petrol;front;85,5;190;ISO 1585;Q10;${units}`;
  const counts = async (): Promise<number> =>
    Number((await app.pool.query<{ n: string }>('select count(*) n from fitments')).rows[0].n);
  it('previews what would change, imports exactly that, and then has nothing left to do', async () => {
    const text = `${head}\r\n${row('Sprat', '9 800')}\r\n${row('Sprat van', '2100')}\r\n`;
    const before = await counts();
    const { body } = await send<ImportPreview>('/register/import/fitments/preview', text);
    expect(body).toMatchObject({ counts: { add: 2, change: 0, keep: 0 }, problems: [] });
    expect(await counts()).toBe(before);
    expect((await send(`/register/import/fitments?digest=${body.digest}`, text)).body).toEqual({
      added: 2,
      changed: 0,
      kept: 0,
    });
    const again = (
      await send<ImportPreview>('/register/import/fitments/preview', text.replace('2100', '2500'))
    ).body;
    expect(again).toMatchObject({
      counts: { add: 0, change: 1, keep: 1 },
      rows: [
        { action: 'change', changes: [{ field: 'Units a year', from: '2100', to: '2500' }] },
        { action: 'keep' },
      ],
    });
    expect(
      (await send(`/register/import/fitments?digest=${again.digest}`, text.replace('2100', '2500'))).body,
    ).toEqual({ added: 0, changed: 1, kept: 1 });
    expect(
      (await manager<{ items: Fitment[] }>('GET', '/fitments?q=sprat%20van')).body.items[0],
    ).toMatchObject({ unitsPerYear: 2500, ratedPowerKw: 85.5, version: 2 });
  });
  it('names errors by line and column, and imports nothing of a table that has one', async () => {
    const text = `${head}\n${row('Sprat 2', 'many')}\n${row('Sprat 3', '5', 'blown')}\n${row('Sprat 4', '7')}\n${row('sprat 4', '8')}\n`;
    const before = await counts();
    const { body } = await send<ImportPreview>('/register/import/fitments/preview', text);
    expect(body.problems).toEqual([
      { line: 2, column: 'Units a year', message: '“many” is not a number.' },
      {
        line: 3,
        column: 'Aspiration',
        message: '“blown” is not one of: natural, turbo, turbo-intercooled, supercharged.',
      },
      { line: 5, column: null, message: expect.stringContaining('the same record as line 4') as string },
    ]);
    expect(await send(`/register/import/fitments?digest=${body.digest}`, text)).toMatchObject({
      status: 422,
      body: { error: { code: 'ROWS_WITH_PROBLEMS', message: expect.stringContaining('Line 2') as string } },
    });
    expect(await counts()).toBe(before);
    expect(
      (await send<ImportPreview>('/register/import/fitments/preview', 'Maker;Model\nA;B\n')).body.problems,
    ).toEqual(expect.arrayContaining([expect.objectContaining({ line: 1, column: 'Engine code' })]));
  });
  it('refuses what is no longer what was previewed', async () => {
    const text = 'SKU,Maker,Name,Category\nN-1,Lowmoss,New one,intake\n';
    const { body } = await send<ImportPreview>('/register/import/parts/preview', text);
    await manager('POST', '/parts', part('N-1'));
    expect(await send(`/register/import/parts?digest=${body.digest}`, text)).toMatchObject({
      status: 409,
      body: { error: { code: 'REGISTER_MOVED_ON' } },
    });
  });
  it('what is exported is imported again without a change, formulas disarmed', async () => {
    await manager('POST', '/parts', part('F-1', { name: '=cmd()' }));
    for (const kind of ['fitments', 'parts', 'applications']) {
      const file = await manager('GET', `/register/export/${kind}`);
      expect(file.headers.get('content-type')).toContain('text/csv');
      const { body } = await send<ImportPreview>(`/register/import/${kind}/preview`, file.bytes.toString());
      expect(body, kind).toMatchObject({ counts: { add: 0, change: 0 }, problems: [] });
    }
    expect((await manager('GET', '/register/export/parts')).bytes.toString()).toContain("'=cmd()");
  });
  it('a new revision in a table makes one; the same revision with other values is refused', async () => {
    const [first] = [
      (
        await send<ImportPreview>(
          '/register/import/parts/preview',
          'SKU,Maker,Name,Category,Revision,Install hours\nN-1,Lowmoss,Part N-1,intake,B,3\n',
        )
      ).body,
    ];
    expect(
      (
        await send(
          `/register/import/parts?digest=${first.digest}`,
          'SKU,Maker,Name,Category,Revision,Install hours\nN-1,Lowmoss,Part N-1,intake,B,3\n',
        )
      ).status,
    ).toBe(201);
    const text = 'SKU,Maker,Name,Category,Revision,Install hours\nN-1,Lowmoss,Part N-1,intake,B,4\n';
    const { body } = await send<ImportPreview>('/register/import/parts/preview', text);
    expect(await send(`/register/import/parts?digest=${body.digest}`, text)).toMatchObject({
      status: 409,
      body: { error: { code: 'REVISION_STAYS' } },
    });
  });
  it('applications name parts and fitments that are there', async () => {
    const text =
      'SKU\tMaker\tModel\tOutput variant\tMarket\nN-1\tQuillon\tSprat\t85 ' +
      'kW\tEU\nX-0\tQuillon\tSprat\t85 kW\tEU\nN-1\tQuillon\tNone\t85 kW\tEU\n';
    expect((await send<ImportPreview>('/register/import/applications/preview', text)).body).toMatchObject({
      counts: { add: 1 },
      problems: [
        { line: 3, column: 'SKU' },
        { line: 4, column: 'Model' },
      ],
    });
  });
});
