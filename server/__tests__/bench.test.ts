/** A session at the dyno: streamed from stand-ins, cut off, taken over, written down; over HTTP and two processes. */
import { setTimeout as later } from 'node:timers/promises';
import { randomUUID } from 'node:crypto';
import { connect } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { startDyno } from '../../bench/correct/stand-ins/dyno.ts';
import { startLogger } from '../../bench/correct/stand-ins/logger.ts';
import { startStation } from '../../bench/correct/stand-ins/station.ts';
import { FAULTS, type FaultName } from '../../bench/correct/stand-ins/faults.ts';
import type { StandIn } from '../../bench/correct/stand-ins/listen.ts';
import type { AnalysisState } from '../../contract/judge/analysis.ts';
import type { WatchedBench } from '../../contract/correct/bench-watch.ts';
import { createServices } from '../app.ts';
import { createHub, type Hub } from '../base/hub.ts';
import { asLine } from '../../contract/capture/device-protocol.ts';
import { startRecorder, type Recorder } from '../capture/recorder.ts';
import { startApp, type Ask } from './app.ts';

type App = Awaited<ReturnType<typeof startApp>>;
const SPEED = 6;
const PATIENCE_MS = 40_000;
const CONTROLS = [{ quantity: 'intake air at start', target: null, tolerance: 5, unit: '°C' }];
/** The stand-ins of one dyno, and a process that looks after it. */
async function benchOf(app: App, logAnswersAfterMs: number) {
  const dyno = await startDyno({ port: 0, speed: SPEED, seed: 7 });
  const station = await startStation({ port: 0, speed: SPEED, seed: 8 });
  const logger = await startLogger({
    port: 0,
    speed: SPEED,
    seed: 9,
    dynoPort: dyno.port,
    answersAfterMs: logAnswersAfterMs,
  });
  const devices = { dyno, station, logger } satisfies Record<string, StandIn>;
  const hubs: Hub[] = [];
  const recorders = new Set<Recorder>();
  // Devices have clocks of their own: the server's is the real one here.
  const needs = { ...app.needs, now: () => new Date() };
  const record = (): Recorder => {
    const hub = createHub({ connectionString: app.databaseUrl }, app.needs.log);
    hubs.push(hub);
    const recorder = startRecorder(needs, hub, (id) => createServices(needs).finish.finish(id));
    recorders.add(recorder);
    return recorder;
  };
  return {
    devices,
    record,
    list: Object.entries(devices).map(([kind, { port }]) => ({ kind, host: '127.0.0.1', port })),
    async stop() {
      for (const recorder of recorders) await recorder.stop();
      for (const hub of hubs) await hub.close();
      for (const device of Object.values(devices)) await device.close();
    },
  };
}

// Real seconds of devices that run in this process: where the machine stood still in one of them, it is run again.
describe('a session at the dyno', { retry: 2 }, () => {
  let app: App;
  let bench: Awaited<ReturnType<typeof benchOf>>;
  let operator: Ask;
  let manager: Ask;
  let testId: string;
  const path = (rest = '') => `/tests/${testId}/bench${rest}`;
  const seen = async (ask = operator): Promise<WatchedBench> => (await ask<WatchedBench>('GET', path())).body;
  /** Waits until what is seen is as wanted; what it was like last is told when it never is. */
  async function until(wanted: (b: WatchedBench) => boolean): Promise<WatchedBench> {
    const end = Date.now() + PATIENCE_MS;
    for (;;) {
      const b = await seen();
      if (wanted(b)) return b;
      if (Date.now() > end)
        throw new Error(
          `never so: ${JSON.stringify({ ...b, rpm: [], recordings: b.recordings.map((r) => ({ ...r, summary: null })) })}`,
        );
      await later(100);
    }
  }
  const ok = (status: number) => expect(status).toBe(204);
  async function pull(
    place: { id: string; arm: string } | null,
    arm = place?.arm ?? 'stock',
  ): Promise<WatchedBench> {
    const before = (await seen()).recordings.length;
    ok((await operator('POST', path('/pull'), { pullId: place?.id ?? null, arm })).status);
    return until(
      (b) =>
        b.recordings.length > before &&
        b.recordings.every((r) => r.state === 'complete' || r.state === 'aborted'),
    );
  }
  const sheet = async () =>
    (
      await manager<{ pulls: { id: string; arm: string; label: string; counted: boolean }[] }>(
        'GET',
        `/tests/${testId}`,
      )
    ).body.pulls;

  async function begin(warmUps = 0, pullsPerRun = 3, logAnswersAfterMs = 0): Promise<void> {
    app = await startApp();
    bench = await benchOf(app, logAnswersAfterMs);
    [operator, manager] = [await app.signIn('operator'), await app.signIn('manager')];
    ok((await manager('PUT', `/dynos/${app.ids.dyno}/devices`, { devices: bench.list })).status);
    const made = await manager<{ id: string }>(
      'POST',
      '/tests',
      app.plan({ warmUps, pullsPerRun, controls: CONTROLS }),
    );
    testId = made.body.id;
    expect((await manager('POST', `/tests/${testId}/lock`)).status).toBeLessThan(300);
    ok((await operator('POST', path('/session'))).status);
    ok((await operator('POST', path('/mountings'), { note: 'four straps, 5 kN' })).status);
  }
  const connected = () => until((b) => b.links.filter((l) => l.connected).length === 3);
  afterEach(async () => {
    await bench.stop();
    await app.stop();
  });

  const switched = async (name: FaultName, on: boolean): Promise<void> => {
    ok((await operator('POST', path('/fault'), { name, on })).status);
    for (const kind of FAULTS[name])
      for (const end = Date.now() + PATIENCE_MS; bench.devices[kind].faults.has(name) !== on; await later(20))
        if (Date.now() > end) throw new Error(`${kind} never switched ${name}`);
    // What it says anew with it is known to whoever holds the link.
    await until((b) => b.links.every((l) => l.faults.every((f) => f.name !== name || f.on === on)));
  };

  it('is streamed, kept and attached with air and log', async () => {
    await begin();
    bench.record();
    await connected();
    const [first] = await sheet();
    const b = await pull(first);
    const [r] = b.recordings;
    expect(r).toMatchObject({ state: 'complete', pullId: first.id, order: 1, mounting: 1, problem: null });
    expect(r.received).toBe(r.samples);
    expect(r.logOffsetS).not.toBeNull();
    expect(r.summary!.air!.temperatureC).toBeGreaterThan(15);
    expect(Object.keys(r.summary!.channels)).toContain('lambda');
    const detail = await manager<{
      pulls: { label: string; file: { sha256: string }; air: { source: string } }[];
    }>('GET', `/tests/${testId}`);
    expect(detail.body.pulls[0].file.sha256).toBe(r.fileSha256);
    expect(detail.body.pulls[0].air.source).toBe('live station');
    expect(b.missing[0]).toContain('8 counted pulls are still to come');
  });

  it('is made whole after the connection broke in mid-pull, and says so meanwhile', async () => {
    await begin();
    bench.record();
    await connected();
    await switched('connection lost', true);
    const [first] = await sheet();
    ok((await operator('POST', path('/pull'), { pullId: first.id, arm: first.arm })).status);
    const broken = await until((b) => b.recordings[0]?.state === 'incomplete');
    expect(broken.missing[0]).toContain('not whole');
    expect(broken.recordings[0].received).toBeGreaterThan(0);
    const { recordings } = await until((b) => b.recordings[0].state === 'complete');
    expect(recordings[0].received).toBe(recordings[0].samples);
    expect(recordings[0].summary!.lost).toBe(0);
  });

  it('is taken over by another process in mid-pull, and every sample is there once', async () => {
    await begin();
    const first = bench.record();
    bench.record();
    await connected();
    const [place] = await sheet();
    ok((await operator('POST', path('/pull'), { pullId: place.id, arm: place.arm })).status);
    await until((b) => (b.recordings[0]?.received ?? 0) > 40);
    await first.stop();
    const { recordings } = await until((b) => b.recordings[0].state === 'complete');
    expect(recordings).toHaveLength(1);
    expect(recordings[0].summary!.samples).toBe(recordings[0].samples);
    // Lines may have come twice, and stand in the file once.
    const { rows } = await app.pool.query<{ n: number }>(
      `select count(*)::int as n from raw_files where sha256 = $1`,
      [recordings[0].fileSha256],
    );
    expect(rows[0].n).toBe(1);
  });

  it('follows a pull that somebody began at the dyno while no process listened, and waits for a slow log', async () => {
    await begin(0, 3, 2500);
    const socket = connect(bench.devices.dyno.port, '127.0.0.1');
    socket.write(asLine({ type: 'begin', configuration: 'stock' }));
    await later(3500);
    socket.destroy();
    bench.record();
    const { recordings } = await until((b) => b.recordings[0]?.state === 'complete');
    const [place] = await sheet();
    expect(recordings[0]).toMatchObject({ pullId: place.id, order: 1 });
    expect(recordings[0].logOffsetS).not.toBeNull();
    expect(Object.keys(recordings[0].summary!.channels)).toContain('lambda');
  });

  it('loses nothing when the database drops every connection, again and again', async () => {
    await begin();
    bench.record();
    await connected();
    const [place] = await sheet();
    ok((await operator('POST', path('/pull'), { pullId: place.id, arm: place.arm })).status);
    for (let k = 0; k < 6; k++) {
      await later(350);
      await app.pool.query(`select pg_terminate_backend(pid) from pg_stat_activity
        where datname = current_database() and pid <> pg_backend_pid()`);
    }
    const end = Date.now() + PATIENCE_MS;
    for (;;) {
      // A request may meet a connection that has just been dropped.
      const b = await operator<WatchedBench>('GET', path()).catch(() => undefined);
      const [r] = b?.status === 200 ? b.body.recordings : [];
      if (r?.state === 'complete') {
        expect(r.received).toBeGreaterThanOrEqual(r.samples!);
        expect(r.summary!.samples).toBe(r.samples);
        expect(r.summary!.lost).toBe(0);
        return;
      }
      if (Date.now() > end) throw new Error(`never complete: ${JSON.stringify(r)}`);
      await later(150);
    }
  });

  it('ends what is aborted, keeps the order, and tells the extra pull', async () => {
    await begin();
    bench.record();
    await connected();
    const places = await sheet();
    ok((await operator('POST', path('/pull'), { pullId: places[0].id, arm: 'stock' })).status);
    await until((b) => (b.recordings[0]?.received ?? 0) > 10);
    expect((await operator('POST', path('/pull'), { pullId: places[1].id, arm: 'stock' })).status).toBe(409);
    ok((await operator('POST', path('/abort'))).status);
    await until((b) => b.recordings[0].state === 'aborted');
    await pull(places[1]);
    await pull(null);
    const b = await pull(places[0]);
    expect(b.recordings.map((r) => [r.order, r.state])).toEqual([
      [1, 'aborted'],
      [2, 'complete'],
      [3, 'complete'],
      [4, 'complete'],
    ]);
    expect(b.departures.map((d) => d.kind)).toEqual(['aborted', 'extra', 'order']);
    expect((await operator('POST', path('/pull'), { pullId: places[0].id, arm: 'stock' })).status).toBe(409);
  });

  it('reaches the judgement: true order, the other arm on the car, a change in between, a file from elsewhere', async () => {
    await begin(0, 2);
    bench.record();
    await connected();
    const places = await sheet();
    for (const [k, place] of places.entries()) {
      // The fourth is made with stock on the car, although its place is of the part.
      await pull(place, k === 3 ? 'stock' : place.arm);
      if (k === 1)
        ok(
          (
            await operator('POST', path('/entries'), {
              id: randomUUID(),
              saidAt: new Date().toISOString(),
              body: { kind: 'changed', what: 'fan', text: 'moved to the left' },
            })
          ).status,
        );
    }
    ok((await operator('POST', path('/close'), { note: '' })).status);
    const findings = async () =>
      (await manager<AnalysisState>('GET', `/tests/${testId}/analysis`)).body.analysis!.result.findings.map(
        (f) => `${f.state} ${f.code}`,
      );
    expect(await findings()).toEqual(
      expect.arrayContaining(['fail OTHER_ARM_ON_CAR', 'fail SETTING_CHANGED']),
    );
    const other = Buffer.from(
      (await operator('GET', `/tests/${testId}/pulls/${places[5].id}/file`)).bytes
        .toString()
        .replace('# Dyno: Cell', '# Dyno: Elsewhere'),
    );
    expect(
      (await operator('POST', `/tests/${testId}/pulls/${places[5].id}/file?name=better.csv`, other)).status,
    ).toBe(201);
    expect(await findings()).toContain('fail REPLACED_RECORDING');
  });

  it('believes what was said to be on the car, not what the sheet would have there', async () => {
    await begin(0, 2);
    bench.record();
    await connected();
    const fitted = (arm: string) =>
      operator('POST', path('/entries'), {
        id: randomUUID(),
        saidAt: '2026-11-10T09:30:00Z',
        body: { kind: 'fitted', arm, minutes: 20, difficulty: null, tools: '', broke: '', renewed: '' },
      });
    ok((await fitted('stock')).status);
    const renewed = (id: string, saidAt: string) =>
      operator('POST', path('/entries'), {
        id,
        saidAt,
        body: {
          ...{
            kind: 'fitted',
            arm: 'stock',
            minutes: 5,
            difficulty: null,
            tools: '',
            broke: '',
            renewed: '',
          },
          service: ['air filter', 'oil'],
        },
      });
    // Sent twice, from a tablet whose clock is a year ahead: once in the ledger, and not in the future.
    const entry = randomUUID();
    for (let k = 0; k < 2; k++) ok((await renewed(entry, '2027-11-10T09:31:00Z')).status);
    const { rows } = await app.pool.query<{ change: object; at: Date; note: string }>(
      `select change, at, note from vehicle_ledger where vehicle_id = (select vehicle_id from tests where id = $1)
       and note like 'Written at the bench%' order by change->>'item'`,
      [testId],
    );
    expect(rows.map((r) => r.change)).toEqual([
      { kind: 'service', item: 'air filter' },
      { kind: 'service', item: 'oil' },
    ]);
    expect(rows[0].note).toMatch(/^Written at the bench, test \d+, with “.+”\.$/);
    expect(rows[0].at.getTime()).toBeLessThan(Date.parse('2027-01-01'));
    // One that was “done” years ago is of this session all the same: nobody freshens a car's past from the bench.
    ok((await renewed(randomUUID(), '2019-01-01T08:00:00Z')).status);
    const { rows: times } = await app.pool.query<{ early: number }>(
      `select count(*)::int as early from vehicle_ledger l where note like 'Written at the bench%'
       and at < (select min(opened_at) from bench_sessions where test_id = $1)`,
      [testId],
    );
    expect(times[0].early).toBe(0);
    // Each stands in the trail, once.
    const { rows: trail } = await app.pool.query<{ n: number }>(
      `select count(*)::int as n from audit_entries where action = 'wrote at the bench' and subject_id = $1`,
      [testId],
    );
    expect(trail[0].n).toBe(3);
    // Nobody asks for them here: all are begun at the dyno, and the part is never fitted.
    const socket = connect(bench.devices.dyno.port, '127.0.0.1');
    for (let k = 0; k < 3; k++) {
      socket.write(asLine({ type: 'begin', configuration: 'stock' }));
      await until((b) => b.recordings.filter((r) => r.state === 'complete').length > k);
    }
    socket.destroy();
    const b = await seen();
    expect(b.recordings.map((r) => r.arm)).toEqual(['stock', 'stock', 'stock']);
    expect(b.departures).toContainEqual({ kind: 'other arm', label: 'p3', arm: 'stock', planned: 'part' });
  });

  it('takes no pull over a file that is there, and judges anew by air that is typed later', async () => {
    await begin();
    await bench.devices.station.close();
    bench.record();
    await until((b) => b.links.filter((l) => l.connected).length === 2);
    const [first, second] = await sheet();
    const b = await pull(first);
    expect(b.notices.map((n) => n.code)).toContain('AIR_MISSING');
    expect(b.recordings[0].summary!.factor).toBeNull();
    const air = { temperatureC: 21, pressureHpa: 1003, humidityValue: 45 };
    ok((await operator('PUT', `/tests/${testId}/pulls/${first.id}/air`, air)).status);
    const after = await seen();
    expect(after.notices.map((n) => n.code)).not.toContain('AIR_MISSING');
    expect(after.recordings[0].summary).toMatchObject({ air: { temperatureC: 21 } });
    expect(after.recordings[0].summary!.factor).toBeCloseTo(0.99, 1);
    const bytes = (await operator('GET', `/tests/${testId}/pulls/${first.id}/file`)).bytes;
    const copy = Buffer.concat([Buffer.from('# Copy: of another\n'), bytes]);
    expect((await operator('POST', `/tests/${testId}/pulls/${second.id}/file?name=b.csv`, copy)).status).toBe(
      201,
    );
    const refused = await operator<{ error: { code: string } }>('POST', path('/pull'), {
      pullId: second.id,
      arm: 'stock',
    });
    expect(refused.body.error.code).toBe('PULL_IS_THERE');
    expect((await operator('POST', path('/pull'), { pullId: null, arm: 'nonsense' })).status).toBe(404);
  });

  it('keeps what is written once, in order, and lets nothing be changed behind it', async () => {
    await begin();
    const entry = {
      id: randomUUID(),
      saidAt: '2026-11-10T09:30:00Z',
      body: { kind: 'note', text: 'fan moved back to its mark' },
    };
    ok((await operator('POST', path('/entries'), entry)).status);
    ok((await operator('POST', path('/entries'), entry)).status);
    expect((await seen()).entries).toHaveLength(1);
    expect(
      (
        await operator('POST', path('/entries'), {
          ...entry,
          id: randomUUID(),
          body: { kind: 'note', text: ' ' },
        })
      ).status,
    ).toBe(400);
    const editor = await app.signIn('editor');
    expect((await editor('POST', path('/entries'), { ...entry, id: randomUUID() })).status).toBe(403);
    const partner = await app.signIn('partner');
    expect((await partner('GET', path())).status).toBe(404);
    for (const sql of [
      `update bench_entries set body = '{}'`,
      `delete from bench_entries`,
      `update mountings set note = 'other'`,
      `delete from bench_sessions`,
      `truncate recording_chunks`,
    ])
      await expect(app.pool.query(sql), sql).rejects.toThrow();
    // Another test cannot open the dyno meanwhile; nor can a plan that is not locked.
    const other = await manager<{ id: string }>('POST', '/tests', app.plan());
    const open = () => operator<{ error: { code: string } }>('POST', `/tests/${other.body.id}/bench/session`);
    expect((await open()).body.error.code).toBe('PLAN_NOT_LOCKED');
    await manager('POST', `/tests/${other.body.id}/lock`);
    expect((await open()).body.error.code).toBe('DYNO_IN_USE');
    ok((await operator('POST', path('/close'), { note: 'done for today' })).status);
    expect((await open()).status).toBe(204);
    // What was typed before the end and sent after it is not lost.
    ok((await operator('POST', path('/entries'), { ...entry, id: randomUUID() })).status);
    expect((await seen()).entries).toHaveLength(2);
    await expect(
      app.pool.query(`update bench_sessions set closed_at = null, closed_by = null where number = 1`),
    ).rejects.toThrow(/closed once/);
  });

  it('tells what is off while the car is on the rollers, through sockets and database as well', async () => {
    await begin();
    bench.record();
    await connected();
    const places = await sheet();
    await pull(places[0]);
    await pull(places[1]);
    const codes: string[] = [];
    for (const name of ['wheel slip', 'knock', 'air moved', 'clock offset'] as const) {
      await switched(name, true);
      const b = await pull(null);
      codes.push(...b.notices.filter((n) => n.recordingId === b.recordings.at(-1)!.id).map((n) => n.code));
      await switched(name, false);
    }
    for (const code of ['WHEEL_SLIP', 'KNOCK', 'AIR_MOVED', 'CLOCK_OFF']) expect(codes).toContain(code);
  });
});
