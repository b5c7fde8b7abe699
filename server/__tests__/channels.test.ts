import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PullChannels, TestChannels } from '../../contract/capture/channels.ts';
import { readPullFile } from '../../core/capture/pull-file.ts';
import { startApp, type Ask, type TestApp } from './app.ts';
import { detailOf, madeSession, measuredTest, type MadeSession } from './made-session.ts';

let app: TestApp, manager: Ask, operator: Ask, partner: Ask;
let session: MadeSession;
let id = '';
const ofTest = async (): Promise<TestChannels> =>
  (await manager<TestChannels>('GET', `/tests/${id}/channels`)).body;
const pullId = async (label: string): Promise<string> =>
  (await detailOf(manager, id)).pulls.find((p) => p.label === label)!.id;
const ofPull = async (label: string): Promise<PullChannels> =>
  (await manager<PullChannels>('GET', `/tests/${id}/pulls/${await pullId(label)}/channels`)).body;
const kept = async (): Promise<number> => (await app.pool.query('select from pull_channels')).rowCount ?? 0;

beforeAll(async () => {
  app = await startApp();
  [manager, operator, partner] = (await Promise.all(
    ['manager', 'operator', 'partner'].map((key) => app.signIn(key)),
  )) as [Ask, Ask, Ask];
  session = madeSession(930);
  id = await measuredTest(app, { manager, operator }, session);
});
afterAll(async () => app.stop());

describe('channels of a log', () => {
  it('of every captured pull stand on the grid of the test, in one answer of at most 300 kB', async () => {
    const { rpm, pulls } = await ofTest();
    expect(pulls.map((p) => p.label)).toEqual(['p1', 'p2', 'p3', 'p4', 'p5', 'p6', 'p7', 'p8', 'p9']);
    for (const { channels } of pulls) {
      expect(Object.keys(channels)).toEqual(
        expect.arrayContaining(['torque', 'lambda', 'massAirFlow', 'throttle']),
      );
      for (const { values } of Object.values(channels)) expect(values).toHaveLength(rpm.length);
    }
    const text = JSON.stringify({ rpm, pulls });
    expect(text.length).toBeLessThan(300_000);
    expect(gzipSync(text).length).toBeLessThan(100_000);
  });
  it('in full they are what the bytes say, sample by sample', async () => {
    const file = readPullFile(session.bytesOf('p1'), { fuel: 'petrol' });
    const full = await ofPull('p1');
    expect(full.samples).toBe(file.samples);
    for (const quantity of ['time', 'lambda', 'massAirFlow'] as const)
      expect(full.channels[quantity]!.values).toEqual(Array.from(file.channels[quantity]!));
    expect(full.channels.torque).toEqual({ unit: 'N·m', values: Array.from(file.torqueNm) });
  });
  it('are derived once, and asked for again they are the same', async () => {
    const [before, first] = [await kept(), await ofTest()];
    expect(await ofTest()).toEqual(first);
    expect(await kept()).toBe(before);
  });
  it('a file that is read in another way has its own, and the former stay', async () => {
    const before = await kept();
    const columns = { torque: { column: 'Torque (N·m)', unit: 'lb·ft' } };
    const was = (await ofPull('p2')).channels.torque!.values[100]!;
    expect((await operator('PUT', `/tests/${id}/pulls/${await pullId('p2')}/columns`, columns)).status).toBe(
      200,
    );
    expect((await ofPull('p2')).channels.torque!.values[100]! / was).toBeCloseTo(1.3558179483314, 9);
    expect(await kept()).toBeGreaterThan(before);
  });
  it('another fact of the register derives them anew, under its own name', async () => {
    const before = await ofPull('p3');
    await app.pool.query(
      'update dynos set roller_radius_m = 0.61, version = version + 1 where id = (select dyno_id from tests where id = $1)',
      [id],
    );
    const after = await ofPull('p3');
    expect(after.reading).not.toBe(before.reading);
    expect(after.channels.torque).toEqual(before.channels.torque);
  });
  it('two who ask at once for what nobody asked before get one answer', async () => {
    const other = await measuredTest(app, { manager, operator }, madeSession(931));
    const answers = await Promise.all(
      [1, 2, 3, 4].map(() => manager<TestChannels>('GET', `/tests/${other}/channels`)),
    );
    expect(answers.every((a) => a.status === 200)).toBe(true);
    expect(new Set(answers.map((a) => JSON.stringify(a.body))).size).toBe(1);
  });
  it('are not for a shop the test is not assigned to, nor for a pull without a file', async () => {
    expect((await partner('GET', `/tests/${id}/channels`)).status).toBe(404);
    const warm = (await detailOf(manager, id)).pulls.find((p) => !p.counted)!;
    expect((await manager('GET', `/tests/${id}/pulls/${warm.id}/channels`)).status).toBe(404);
  });
  it('the database does not let them be changed', async () => {
    for (const deed of [
      "update pull_channels set quantity = 'gear'",
      'delete from pull_channels',
      'truncate pull_channels',
    ])
      await expect(app.pool.query(deed)).rejects.toThrow();
  });
});
