/** A built server with the demo on a database of its own, for whatever looks at the application from outside. */
import { spawn } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { playStandIns } from './stand-ins.mjs';
import { ensureApplicationRole, ensureDatabase, freePort, migrated, root, show } from './lib.mjs';

/** @returns the address and how to stop it; undefined where it did not start */
export async function startDemoServer(postgres, database) {
  await ensureDatabase(postgres, database);
  const port = await freePort();
  const pidFile = join(mkdtempSync(join(tmpdir(), 'evidentia-')), 'server.pid');
  const databaseUrl = (await ensureApplicationRole(postgres))(database);
  await migrated(postgres.url(database), databaseUrl);
  const env = {
    DATABASE_URL: databaseUrl,
    PORT: String(port),
    EVIDENTIA_DEMO: '1',
    EVIDENTIA_DEMO_PASSWORD: 'sample password',
    EVIDENTIA_LOG: 'warn',
    EVIDENTIA_SESSION_SECRET: 'for tests only',
    EVIDENTIA_SIGN_IN_TRIES: '1000',
    // A shared machine stands still now and then, for seconds.
    EVIDENTIA_PATIENCE: '6',
  };
  const standIns = await playStandIns({ speed: 4, anyPort: true });
  const loading = { ...env, EVIDENTIA_STAND_INS: JSON.stringify(standIns.ports) };
  if ((await show(process.execPath, ['dist/server/demo.js'], loading)) !== 0) {
    standIns.stop();
    return undefined;
  }
  let server;
  let isStopped = false;
  const serve = () =>
    new Promise((resolve) => {
      server = spawn(process.execPath, ['--enable-source-maps', 'dist/server/main.js'], {
        cwd: root,
        env: { ...process.env, ...env },
        stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      });
      writeFileSync(pidFile, String(server.pid));
      server.on('message', (m) => resolve(m.ready));
      server.on('close', (_status, signal) => {
        resolve(false);
        // A test may kill it: as under `npm start`, it is there again a little later.
        if (!isStopped && signal === 'SIGKILL') setTimeout(() => void serve(), 500);
      });
    });
  const ready = await serve();
  const stop = () => {
    isStopped = true;
    standIns.stop();
    server.kill('SIGTERM');
  };
  return ready ? { base: `http://127.0.0.1:${port}`, pidFile, stop } : undefined;
}
