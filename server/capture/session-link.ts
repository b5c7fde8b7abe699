/**
 * The devices of one session: recordings are begun, kept line by line as they stream, made whole from the dyno's own
 * buffer after a cut, and handed on when all of it is there. Everything is kept in the database before it counts;
 * another process that takes over reads there how far this one came.
 */
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { BenchNews, LinkShown } from '../../contract/capture/bench.ts';
import type { DeviceMessage, Hello } from '../../contract/capture/device-protocol.ts';
import type { DeviceKind } from '../../core/register/devices.ts';
import { inTurn, type InTurn } from '../base/in-turn.ts';
import type { Needs } from '../base/needs.ts';
import { findTest } from '../plan/repository.ts';
import { linesOf, recordingsOf, UNFINISHED, type RecordingRow, type SessionRow } from './bench-repository.ts';
import { benchLinks, recordingChunks, recordings } from './bench-tables.ts';
import { linkDevice, type DeviceLink } from './device-link.ts';
import { LOG_TAIL_MS, logWait } from './log-wait.ts';
import { loggerTimeline, type LoggerTimeline } from './logger-timeline.ts';
import { beginRecording, type Beginning } from './begin-recording.ts';
import { chunksOf, keepLogged, keepStation, liveOf, type Live } from './live-recording.ts';
import { missingRanges, numbersIn, speedTorqueOf } from './recording-parts.ts';

/** Makes the file of a recording whose lines are all there, or says why none can be made. */
export type FinishRecording = (recordingId: string) => Promise<void>;
export interface SessionLink {
  readonly testId: string;
  /** News of the session: something is asked of a device, perhaps. */
  heard(news: unknown): void;
  poke(): void;
  close(): Promise<void>;
}

/** How often what came is written, ms. */
const WRITE_MS = 120;
/** How long a database that is away is left alone, ms. */
const STUMBLED_MS = 700;
/** Before the begin of a pull, so much of the log belongs to it, ms. */
export const LOG_LEAD_MS = 2500;
/** A reading of the station is the air of a pull that began no later than this after it, ms. */
const AIR_MS = 60_000;
/** Samples in one piece of news: the database carries 8 000 bytes, and a device that was away hands over many. */
const AT_ONCE = 80;

type Sample = Extract<DeviceMessage, { type: 'sample' }>;
type Device = { readonly kind: DeviceKind; readonly host: string; readonly port: number };

// eslint-disable-next-line max-lines-per-function -- one session with its devices, which share all of this
export function openSessionLink(
  needs: Needs,
  session: SessionRow,
  devices: readonly Device[],
  finish: FinishRecording,
): SessionLink {
  const { db, now, log } = needs;
  const { testId } = session;
  let hasStumbled = false;
  let stumbledAt = 0;
  const turn: InTurn = inTurn((error) => {
    hasStumbled = true;
    stumbledAt = Date.now();
    log.error({ error: error.message, testId }, 'the bench stumbled');
  });
  const shown = new Map<DeviceKind, LinkShown>();
  const hellos = new Map<DeviceKind, Hello>();
  const links = new Map<DeviceKind, DeviceLink>();
  const isHere = (kind: DeviceKind): boolean => links.get(kind)?.connected() === true;
  const live = new Map<string, Live>();
  const timeline: LoggerTimeline = loggerTimeline();
  let station: { line: string; at: number } | null = null;
  let closed = false;
  let lastNow = 0;
  const waitsForLog = logWait(now().getTime());

  const tell = (news: BenchNews): Promise<unknown> =>
    db.execute(sql`select pg_notify('bench', ${JSON.stringify({ test: testId, news })})`);
  const show = (): void => {
    const list = devices.flatMap(({ kind }) => shown.get(kind) ?? []);
    const own = eq(benchLinks.dynoId, session.dynoId);
    turn.next(() => db.update(benchLinks).set({ devices: list }).where(own));
  };

  const channelsNow = () => Object.fromEntries([...hellos].map(([kind, hello]) => [kind, hello.channels]));

  async function write(): Promise<void> {
    for (const one of live.values()) {
      const { waiting } = one;
      if (waiting.length === 0) continue;
      one.waiting = [];
      try {
        await keepLines(one, waiting);
      } catch (error) {
        one.waiting.unshift(...waiting);
        throw error;
      }
    }
  }
  async function keepLines(one: Live, waiting: Live['waiting']): Promise<void> {
    const receivedAt = now();
    const rows = chunksOf(one.id, waiting, receivedAt);
    await db.insert(recordingChunks).values(rows).onConflictDoNothing();
    const own = waiting.filter((w) => w.device === 'dyno');
    for (let i = 0; i < own.length; i += AT_ONCE)
      await tell({
        type: 'samples',
        recordingId: one.id,
        rows: own
          .slice(i, i + AT_ONCE)
          .map(({ line, n }) => [n, ...speedTorqueOf(hellos.get('dyno')?.channels ?? [], line)]),
        at: receivedAt.getTime(),
      });
  }

  const beginning = (key: string, at: Date): Beginning => ({
    key,
    at,
    channels: channelsNow(),
    clocksOff: Object.fromEntries([...shown].map(([kind, { clockOffMs }]) => [kind, clockOffMs ?? 0])),
  });
  async function begun(message: Extract<DeviceMessage, { type: 'begin' }>): Promise<void> {
    if (live.has(message.pull)) return;
    const row = await beginRecording(needs, session, beginning(message.pull, now()));
    if (!row) return;
    const one = liveOf(row);
    live.set(message.pull, one);
    for (const { n, line } of timeline.since(one.beganAt - LOG_LEAD_MS)) keepLogged(one, n, line);
    if (station && one.beganAt - station.at < AIR_MS) keepStation(one, station.line);
  }
  /** Reads how far a recording came, in this process or another. */
  async function resume(row: RecordingRow): Promise<Live> {
    const there = live.get(row.deviceKey!);
    if (there) return there;
    const one = liveOf(row);
    const lines = await linesOf(db, row.id);
    numbersIn(lines.get('dyno')).forEach((n) => one.have.add(n));
    numbersIn(lines.get('logger')).forEach((n) => one.logged.add(n));
    one.stationLines = lines.get('station')?.length ?? 0;
    live.set(one.key, one);
    return one;
  }

  function sampled(message: Sample, line: string): void {
    const one = message.pull === undefined ? undefined : live.get(message.pull);
    if (!one || one.have.has(message.n)) return;
    one.have.add(message.n);
    one.waiting.push({ device: 'dyno', n: message.n, line });
    if (one.ended) settle(one);
  }
  function ended(message: Extract<DeviceMessage, { type: 'end' }>): void {
    const one = live.get(message.pull);
    if (one?.ended) settle(one);
    if (!one || one.ended) return;
    one.ended = { samples: message.samples, at: now().getTime(), aborted: message.how === 'aborted' };
    turn.next(() =>
      db
        .update(recordings)
        .set({ samples: message.samples, endedAt: sql`coalesce(${recordings.endedAt}, ${now()})` })
        .where(eq(recordings.id, one.id)),
    );
    settle(one);
  }
  /** Once a recording is over: asks for what is missing, or hands it on. */
  function settle(one: Live): void {
    if (!one.ended || one.finishing || closed) return;
    const missing = missingRanges(one.ended.samples, one.have, one.lost);
    if (missing.length > 0) {
      if (now().getTime() - one.asked < 500) return;
      one.asked = now().getTime();
      for (const { from, to } of missing)
        links.get('dyno')?.send({ type: 'resend', pull: one.key, from, to });
      return;
    }
    const wait = logWaits(one);
    if (wait > 0) {
      setTimeout(() => settle(one), Math.min(wait, 400)).unref();
      return;
    }
    one.finishing = true;
    turn.next(async () => {
      await write();
      // What the database has counts: lines two processes wrote at once may stand there under another cut.
      const kept = numbersIn((await linesOf(db, one.id)).get('dyno'));
      one.have = new Set(kept);
      if (!one.ended?.aborted && missingRanges(one.ended!.samples, one.have, one.lost).length > 0) {
        one.finishing = false;
        settle(one);
        return;
      }
      live.delete(one.key);
      if (one.ended?.aborted)
        await db
          .update(recordings)
          .set({ state: 'aborted' })
          .where(and(eq(recordings.id, one.id), inArray(recordings.state, UNFINISHED)));
      else {
        // A device that was away when it began has said since what its values stand for.
        await db
          .update(recordings)
          .set({ channels: sql`${JSON.stringify(channelsNow())}::jsonb || ${recordings.channels}` })
          .where(eq(recordings.id, one.id));
        await finish(one.id);
      }
    });
  }
  /** How long the log of a recording is still to be waited for, ms. */
  function logWaits(one: Live): number {
    if (!devices.some((d) => d.kind === 'logger')) return 0;
    return waitsForLog.left(one, one.ended!.at, now().getTime(), isHere('logger'));
  }

  // ── What the devices say ──
  async function dynoArrived(hello: Hello): Promise<void> {
    const known = new Map(
      (await recordingsOf(db, session.id)).flatMap((r) => (r.deviceKey ? [[r.deviceKey, r] as const] : [])),
    );
    for (const { pull, clock } of hello.kept) {
      let row = known.get(pull);
      // A pull made while no server listened, but after the session was opened.
      const offMs = Date.parse(hello.clock) - now().getTime();
      const began = Date.parse(clock) - offMs;
      if (!row && began >= session.openedAt.getTime())
        row = await beginRecording(needs, session, beginning(pull, new Date(began)));
      if (!row || !UNFINISHED.includes(row.state)) continue;
      const one = await resume(row);
      // The whole of it is known once the end is heard; from here on what is new.
      let from = 0;
      while (one.have.has(from)) from += 1;
      links.get('dyno')?.send({ type: 'resend', pull, from });
    }
    logAsked();
  }
  /** What a logger said while nobody listened: all it has, for it alone knows what it said when. */
  async function askLogger(): Promise<void> {
    const unfinished = (await recordingsOf(db, session.id)).filter(
      (r) => r.deviceKey && UNFINISHED.includes(r.state),
    );
    await Promise.all(unfinished.map(resume));
    if (unfinished.length > 0 && isHere('logger')) links.get('logger')?.send({ type: 'resend', from: 0 });
    else waitsForLog.answered();
  }
  function logAsked(): void {
    waitsForLog.asked();
    turn.next(askLogger);
  }
  function logged(message: Sample, line: string): void {
    const at = timeline.add(message, line, now().getTime(), shown.get('logger')?.clockOffMs ?? 0);
    for (const one of live.values()) {
      const until = one.ended ? one.ended.at + LOG_TAIL_MS : Infinity;
      if (at < one.beganAt - LOG_LEAD_MS || at > until || one.finishing) continue;
      keepLogged(one, message.n, line);
    }
  }
  function said(kind: DeviceKind, message: Exclude<DeviceMessage, { type: 'hello' }>, line: string): void {
    if (message.type === 'now') {
      if (kind === 'station') {
        station = { line, at: now().getTime() };
        for (const one of live.values()) if (!one.ended) keepStation(one, line);
      }
      void tell({ type: 'now', device: kind, values: message.values }).catch(() => undefined);
    } else if (kind === 'logger' && message.type === 'sample') logged(message, line);
    else if (kind === 'logger' && message.type === 'resent') waitsForLog.answered();
    else if (kind === 'dyno') {
      if (message.type === 'begin') turn.next(() => begun(message));
      // Behind what was begun: its samples must find it.
      else if (message.type === 'sample') turn.next(() => Promise.resolve(sampled(message, line)));
      else if (message.type === 'end') turn.next(() => Promise.resolve(ended(message)));
      else if (message.type === 'lost') turn.next(() => Promise.resolve(lostSaid(message)));
    }
  }
  function lostSaid({ pull, from, to }: Extract<DeviceMessage, { type: 'lost' }>): void {
    const one = pull === undefined ? undefined : live.get(pull);
    if (!one) return;
    for (let n = from; n <= Math.min(to, from + 100_000); n++) one.lost.add(n);
    if (one.ended) settle(one);
  }
  function arrived(kind: DeviceKind, hello: Hello): void {
    hellos.set(kind, hello);
    shown.set(kind, {
      kind,
      name: hello.name,
      connected: true,
      problem: null,
      begins: hello.begins,
      channels: hello.channels,
      clockOffMs: Date.parse(hello.clock) - now().getTime(),
      faults: hello.faults ?? [],
    });
    show();
    turn.next(() => tellCar(kind));
    if (kind === 'dyno') turn.next(() => dynoArrived(hello));
    if (kind === 'logger') logAsked();
  }
  async function tellCar(kind: DeviceKind): Promise<void> {
    const { fitment } = await findTest(db, testId);
    const { ignition, aspiration, ratedPowerKw } = fitment;
    links.get(kind)?.send({ type: 'car', ignition, aspiration, ratedPowerKw });
  }
  function left(kind: DeviceKind, why: string): void {
    const before = shown.get(kind);
    if (before && !before.connected && before.problem === why) return;
    shown.set(kind, {
      ...(before ?? { kind, name: '', begins: false, channels: [], clockOffMs: null, faults: [] }),
      connected: false,
      problem: why,
    });
    show();
    if (kind === 'logger') waitsForLog.away();
    if (kind !== 'dyno') return;
    // What has come is kept and marked; the rest is in the device's buffer until it is back.
    turn.next(async () => {
      await write();
      await db
        .update(recordings)
        .set({ state: 'incomplete' })
        .where(and(eq(recordings.sessionId, session.id), eq(recordings.state, 'running')));
    });
  }

  /** A recording that is over and was not handed on, because the process or the database went away meanwhile. */
  async function pickUp(row: RecordingRow): Promise<void> {
    const over = row.deviceKey && row.endedAt && row.samples !== null && row.problem === null;
    if (!over || !UNFINISHED.includes(row.state) || live.has(row.deviceKey!)) return;
    const one = await resume(row);
    one.ended = { samples: row.samples!, at: row.endedAt!.getTime(), aborted: row.abortAsked };
    settle(one);
  }

  /**
   * After the database was away nobody knows what of the last moments is kept: all that is known here is dropped, the
   * devices are spoken to anew, and what they still hold is held against the records.
   */
  async function startAnew(): Promise<void> {
    await recordingsOf(db, session.id);
    live.clear();
    for (const link of links.values()) link.again();
  }

  // ── What is asked of them ──
  const sent = new Set<string>();
  async function look(): Promise<void> {
    const [all, dyno] = [await recordingsOf(db, session.id), links.get('dyno')];
    const armed = all.find((r) => r.state === 'armed');
    if (armed && !sent.has(armed.id) && isHere('dyno') && hellos.get('dyno')?.begins) {
      sent.add(armed.id);
      dyno?.send({ type: 'begin', configuration: armed.arm });
    }
    for (const r of all) await pickUp(r);
    for (const r of all)
      if (r.state === 'running' && r.abortAsked && !sent.has(`abort ${r.id}`)) {
        sent.add(`abort ${r.id}`);
        dyno?.send({ type: 'abort' });
      }
  }

  for (const device of devices)
    links.set(
      device.kind,
      linkDevice(device, {
        arrived: (hello) => arrived(device.kind, hello),
        left: (why) => left(device.kind, why),
        said: (message, line) => said(device.kind, message, line),
      }),
    );
  const writer = setInterval(() => {
    if (hasStumbled) {
      if (Date.now() - stumbledAt < STUMBLED_MS) return;
      hasStumbled = false;
      turn.next(startAnew);
      return;
    }
    if ([...live.values()].some((one) => one.waiting.length > 0)) turn.next(write);
    if (Date.now() - lastNow > 1000) {
      lastNow = Date.now();
      turn.next(look);
      for (const one of live.values()) settle(one);
    }
  }, WRITE_MS);

  return {
    testId,
    heard(news) {
      const { type, name, on } = news as { type: string; name?: string; on?: boolean };
      if (type === 'fault' && name !== undefined)
        for (const [kind, link] of links)
          if (hellos.get(kind)?.faults?.some((f) => f.name === name))
            link.send({ type: 'fault', name, on: on ?? false });
      if (type === 'changed') turn.next(look);
    },
    poke: () => turn.next(look),
    async close() {
      clearInterval(writer);
      for (const link of links.values()) link.close();
      turn.next(write);
      closed = true;
      await turn.idle();
    },
  };
}
