/** A whole server on a database of its own, spoken to over HTTP; time is set by the test. */
import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import pino from 'pino';
import type { Role } from '../../contract/base/roles.ts';
import { createApp, createRoutes, type AppOptions } from '../app.ts';
import { openDb, openPool } from '../base/db.ts';
import type { Needs } from '../base/needs.ts';
import { inThisThread } from '../base/threads.ts';
import { bringUpToDate } from '../prepare.ts';
import { createHub } from '../base/hub.ts';
import { hashPassword } from '../base/sign-in.ts';
import { people } from '../base/tables.ts';
import { applications, dynos, fitments, partRevisions, parts, vehicles } from '../register/tables.ts';

export interface Answer<T = unknown> {
  status: number;
  body: T;
  headers: Headers;
  bytes: Buffer;
}
export type Ask = <T = Record<string, never>>(
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>,
) => Promise<Answer<T>>;

/** A shared machine stands still now and then, for seconds: times as long as usual a request waits. */
const PATIENCE = 8;

/** The role the servers of the tests run under: not the owner, as in a house. */
const APPLICATION = { role: 'evidentia_test', password: 'for tests only' };
async function applicationUrl(admin: pg.Client, url: string): Promise<string> {
  await admin.query(`do $$ begin create role ${APPLICATION.role} login password '${APPLICATION.password}';
    exception when duplicate_object or unique_violation then null; end $$`);
  const own = new URL(url);
  own.username = APPLICATION.role;
  own.password = APPLICATION.password;
  return own.href;
}

/** A server on a database of its own. `pool` and `db` are the owner's, for what a test does behind the server's back. */
export async function startApp(options: Partial<AppOptions> = {}) {
  const adminUrl = process.env.TEST_DATABASE_URL;
  if (!adminUrl) throw new Error('TEST_DATABASE_URL is not set; `npm test` sets it.');
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  const admin = new pg.Client({ connectionString: adminUrl });
  await admin.connect();
  await admin.query(`create database "${name}"`);
  const ownerUrl = adminUrl.replace(/\/[^/]*$/, `/${name}`);
  const databaseUrl = await applicationUrl(admin, ownerUrl);
  const log = pino({ level: 'silent' });
  await bringUpToDate(ownerUrl, APPLICATION.role, { log, softwareVersion: 'test' });
  const pool = openPool(ownerUrl, undefined, PATIENCE);
  const servers = openPool(databaseUrl, undefined, PATIENCE);
  // The database is dropped while the last connections close; that is no news.
  for (const each of [pool, servers]) each.on('error', () => undefined);
  const db = openDb(pool);
  const clock = { now: Date.parse('2026-11-10T09:00:00Z') };
  const needs: Needs = {
    db: openDb(servers),
    now: () => new Date((clock.now += 1000)),
    newId: randomUUID,
    log,
    softwareVersion: 'test',
    threads: inThisThread,
  };
  const appOptions: AppOptions = {
    demo: false,
    sessionSecret: 'test',
    secureCookie: false,
    signInTries: 1000,
    ...options,
  };
  const server = await listening(createApp(needs, servers, appOptions));
  const stops: (() => Promise<void>)[] = [() => closed(server)];
  const base = addressOf(server);

  const passwordHash = await hashPassword('right password');
  const ids: Record<string, string> = {};
  let partTaken = false;
  for (const [key, role] of [
    ['manager', 'test manager'],
    ['operator', 'operator'],
    ['reviewer', 'reviewer'],
    ['second', 'reviewer'],
    ['editor', 'catalogue editor'],
    ['partner', 'partner shop'],
  ] as [string, Role][]) {
    ids[key] = randomUUID();
    await db.insert(people).values({
      id: ids[key],
      name: key,
      email: `${key}@house.example`,
      role,
      clearance: key === 'manager',
      passwordHash,
      createdAt: needs.now(),
    });
  }
  for (const key of ['fitment', 'vehicle', 'part', 'revision', 'dyno']) ids[key] = randomUUID();
  await db.insert(fitments).values({
    id: ids.fitment,
    slug: 'made-up-one',
    maker: 'Made',
    model: 'Up',
    platformCode: 'M1',
    yearFrom: 2020,
    engineCode: 'E',
    displacementCc: 1800,
    cylinders: 4,
    aspiration: 'natural',
    ignition: 'spark',
    fuel: 'petrol 95 RON',
    transmission: 'manual',
    drivenWheels: 'front',
    outputVariant: '100 kW',
    market: 'EU',
    ratedPowerKw: 100,
    ratedTorqueNm: 170,
    ratedStandard: 'ISO 1585',
    family: 'F',
  });
  await db
    .insert(vehicles)
    .values({ id: ids.vehicle, fitmentId: ids.fitment, tag: 'car', odometerKm: 1, wheels: '205/55 R16' });
  await db
    .insert(parts)
    .values({ id: ids.part, sku: 'P-1', maker: 'Made', name: 'Part', category: 'intake' });
  await db.insert(partRevisions).values({ id: ids.revision, partId: ids.part, revision: 'A' });
  await db.insert(applications).values({ partId: ids.part, fitmentId: ids.fitment });
  await db.insert(dynos).values({
    id: ids.dyno,
    name: 'Cell',
    site: 'here',
    kind: 'loaded roller',
    siteHeightM: 10,
    appliesStandard: 'none',
    repeatability: {},
    opening: [1, 2, 3, 4, 5].map((day) => ({ day, from: '08:00', to: '17:00' })),
  });

  const askAs =
    (cookie: string, at = base): Ask =>
    async <T>(
      method: string,
      path: string,
      body?: unknown,
      headers: Record<string, string> = {},
    ): Promise<Answer<T>> => {
      const raw = body instanceof Uint8Array;
      const answer = await fetch(at + path, {
        method,
        headers: {
          ...(cookie ? { cookie } : {}),
          ...(body === undefined
            ? {}
            : { 'content-type': raw ? 'application/octet-stream' : 'application/json' }),
          ...headers,
        },
        ...(body === undefined ? {} : { body: raw ? Buffer.from(body) : JSON.stringify(body) }),
      });
      const bytes = Buffer.from(await answer.arrayBuffer());
      let parsed: unknown;
      try {
        parsed = JSON.parse(bytes.toString());
      } catch {
        parsed = undefined;
      }
      return { status: answer.status, body: parsed as T, headers: answer.headers, bytes };
    };
  const signIn = async (key: string, at = base): Promise<Ask> => {
    const answer = await askAs('', at)('POST', '/session', {
      email: `${key}@house.example`,
      password: 'right password',
    });
    const cookie = answer.headers.get('set-cookie');
    if (!cookie) throw new Error(`${key} is not signed in: ${answer.status} ${answer.bytes.toString()}`);
    return askAs(cookie.split(';')[0], at);
  };
  return {
    pool,
    db,
    ids,
    /** A part that no test has had yet, from now on the one of `ids`: every test of one part counts for the others. */
    async anotherPart(same = false): Promise<void> {
      if (partTaken && !same) {
        [ids.part, ids.revision] = [randomUUID(), randomUUID()];
        const sku = `P-${ids.part.slice(0, 8)}`;
        // Of another maker each: parts of one, called alike, may be one part.
        const maker = `Made ${sku}`;
        await db.insert(parts).values({ id: ids.part, sku, maker, name: 'Part', category: 'intake' });
        await db.insert(partRevisions).values({ id: ids.revision, partId: ids.part, revision: 'A' });
        await db.insert(applications).values({ partId: ids.part, fitmentId: ids.fitment });
      }
      partTaken = true;
    },
    clock,
    needs,
    base,
    nobody: askAs(''),
    signIn,
    routes: createRoutes(needs, appOptions, createHub({ connectionString: databaseUrl }, log)),
    plan: (change: Record<string, unknown> = {}) => ({
      question: 'Does the part give power?',
      fitmentId: ids.fitment,
      vehicleId: ids.vehicle,
      dynoId: ids.dyno,
      standard: 'sae-j1349',
      band: { fromRpm: 2500, toRpm: 6500, stepRpm: 50 },
      metrics: ['upTo'],
      protocol: 'A-B-A',
      order: ['stock', 'part', 'stock'],
      pullsPerRun: 3,
      warmUps: 3,
      remount: false,
      gear: '4th',
      fuel: '95 RON',
      arms: [
        { key: 'stock', label: 'stock', role: 'baseline', from: null, changes: [] },
        {
          key: 'part',
          label: 'part',
          role: 'part',
          from: null,
          changes: [{ kind: 'part fitted', category: 'intake', partRevisionId: ids.revision, settings: {} }],
        },
      ],
      ...change,
    }),
    databaseUrl,
    /**
     * The address of another server on the same database, with connections of its own: in this process, or a
     * process of its own from the built server.
     */
    async another(ownProcess: boolean): Promise<string> {
      if (ownProcess) {
        const child = await spawnServer(databaseUrl);
        stops.push(child.stop);
        return child.base;
      }
      const ownPool = openPool(databaseUrl, undefined, PATIENCE);
      ownPool.on('error', () => undefined);
      const other = await listening(createApp({ ...needs, db: openDb(ownPool) }, ownPool, appOptions));
      stops.push(async () => {
        await closed(other);
        await ownPool.end();
      });
      return addressOf(other);
    },
    async stop() {
      await placesAreRight(pool);
      for (const end of stops) await end();
      await Promise.all([pool.end(), servers.end()]);
      await admin.query(`drop database "${name}" with (force)`);
      await admin.end();
    },
  };
}
/**
 * Whatever a test has done to the records: the places kept beside them are those that follow from the records.
 */
export async function placesAreRight(pool: pg.Pool): Promise<void> {
  await pool.query('select refresh_places()');
  for (const [kept, made] of [
    ['coverage_cells', 'coverage_cells_now'],
    ['test_places', 'test_places_now'],
    ['claim_places', 'claim_places_now'],
    [
      'coverage_counts',
      '(select part_id, rank, count(*)::int as cells from coverage_cells_now group by 1, 2) as counted',
    ],
    ['coverage_rows', '(select distinct fitment_id from coverage_cells_now) as with_a_cell'],
  ]) {
    const { rows } = await pool.query<{ columns: string }>(
      'select string_agg(quote_ident(column_name), $2) as columns from information_schema.columns where table_name = $1',
      [kept, ', '],
    );
    const { columns } = rows[0];
    const differ = await pool.query(
      `(select 'kept' as what, * from (select ${columns} from ${kept} except select ${columns} from ${made}) a)
        union all (select 'made' as what, * from (select ${columns} from ${made} except select ${columns} from ${kept}) b)`,
    );
    if (differ.rows.length > 0)
      throw new Error(`${kept} is not what follows from the records: ${JSON.stringify(differ.rows)}`);
  }
}
const listening = async (app: ReturnType<typeof createApp>): Promise<Server> => {
  const server = app.listen(0, '127.0.0.1');
  // As in main: a busy machine may rest longer than node's 5 s between two requests of a test.
  server.keepAliveTimeout = 75_000;
  await new Promise((resolve) => {
    server.once('listening', resolve);
  });
  return server;
};
const closed = (server: Server): Promise<void> => {
  server.closeAllConnections();
  return new Promise((resolve) => {
    server.close(() => resolve());
  });
};
const addressOf = (server: Server): string =>
  `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;

/** The built server as a process of its own. */
export async function spawnServer(
  databaseUrl: string,
): Promise<{ base: string; stop: () => Promise<void>; kill: () => Promise<void> }> {
  const child = spawn(process.execPath, ['dist/server/main.js'], {
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      PORT: '0',
      EVIDENTIA_VERSION: 'test',
      EVIDENTIA_SESSION_SECRET: 'test',
      EVIDENTIA_SIGN_IN_TRIES: '1000',
      EVIDENTIA_LOG: 'warn',
      EVIDENTIA_PATIENCE: String(PATIENCE),
    },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const port = await new Promise<number>((resolve, reject) => {
    child.once('message', (message) => resolve((message as { port: number }).port));
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  const end = (signal: NodeJS.Signals) => (): Promise<void> =>
    new Promise((resolve) => {
      child.once('exit', () => resolve());
      child.kill(signal);
    });
  return { base: `http://127.0.0.1:${port}/api`, stop: end('SIGTERM'), kill: end('SIGKILL') };
}

export type TestApp = Awaited<ReturnType<typeof startApp>>;
