/**
 * `npm start`: installs what is missing, starts PostgreSQL, migrates, loads the demo once, builds,
 * serves, prints the address. A server that dies is started again. Ctrl-C stops everything it started.
 *   DATABASE_URL        use this PostgreSQL instead of the project's own, as the role the servers run under
 *   DATABASE_OWNER_URL  the same database as the role that owns its tables and migrates
 *   PORT                wanted port (4780); the next free one is taken when it is in use
 *   EVIDENTIA_DEMO=0    no demo data and no sample people at the sign-in
 */
import { spawn } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { playStandIns } from './stand-ins.mjs';
import {
  ensureApplicationRole,
  ensureDatabase,
  ensureDebian,
  ensureModules,
  freePort,
  keptSecret,
  migrated,
  newestChange,
  portIsFree,
  POSTGRES,
  root,
  say,
  SetUpError,
  show,
  startPostgres,
} from './lib.mjs';

let postgres;
let server;
let stopping = false;
function stop(status) {
  if (stopping) return;
  stopping = true;
  standIns?.stop();
  const end = () => {
    postgres?.stop();
    process.exit(status);
  };
  if (!server || server.exitCode !== null) end();
  else {
    server.once('close', end);
    server.kill('SIGTERM');
    setTimeout(() => server.kill('SIGKILL'), 8000).unref();
  }
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => {
    say('\nStopping …');
    stop(0);
  });

/** Simulated devices for the demo's own dyno; their ports are named in its register. */
let standIns;
async function startStandIns(env, taken) {
  standIns = await playStandIns({ taken });
  const status = await show(process.execPath, ['dist/server/demo.js'], {
    ...env,
    EVIDENTIA_STAND_INS: JSON.stringify(standIns.ports),
  });
  if (status !== 0) say('The stand-ins could not be named in the register; the bench has no devices.');
}

/** Starts the server again when it dies, a little later each time; gives up when it does not stay up. */
const TRIES = 6;
const FIRST_PAUSE_MS = 500;
const STEADY_MS = 60_000;
let fallen = 0;
function serve(env) {
  const began = Date.now();
  // A group of its own: Ctrl-C reaches this script first, which then stops everything in order.
  server = spawn(process.execPath, ['--enable-source-maps', 'dist/server/main.js'], {
    cwd: root,
    env,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    detached: true,
  });
  server.on('message', (message) => {
    if (message.ready) say(`\nEvidentia is at http://127.0.0.1:${message.port}\nCtrl-C stops it.`);
  });
  server.on('close', (status, signal) => {
    if (stopping) return;
    fallen = Date.now() - began > STEADY_MS ? 1 : fallen + 1;
    const how = `The server ended (${signal ?? status})`;
    if (fallen > TRIES) {
      say(`${how} ${fallen} times in a row; giving up. Its last words stand above.`);
      stop(1);
      return;
    }
    const pause = FIRST_PAUSE_MS * 2 ** (fallen - 1);
    say(`${how}; starting it again in ${pause / 1000} s.`);
    setTimeout(() => {
      if (!stopping) serve(env);
    }, pause);
  });
}

try {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new SetUpError(`Node ${process.versions.node} is too old; 20.19 or newer is needed.`);
  ensureModules();
  const { DATABASE_OWNER_URL, ...own } = process.env;
  let databaseUrl = own.DATABASE_URL;
  let ownerUrl = databaseUrl ? DATABASE_OWNER_URL : undefined;
  if (!databaseUrl) {
    ensureDebian([POSTGRES]);
    postgres = await startPostgres('postgres');
    await ensureDatabase(postgres, 'evidentia');
    ownerUrl = postgres.url('evidentia');
    databaseUrl = (await ensureApplicationRole(postgres))('evidentia');
  }
  const built = join(root, 'dist/web/index.html');
  const sources = newestChange([
    'core',
    'contract',
    'server',
    'web',
    'bench',
    'demo',
    'cli',
    'scripts',
    'package-lock.json',
    'vite.config.ts',
  ]);
  if (!existsSync(built) || statSync(built).mtimeMs < sources) {
    say('Building …');
    if ((await show(process.execPath, ['scripts/build.mjs'])) !== 0)
      throw new SetUpError('The build failed; see above.');
  }
  if (ownerUrl) await migrated(ownerUrl, databaseUrl);
  const demo = process.env.EVIDENTIA_DEMO ?? '1';
  // The servers never learn how to become the owner.
  const env = {
    ...own,
    DATABASE_URL: databaseUrl,
    EVIDENTIA_DEMO: demo,
    EVIDENTIA_LOG: process.env.EVIDENTIA_LOG ?? 'warn',
    EVIDENTIA_SESSION_SECRET: process.env.EVIDENTIA_SESSION_SECRET ?? keptSecret('session-secret'),
  };
  if (demo === '1' && (await show(process.execPath, ['dist/server/demo.js'], env)) !== 0)
    throw new SetUpError('The demo data could not be loaded; see above.');
  const wanted = Number(process.env.PORT ?? 4780);
  const port = (await portIsFree(wanted)) ? wanted : await freePort();
  if (port !== wanted) say(`Port ${wanted} is taken; using ${port}.`);
  if (demo === '1') await startStandIns(env, port);
  if (!stopping) serve({ ...env, PORT: String(port) });
} catch (error) {
  process.stderr.write(`${error instanceof SetUpError ? error.message : error.stack}\n`);
  stop(1);
}
