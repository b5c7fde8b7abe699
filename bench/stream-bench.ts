/**
 * `npm run bench -- stream [servers] [databases]`: pulls stream from stand-ins and files are uploaded while two servers
 * are killed again and again (100 times) and then the database (20 times). Afterwards every recording is held line by
 * line against what the dyno sent, and every acknowledged file byte by byte. Before it: how long a sample takes to four
 * open screens, how fast files come in beside a plain COPY of the same bytes, and what a log of 50 MB needs.
 */
import { createHash, randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { chmodSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { connect } from 'node:net';
import { setTimeout as later } from 'node:timers/promises';
import { quantileSorted } from 'd3-array';
import { lineCutter } from '../contract/capture/device-lines.ts';
import { seededRng } from '../core/base/rng.ts';
import { planBody } from './base/kills.ts';
import { enter, openOwner, serve } from './base/servers.ts';
import { startDyno } from './correct/stand-ins/dyno.ts';
import { startLogger } from './correct/stand-ins/logger.ts';
import { startStation } from './correct/stand-ins/station.ts';
import { fillRegister } from './register/fill-register.ts';

const [serverKills, databaseKills] = [Number(process.argv[2] ?? 100), Number(process.argv[3] ?? 20)];
const { DATABASE_URL, OWNER_URL } = process.env;
const say = (text: string): void => void process.stdout.write(`${text}\n`);
const rng = seededRng(11);
const SPEED = 6;

const owner = openOwner(OWNER_URL!);
await fillRegister(OWNER_URL!, { fitments: 20, parts: 10, density: 0.5 }, 5);
const servers = [await serve(DATABASE_URL!), await serve(DATABASE_URL!)];
const { about, cookie } = await enter(owner, servers[0].base);
const any = (): string => servers[Math.floor(rng.uniform() * servers.length)].base;

/** Asks until somebody answers; what is refused is thrown. */
async function ask<T>(method: string, path: string, body?: unknown, key: string = randomUUID()): Promise<T> {
  const raw = body instanceof Uint8Array;
  for (let tries = 0; ; tries++) {
    const answer = await fetch(any() + path, {
      method,
      headers: {
        cookie,
        'idempotency-key': key,
        ...(body === undefined
          ? {}
          : { 'content-type': raw ? 'application/octet-stream' : 'application/json' }),
      },
      ...(body === undefined ? {} : { body: raw ? Buffer.from(body) : JSON.stringify(body) }),
      signal: AbortSignal.timeout(30_000),
    }).catch(() => undefined);
    const text = await answer?.text().catch(() => undefined);
    if (answer && text !== undefined && answer.status < 300)
      return (text ? JSON.parse(text) : undefined) as T;
    const code =
      text && answer && answer.status < 500
        ? (JSON.parse(text) as { error: { code: string } }).error.code
        : '';
    if (code === 'DONE_ALREADY' || code === 'SAME_FILE_TWICE') return undefined as T;
    if (code || tries > 6000)
      throw new Error(`${method} ${path}: ${answer?.status ?? 'no answer'} ${text ?? ''}`);
    await later(50);
  }
}
interface Plan {
  readonly id: string;
  readonly pulls: readonly { readonly id: string }[];
}
async function lockedTest(question: string, more: object = {}): Promise<Plan> {
  const { id } = await ask<{ id: string }>('POST', '/tests', { ...planBody(about, question), ...more });
  await ask('POST', `/tests/${id}/lock`);
  const { pulls } = await ask<Pick<Plan, 'pulls'>>('GET', `/tests/${id}`);
  return { id, pulls };
}

// ── Devices, and what they truly sent ──
const dyno = await startDyno({ port: 0, speed: SPEED, seed: 1 });
const station = await startStation({ port: 0, speed: SPEED, seed: 2 });
const logger = await startLogger({ port: 0, speed: SPEED, seed: 3, dynoPort: dyno.port });
await ask('PUT', `/dynos/${about.dynoId}/devices`, {
  devices: Object.entries({ dyno, station, logger }).map(([kind, { port }]) => ({
    kind,
    host: '127.0.0.1',
    port,
  })),
});
/** Lines of the dyno by recording and number, with the moment they were heard here. */
const sent = new Map<string, Map<number, { line: string; at: number }>>();
const ended = new Map<string, number>();
{
  const cut = lineCutter();
  const socket = connect(dyno.port, '127.0.0.1');
  socket.setEncoding('utf8');
  socket.on('data', (piece) => {
    for (const line of cut(String(piece))) {
      const message = JSON.parse(line) as { type: string; pull: string; n: number; samples: number };
      if (message.type === 'sample') {
        const own = sent.get(message.pull) ?? new Map<number, { line: string; at: number }>();
        own.set(message.n, { line, at: performance.now() });
        sent.set(message.pull, own);
      }
      if (message.type === 'end') ended.set(message.pull, message.samples);
    }
  });
}
const pulling = await lockedTest('kill stream');
await ask('POST', `/tests/${pulling.id}/bench/session`);
await ask('POST', `/tests/${pulling.id}/bench/mountings`, { note: 'bench' });
interface Shown {
  recordings: { state: string; order: number | null; problem: string | null }[];
  links: { connected: boolean }[];
}
const shown = () => ask<Shown>('GET', `/tests/${pulling.id}/bench`);
const until = async (wanted: (b: Shown) => boolean): Promise<void> => {
  for (const end = Date.now() + 120_000; !wanted(await shown()); await later(150))
    if (Date.now() > end) throw new Error(`never so: ${JSON.stringify((await shown()).recordings)}`);
};
await until((b) => b.links.filter((l) => l.connected).length === 3);
let made = 0;
async function extraPull(): Promise<void> {
  made += 1;
  await ask('POST', `/tests/${pulling.id}/bench/pull`, { pullId: null, arm: 'stock' });
  await until((b) => b.recordings.filter((r) => r.state === 'complete').length >= made);
}

// ── From a sample to four screens ──
const delays: number[] = [];
{
  const stop = new AbortController();
  for (let k = 0; k < 4; k++) {
    const screen = await fetch(`${servers[k % 2].base}/tests/${pulling.id}/bench/news`, {
      headers: { cookie },
      signal: stop.signal,
    });
    void (async () => {
      let rest = '';
      const decoder = new TextDecoder();
      for await (const piece of screen.body!) {
        const parts = (rest + decoder.decode(piece, { stream: true })).split('\n\n');
        rest = parts.pop() ?? '';
        for (const part of parts) {
          if (!part.startsWith('data: ')) continue;
          const news = JSON.parse(part.slice(6)) as { type: string; rows?: [number][] };
          if (news.type !== 'samples') continue;
          const key = [...sent.keys()].at(-1)!;
          for (const [n] of news.rows ?? []) {
            const at = sent.get(key)?.get(n)?.at;
            if (at !== undefined) delays.push(performance.now() - at);
          }
        }
      }
    })().catch(() => undefined);
  }
  for (let k = 0; k < 3; k++) await extraPull();
  stop.abort();
  delays.sort((a, b) => a - b);
  say(
    `sample to screen, four screens on two servers, ${delays.length} samples at ${SPEED} times life: ` +
      `median ${quantileSorted(delays, 0.5)!.toFixed(0)} ms, p95 ${quantileSorted(delays, 0.95)!.toFixed(0)} ms`,
  );
}

// ── Files beside a plain COPY ──
/** A pull file that no other is alike. */
function pullFile(seed: number): Buffer {
  const rowsOf = Array.from({ length: 700 }, (_, i) => {
    const rpm = 1700 + 7 * i;
    return `${(i / 50).toFixed(3)},${rpm.toFixed(1)},${(150 + 8 * Math.sin(i / 90) + (seed % 97) / 100).toFixed(2)},100`;
  });
  return Buffer.from(
    `# Seed: ${seed}\nTime (s),Engine speed (rpm),Torque (Nm),Throttle (%)\n${rowsOf.join('\n')}\n`,
  );
}
{
  const tests: Plan[] = [];
  for (let k = 0; k < 4; k++)
    tests.push(await lockedTest(`kill import ${k}`, { pullsPerRun: 12, warmUps: 8 }));
  const places = tests.flatMap((t) => t.pulls.map((p) => `/tests/${t.id}/pulls/${p.id}/file`));
  const files = places.map((_, k) => pullFile(1000 + k));
  const began = performance.now();
  const queue = places.map((path, k) => ({ path, bytes: files[k] }));
  await Promise.all(
    Array.from({ length: 3 }, async () => {
      for (let next = queue.shift(); next; next = queue.shift())
        await ask('POST', `${next.path}?name=p.csv`, new Uint8Array(next.bytes));
    }),
  );
  const http = performance.now() - began;
  await owner.query('create table plain (bytes bytea)');
  // As psql’s own COPY would read it: a file beside the server.
  const file = join(mkdtempSync(join(tmpdir(), 'evidentia-')), 'plain.copy');
  chmodSync(dirname(file), 0o755);
  writeFileSync(file, files.map((f) => `\\\\x${f.toString('hex')}\n`).join(''), { mode: 0o644 });
  const copying = performance.now();
  await owner.query(`copy plain from '${file}'`);
  const copy = performance.now() - copying;
  const perSecond = (ms: number): string => ((1000 * files.length) / ms).toFixed(0);
  say(
    `${files.length} pull files of ${(files[0].length / 1024).toFixed(0)} kB: ${perSecond(http)} a second through HTTP, read, ` +
      `hashed and attached; ${perSecond(copy)} a second as bare bytes by COPY; ratio ${(http / copy).toFixed(0)}`,
  );
}

// ── A log of 50 MB ──
{
  const memory = (): number =>
    Math.max(
      ...servers.map(({ child }) =>
        Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))![1]),
      ),
    ) / 1024;
  const before = memory();
  const line = (i: number): string =>
    `${(i / 100).toFixed(3)},${(1800 + 4400 * Math.abs(Math.sin(i / 900))).toFixed(1)},` +
    `150.${i % 10},100,${'88.25,96.5,31.75,0.882,24.5,98.1,47.3,'.repeat(2)}1`;
  const more = Array.from({ length: 15 }, (_, k) => `Channel ${k + 1}`).join(',');
  const head = `Time (s),Engine speed (rpm),Torque (Nm),Throttle (%),${more}\n`;
  let body = head;
  for (let i = 0; body.length < 49 * 1024 * 1024; i++) body += `${line(i)}\n`;
  const began = performance.now();
  const words = await ask(
    'POST',
    `/tests/${pulling.id}/long-logs?name=long.csv`,
    new TextEncoder().encode(body),
  ).then(
    (log) => `${(log as { pieces: unknown[] }).pieces.length} pulls found`,
    (error: Error) => error.message.slice(0, 160),
  );
  say(
    `a log of ${(body.length / 1048576).toFixed(0)} MB: ${words}, ${((performance.now() - began) / 1000).toFixed(1)} s, ` +
      `memory of the server ${before.toFixed(0)} → ${memory().toFixed(0)} MB at the most`,
  );
}

// ── Killed, again and again ──
const acknowledged = new Map<string, Buffer>();
async function uploading(stopped: () => boolean): Promise<void> {
  const test = await lockedTest(`kill uploads ${randomUUID()}`);
  for (let k = 0; !stopped(); k++) {
    const bytes = pullFile(Math.floor(rng.uniform() * 1e9));
    const { id } = test.pulls[k % test.pulls.length];
    await ask('POST', `/tests/${test.id}/pulls/${id}/file?name=p.csv`, new Uint8Array(bytes));
    acknowledged.set(createHash('sha256').update(bytes).digest('hex'), bytes);
  }
}
async function during(kills: () => Promise<void>): Promise<void> {
  let stop = false;
  const writers = [uploading(() => stop), uploading(() => stop)];
  const puller = (async () => {
    while (!stop) await extraPull();
  })();
  await kills();
  stop = true;
  await Promise.all([...writers, puller]);
}
async function tell(title: string): Promise<boolean> {
  const recorded = await owner.query<{ key: string; lines: string }>(`
    select r.device_key as key, convert_from(f.bytes, 'UTF8') as lines from recordings r
    join raw_files f on f.sha256 = r.lines_sha256 where r.state = 'complete'`);
  let wrong = 0;
  for (const { key, lines } of recorded.rows) {
    const truth = [...(sent.get(key) ?? [])].sort(([a], [b]) => a - b).map(([, { line }]) => line);
    const own = new Map<number, string>();
    for (const line of lines.split('\n')) {
      if (!line.includes('"type":"sample","pull"')) continue;
      own.set((JSON.parse(line) as { n: number }).n, line);
    }
    const kept = [...own].sort(([a], [b]) => a - b).map(([, line]) => line);
    if (kept.length !== ended.get(key) || kept.some((line, i) => line !== truth[i])) wrong += 1;
  }
  const unfinished = await owner.query(
    `select 1 from recordings where state not in ('complete', 'withdrawn')`,
  );
  let lost = 0;
  for (const [sha256, bytes] of acknowledged) {
    const { rows: kept } = await owner.query<{ bytes: Buffer }>(
      'select f.bytes from raw_files f join pull_files p using (sha256) where f.sha256 = $1 limit 1',
      [sha256],
    );
    if (!kept[0]?.bytes.equals(bytes)) lost += 1;
  }
  const half = await owner.query(`select 1 from pull_files p where not exists (
    select from audit_entries e where e.detail ->> 'sha256' = p.sha256)`);
  say(
    `${title}: ${recorded.rows.length} pulls recorded, ${wrong} other than sent, ${unfinished.rowCount} unfinished; ` +
      `${acknowledged.size} uploads acknowledged, ${lost} lost or changed, ${half.rowCount} half-stored`,
  );
  return wrong + lost + (half.rowCount ?? 0) + (unfinished.rowCount ?? 0) === 0;
}

let isGood = true;
await during(async () => {
  for (let k = 0; k < serverKills; k++) {
    await later(300 + 700 * rng.uniform());
    const i = k % 2;
    const old = servers[i];
    old.child.kill('SIGKILL');
    await once(old.child, 'close');
    servers[i] = await serve(DATABASE_URL!);
  }
});
isGood = (await tell(`${serverKills} servers killed`)) && isGood;
await during(async () => {
  for (let k = 0; k < databaseKills; k++) {
    await later(1500 + 1500 * rng.uniform());
    process.send?.('crash');
    await once(process, 'message');
  }
});
isGood = (await tell(`${databaseKills} times the database killed`)) && isGood;

for (const { child } of servers) child.kill('SIGTERM');
await Promise.all([dyno, station, logger].map((d) => d.close()));
await owner.end();
process.exit(isGood ? 0 : 1);
