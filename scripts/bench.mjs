/**
 * `npm run bench`: builds and runs the benchmarks in bench/. `-- compute`, `-- rules`, `-- planning`, `-- shortcuts`,
 * `-- families`, `-- hard`, `-- one-way`, `-- flaws`, `-- tables`, `-- r`, `-- mutants`, `-- hostile`, `-- scale`, `-- races`, `-- kills`, `-- uploads`, `-- stream` or
 * `-- reevaluate [claims]` runs one part.
 */
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  ensureApplicationRole,
  ensureDatabase,
  ensureDebian,
  ensureModules,
  freePort,
  migrated,
  POSTGRES,
  root,
  say,
  show,
  startPostgres,
} from './lib.mjs';

const only = process.argv[2];
ensureModules();
const { build } = await import('esbuild');
mkdirSync(join(root, 'dist/bench'), { recursive: true });
await build({
  entryPoints: [
    join(root, 'bench/bench.ts'),
    join(root, 'bench/rules-bench.ts'),
    join(root, 'bench/r-bench.ts'),
    join(root, 'bench/scale-bench.ts'),
    join(root, 'bench/files-bench.ts'),
    join(root, 'bench/kills-bench.ts'),
    join(root, 'bench/reevaluate-bench.ts'),
    join(root, 'bench/uploads-bench.ts'),
    join(root, 'bench/stream-bench.ts'),
  ],
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  outdir: join(root, 'dist/bench'),
  logLevel: 'warning',
  external: ['pg'],
  banner: {
    js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
  },
});
let status = 0;
if (!only || only === 'compute') status = await show(process.execPath, ['dist/bench/bench.js']);
if (
  only === 'rules' ||
  only === 'planning' ||
  only === 'shortcuts' ||
  only === 'families' ||
  only === 'hard' ||
  only === 'one-way' ||
  only === 'flaws' ||
  only === 'tables'
)
  status = await show(process.execPath, ['dist/bench/rules-bench.js', only]);
if (only === 'r') {
  if ((await show(process.execPath, ['scripts/build.mjs', '--cli-only'])) !== 0) process.exit(1);
  status = await show(process.execPath, ['dist/bench/r-bench.js']);
}
if (only === 'mutants' || only === 'hostile')
  status = await show(process.execPath, ['dist/bench/files-bench.js', only]);
if (!only || only === 'scale') {
  ensureDebian([POSTGRES]);
  if ((await show(process.execPath, ['scripts/build.mjs'])) !== 0) process.exit(1);
  const postgres = await startPostgres('bench-postgres', { throwaway: true });
  const servers = [];
  const end = () => {
    for (const server of servers) server.kill('SIGTERM');
    postgres.stop();
  };
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.on(signal, () => {
      end();
      process.exit(130);
    });
  try {
    const places = [];
    for (const which of ['full', 'tenth']) {
      await ensureDatabase(postgres, `scale_${which}`);
      const databaseUrl = (await ensureApplicationRole(postgres))(`scale_${which}`);
      await migrated(postgres.url(`scale_${which}`), databaseUrl);
      const port = await freePort();
      const server = spawn(process.execPath, ['dist/server/main.js'], {
        cwd: root,
        stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
        env: {
          ...process.env,
          DATABASE_URL: databaseUrl,
          PORT: String(port),
          EVIDENTIA_DEMO: '1',
          EVIDENTIA_LOG: 'warn',
          EVIDENTIA_SESSION_SECRET: 'for the bench only',
        },
      });
      servers.push(server);
      await new Promise((resolve, reject) => {
        server.on('message', resolve);
        server.on('close', () => reject(new Error('The server did not start.')));
      });
      say(`Filling the ${which} register …`);
      const filled = spawnSync(
        process.execPath,
        ['dist/bench/scale-bench.js', 'fill', postgres.url(`scale_${which}`), which],
        { cwd: root, encoding: 'utf8' },
      );
      if (filled.status !== 0) throw new Error(filled.stderr);
      places.push(`http://127.0.0.1:${port}/api`, filled.stdout.trim(), String(server.pid));
    }
    status = (await show(process.execPath, ['dist/bench/scale-bench.js', 'time', ...places])) || status;
  } finally {
    end();
  }
}
if (only === 'races') {
  // Approvals beside every change under a claim, 200 rounds each, from two server processes on one database.
  ensureDebian([POSTGRES]);
  if ((await show(process.execPath, ['scripts/build.mjs'])) !== 0) process.exit(1);
  const postgres = await startPostgres('races-postgres', { throwaway: true });
  try {
    status = await show(
      join(root, 'node_modules/.bin/vitest'),
      ['run', 'server/__tests__/races.test.ts', '--testTimeout=3600000'],
      {
        TEST_DATABASE_URL: postgres.url('postgres'),
        RACE_ROUNDS: process.env.RACE_ROUNDS ?? '200',
        RACE_PROCESSES: '1',
      },
    );
  } finally {
    postgres.stop();
  }
}
if (only === 'kills' || only === 'stream') {
  // Servers and the database killed while people write; nothing acknowledged may be lost, nothing may be there twice.
  ensureDebian([POSTGRES]);
  if ((await show(process.execPath, ['scripts/build.mjs'])) !== 0) process.exit(1);
  const postgres = await startPostgres(`${only}-postgres`, { throwaway: true, durable: true });
  try {
    await ensureDatabase(postgres, 'kills');
    const databaseUrl = (await ensureApplicationRole(postgres))('kills');
    await migrated(postgres.url('kills'), databaseUrl);
    const child = spawn(process.execPath, [`dist/bench/${only}-bench.js`, ...process.argv.slice(3)], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, DATABASE_URL: databaseUrl, OWNER_URL: postgres.url('kills') },
    });
    child.on('message', () => void postgres.crash().then(() => child.send('up')));
    status = await new Promise((resolve) => child.on('close', (code) => resolve(code ?? 1)));
  } finally {
    postgres.stop();
  }
}
if (only === 'reevaluate') {
  // A new policy above thousands of published claims, with readers beside it.
  ensureDebian([POSTGRES]);
  if ((await show(process.execPath, ['scripts/build.mjs'])) !== 0) process.exit(1);
  const postgres = await startPostgres('reevaluate-postgres', { throwaway: true });
  const { startDemoServer } = await import('./demo-server.mjs');
  let server;
  try {
    server = await startDemoServer(postgres, 'reevaluate');
    if (!server) throw new Error('The server did not start.');
    status = await show(process.execPath, ['dist/bench/reevaluate-bench.js', ...process.argv.slice(3)], {
      OWNER_URL: postgres.url('reevaluate'),
      BASE: `${server.base}/api`,
      SERVER_PID: readFileSync(server.pidFile, 'utf8').trim(),
    });
  } finally {
    server?.stop();
    // It ends what it is at before its database goes.
    await new Promise((resolve) => setTimeout(resolve, 3000));
    postgres.stop();
  }
}
if (only === 'uploads') {
  ensureDebian([POSTGRES]);
  if ((await show(process.execPath, ['scripts/build.mjs'])) !== 0) process.exit(1);
  const postgres = await startPostgres('uploads-postgres', { throwaway: true });
  let server;
  try {
    await ensureDatabase(postgres, 'uploads');
    const databaseUrl = (await ensureApplicationRole(postgres))('uploads');
    await migrated(postgres.url('uploads'), databaseUrl);
    const port = await freePort();
    server = spawn(process.execPath, ['dist/server/main.js'], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: {
        ...process.env,
        DATABASE_URL: databaseUrl,
        PORT: String(port),
        EVIDENTIA_DEMO: '1',
        EVIDENTIA_LOG: 'warn',
        EVIDENTIA_SESSION_SECRET: 'for the bench only',
      },
    });
    await new Promise((resolve, reject) => {
      server.on('message', resolve);
      server.on('close', () => reject(new Error('The server did not start.')));
    });
    status = await show(process.execPath, ['dist/bench/uploads-bench.js'], {
      OWNER_URL: postgres.url('uploads'),
      BASE: `http://127.0.0.1:${port}/api`,
      SERVER_PID: String(server.pid),
    });
  } finally {
    server?.kill('SIGTERM');
    postgres.stop();
  }
}
process.exit(status);
