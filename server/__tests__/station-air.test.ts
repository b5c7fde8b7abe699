import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Evidence } from '../../contract/publish/claim.ts';
import type { AirFileShown } from '../../contract/capture/air-file.ts';
import { startApp, type Ask, type TestApp } from './app.ts';
import { detailOf, madeSession, publish, type MadeSession } from './made-session.ts';

interface Refused {
  error: { code: string; message: string; details?: Record<string, unknown> };
}
let app: TestApp, manager: Ask, operator: Ask, partner: Ask, reviewer: Ask;
let session: MadeSession;
let id = '';
const made = new TextEncoder();
/** Pull n began at 10:00 and n times seven minutes, by its own preamble. */
const clock = (n: number): string => clockOf(7 * n);
/** A clock so many minutes after ten. */
const clockOf = (minutes: number): string =>
  `${10 + Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}:00`;
const pullFile = (label: string): Buffer => {
  const n = Number(label.slice(1));
  return Buffer.concat([made.encode(`Recorded: 2026-11-26 ${clock(n)}\n`), session.bytesOf(label)]);
};
const HEAD = 'Time,Air temperature (°C),Station pressure (hPa),Relative humidity (%)';
const STATION = [
  HEAD,
  ...Array.from(
    { length: 8 },
    (_, i) => `2026-11-26 10:${String(5 * i).padStart(2, '0')}:00,${20 + i / 5},1004,48`,
  ),
  '',
].join('\n');
const send = <T = AirFileShown>(ask: Ask, text: string, query = '') =>
  ask<T>('POST', `/tests/${id}/air-files?name=station.csv${query}`, made.encode(text));

beforeAll(async () => {
  app = await startApp();
  [manager, operator, partner, reviewer] = (await Promise.all(
    ['manager', 'operator', 'partner', 'reviewer'].map((key) => app.signIn(key)),
  )) as [Ask, Ask, Ask, Ask];
  session = madeSession(911);
  id = (await manager<{ id: string }>('POST', '/tests', app.plan())).body.id;
  await manager('POST', `/tests/${id}/lock`);
  for (const pull of (await detailOf(manager, id)).pulls.filter((p) => p.counted))
    expect(
      (
        await operator(
          'POST',
          `/tests/${id}/pulls/${pull.id}/file?name=${pull.label}.csv`,
          pullFile(pull.label),
        )
      ).status,
    ).toBe(201);
});
afterAll(async () => app.stop());

describe('air joined from the file of a station', () => {
  let shown: AirFileShown;
  it('is shown for every pull by the time of its recording, between two readings, never further than ten minutes', async () => {
    const answer = await send(operator, STATION);
    expect(answer.status).toBe(201);
    shown = answer.body;
    expect(shown).toMatchObject({ readings: 8, pressureKind: 'station', findings: [] });
    const first = shown.pulls.find((p) => p.label === 'p1')!;
    expect(first.air).toMatchObject({
      temperatureC: expect.closeTo(20.28, 9) as number,
      pressureHpa: 1004,
      lines: [3, 4],
    });
    // p7 began at 10:49, fourteen minutes behind the last reading.
    expect(shown.pulls.find((p) => p.label === 'p7')).toMatchObject({
      air: null,
      why: 'The nearest reading of the station is 14 minutes away from the pull.',
    });
  });
  it('sent again it is the same file; with another answer it is another', async () => {
    expect((await send(operator, STATION)).body.id).toBe(shown.id);
    const ahead = (await send(operator, STATION, '&clockAheadS=-900')).body;
    expect(ahead.id).not.toBe(shown.id);
    expect(ahead.pulls.find((p) => p.label === 'p7')!.air).not.toBeNull();
    const { body } = await operator<{ items: { name: string }[] }>('GET', `/tests/${id}/air-files`);
    expect(body.items).toHaveLength(2);
  });
  it('is taken all or none', async () => {
    const take = (labels: string[]) =>
      operator<Refused>('POST', `/tests/${id}/air-files/${shown.id}/air`, {
        pullIds: shown.pulls.filter((p) => labels.includes(p.label)).map((p) => p.pullId),
      });
    const refused = await take(['p1', 'p7']);
    expect(refused.status).toBe(409);
    expect(refused.body.error).toMatchObject({ code: 'NO_AIR_FOR_PULL' });
    expect((await detailOf(manager, id)).pulls.every((p) => p.air === null)).toBe(true);
    expect((await take(['p1', 'p2'])).status).toBe(204);
    const [p1, p3] = (await detailOf(manager, id)).pulls.filter((p) => ['p1', 'p3'].includes(p.label));
    expect(p1.air).toMatchObject({
      temperatureC: expect.closeTo(20.28, 9) as number,
      source: 'station file',
      sourceFile: 'station.csv',
    });
    expect(p3.air).toBeNull();
  });
  it('a reading typed afterwards is one that was typed, and the file stays named in the former', async () => {
    const { pulls } = await detailOf(manager, id);
    const p1 = pulls.find((p) => p.label === 'p1')!;
    const air = { temperatureC: 21, pressureHpa: 1004, humidityValue: 48 };
    await operator('PUT', `/tests/${id}/pulls/${p1.id}/air`, { ...air, source: 'pasted' });
    expect((await detailOf(manager, id)).pulls.find((p) => p.label === 'p1')!.air).toMatchObject({
      source: 'pasted',
      sourceFile: null,
    });
    const { rows } = await app.pool.query('select source, air_lines from air_readings where pull_id = $1', [
      p1.id,
    ]);
    expect(rows).toContainEqual({ source: 'station file', air_lines: [3, 4] });
  });
  it('a claim says which lines of which file its air is from, and what a person said of the file', async () => {
    const day = [
      HEAD,
      ...Array.from({ length: 24 }, (_, i) => `2026-11-26 ${clockOf(5 * i)},20.0,1004.0,48`),
      '',
    ].join('\n');
    const file = (await send(operator, day, '&clockAheadS=60')).body;
    const pullIds = file.pulls.map((p) => p.pullId);
    expect((await operator('POST', `/tests/${id}/air-files/${file.id}/air`, { pullIds })).status).toBe(204);
    const claim = await publish({ manager, reviewer }, id);
    const { body } = await app.nobody<Evidence>('GET', `/evidence/${claim.code}`);
    const [p1] = body.pulls.filter((p) => p.counted);
    expect(p1.air).toMatch(
      /^20\.0 °C, 1004\.0 hPa, 48 % RH \(station\.csv, lines 3 and 4, SHA-256 [0-9a-f]{10}…, its clock taken as 60 s ahead\)$/,
    );
  });
  it('nobody says by hand that a reading is of a file', async () => {
    const { pulls } = await detailOf(manager, id);
    const air = { temperatureC: 21, pressureHpa: 1004, humidityValue: 48, source: 'station file' };
    expect((await operator('PUT', `/tests/${id}/pulls/${pulls.at(-1)!.id}/air`, air)).status).toBe(400);
  });
  it('what the file does not say is asked for, and nothing is kept until it is said', async () => {
    const unsaid = STATION.replace('Station pressure', 'Pressure');
    const asked = await send<Refused>(operator, unsaid);
    expect(asked.status).toBe(422);
    expect(asked.body.error).toMatchObject({
      code: 'AIR_FILE_UNREADABLE',
      details: { pressureKind: ['station', 'sea level'] },
    });
    const told = await send(operator, unsaid, '&pressureKind=sea%20level');
    expect(told.body.pressureKind).toBe('sea level');
  });
  it.each([
    ['no file of a station', 'p1', 'nothing to see here'],
    ['cut off in the middle', 'p1', STATION.slice(0, 40)],
  ])('%s is refused and nothing is kept', async (_what, _label, text) => {
    const before = await app.pool.query('select count(*) from air_files');
    expect((await send<Refused>(operator, text)).status).toBe(422);
    expect((await app.pool.query('select count(*) from air_files')).rows).toEqual(before.rows);
  });
  it('is not for a shop the test is not assigned to', async () => {
    expect((await send<Refused>(partner, STATION)).status).toBe(404);
    expect((await partner('GET', `/tests/${id}/air-files/${shown.id}`)).status).toBe(404);
  });
  it('the database keeps files as they came and readings with the file of their test', async () => {
    for (const deed of [
      "update air_files set name = 'x'",
      'delete from air_files',
      'truncate air_files cascade',
    ])
      await expect(app.pool.query(deed)).rejects.toThrow();
    const other = (await manager<{ id: string }>('POST', '/tests', app.plan())).body.id;
    const [pull] = (await detailOf(manager, other)).pulls;
    const insert = (source: string, file: string | null, lines: number[] | null) =>
      app.pool.query(
        `insert into air_readings (id, pull_id, temperature_c, pressure_hpa, pressure_kind, humidity_kind, humidity_value,
          entered_at, entered_by, source, air_file_id, air_lines)
         select gen_random_uuid(), $1, 20, 1004, 'station', 'relative', 48, now(), id, $2, $3, $4 from people limit 1`,
        [pull.id, source, file, lines],
      );
    await expect(insert('station file', shown.id, [3, 4])).rejects.toThrow(/another test/);
    await expect(insert('station file', null, null)).rejects.toThrow(/air_of_a_file_names_it/);
    await expect(insert('typed', shown.id, [3])).rejects.toThrow();
    await expect(insert('guessed', null, null)).rejects.toThrow(/air_source_known/);
  });
});
