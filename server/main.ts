import { randomBytes, randomUUID } from 'node:crypto';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { createApp, createServices } from './app.ts';
import { createHub } from './base/hub.ts';
import { startRecorder } from './capture/recorder.ts';
import { ensureHouse, SOFTWARE_VERSION } from './base/house.ts';
import { openQueue, type Later } from './base/later.ts';
import { createSettling } from './publish/settling.ts';
import { createPolicyPreviews } from './publish/policy-previews.ts';
import type { Needs } from './base/needs.ts';
import { inThreads } from './base/threads.ts';
import { openDb, openPool } from './base/db.ts';
import { fillFoundBy } from './register/found-by.ts';
import { ensureReady } from './prepare.ts';

const {
  DATABASE_URL,
  PORT = '4780',
  EVIDENTIA_DEMO,
  EVIDENTIA_SESSION_SECRET,
  EVIDENTIA_SECURE_COOKIE,
  EVIDENTIA_VERSION = SOFTWARE_VERSION,
  EVIDENTIA_LOG = 'info',
  EVIDENTIA_SIGN_IN_TRIES,
  EVIDENTIA_TRUST_PROXY,
  EVIDENTIA_HOSTS = '',
  EVIDENTIA_PATIENCE,
} = process.env;
const log = pino({ level: EVIDENTIA_LOG });
if (!DATABASE_URL) {
  log.fatal('DATABASE_URL is not set. Use `npm start`, or point it at a PostgreSQL database.');
  process.exit(1);
}
if (!EVIDENTIA_SESSION_SECRET)
  log.warn('EVIDENTIA_SESSION_SECRET is not set: sessions end with this process.');

const here = dirname(fileURLToPath(import.meta.url));
const pool = openPool(
  DATABASE_URL,
  (error) => log.error({ error: error.message }, 'database connection lost'),
  Number(EVIDENTIA_PATIENCE) || undefined,
);
try {
  await ensureReady(pool, DATABASE_URL, { log, softwareVersion: EVIDENTIA_VERSION });
} catch (error) {
  log.fatal({ error: error instanceof Error ? error.message : String(error) }, 'cannot serve this database');
  process.exit(1);
}
await fillFoundBy(openDb(pool), new Date());
const needs: Needs = {
  db: openDb(pool),
  now: () => new Date(),
  newId: randomUUID,
  log,
  softwareVersion: EVIDENTIA_VERSION,
  threads: inThreads(join(here, 'tasks.js')),
};
await ensureHouse(needs);
const { publish, finish, judge } = createServices(needs);
await publish.backfillSnapshots();
const previews = createPolicyPreviews(needs, judge, () => queue.send('preview'));
const settling = createSettling(publish, judge, () => queue.send('settle'));
const queue: Later = await openQueue(DATABASE_URL, log, {
  settle: () => settling.work(),
  preview: () => previews.work(),
});
const hub = createHub({ connectionString: DATABASE_URL }, log);
const app = createApp(
  needs,
  pool,
  {
    demo: EVIDENTIA_DEMO === '1',
    sessionSecret: EVIDENTIA_SESSION_SECRET ?? randomBytes(32).toString('hex'),
    secureCookie: EVIDENTIA_SECURE_COOKIE === '1',
    hosts: EVIDENTIA_HOSTS.toLowerCase()
      .split(/[\s,]+/)
      .filter(Boolean),
    webRoot: join(here, '../web'),
    later: () => queue.send('settle'),
    preview: () => queue.send('preview'),
    ...(EVIDENTIA_TRUST_PROXY
      ? {
          trustProxy: /^\d+$/.test(EVIDENTIA_TRUST_PROXY)
            ? Number(EVIDENTIA_TRUST_PROXY)
            : EVIDENTIA_TRUST_PROXY,
        }
      : {}),
    ...(EVIDENTIA_SIGN_IN_TRIES ? { signInTries: Number(EVIDENTIA_SIGN_IN_TRIES) } : {}),
  },
  hub,
);
const recorder = startRecorder(needs, hub, (id) => finish.finish(id));
const server = app.listen(Number(PORT), '127.0.0.1', (error?: Error) => {
  if (error) {
    log.fatal({ error: error.message }, 'cannot listen');
    process.exit(1);
  }
  log.info({ address: server.address() }, 'listening');
  // What a new version of the application, or a change just before it stopped, left open.
  void queue.send('settle');
  void queue.send('preview');
  process.send?.({ ready: true, port: (server.address() as { port: number }).port });
});
// Longer than clients and proxies in front keep an idle connection (60 s is usual): whoever sends on one must
// not meet a server that is just closing it, which node does after 5 s.
server.keepAliveTimeout = 75_000;
let stopping = false;
function stop(): void {
  if (stopping) return;
  stopping = true;
  server.close(() => {
    void Promise.allSettled([recorder.stop(), queue.stop(), needs.threads.close()])
      .then(() => hub.close())
      .then(() => pool.end())
      .finally(() => process.exit(0));
  });
  server.closeAllConnections();
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, stop);
// Whoever started it was killed: nobody would start it again or stop it.
process.on('disconnect', stop);
