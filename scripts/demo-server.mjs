/** A built server with the demo on a database of its own, for whatever looks at the application from outside. */
import { spawn } from 'node:child_process';
import { ensureApplicationRole, ensureDatabase, freePort, migrated, root, show } from './lib.mjs';

/** @returns the address and how to stop it; undefined where it did not start */
export async function startDemoServer(postgres, database) {
  await ensureDatabase(postgres, database);
  const port = await freePort();
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
  };
  if ((await show(process.execPath, ['dist/server/demo.js'], env)) !== 0) return undefined;
  const server = spawn(process.execPath, ['--enable-source-maps', 'dist/server/main.js'], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const ready = await new Promise((resolve) => {
    server.on('message', (m) => resolve(m.ready));
    server.on('close', () => resolve(false));
  });
  return ready ? { base: `http://127.0.0.1:${port}`, stop: () => server.kill('SIGTERM') } : undefined;
}
