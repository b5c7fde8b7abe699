/**
 * `npm run audit`: builds, and walks every page as everyone who may open it, at every size and in either light; prints
 * how many views fall short of what, and writes each of them to test-results/audit.txt. Takes about forty minutes;
 * `EVIDENTIA_AUDIT_PAGES` and `EVIDENTIA_AUDIT_READERS` narrow it (names, parted by semicolons).
 */
import { join } from 'node:path';
import { startDemoServer } from './demo-server.mjs';
import { CHROMIUM, ensureDebian, ensureModules, POSTGRES, root, say, show, startPostgres } from './lib.mjs';

ensureModules();
ensureDebian([POSTGRES, CHROMIUM]);
if ((await show(process.execPath, ['scripts/build.mjs'])) !== 0) process.exit(1);
const postgres = await startPostgres('audit-postgres', { throwaway: true });
let server;
const stop = () => {
  server?.stop();
  postgres.stop();
};
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    stop();
    process.exit(130);
  });
let status = 1;
try {
  server = await startDemoServer(postgres, 'audit');
  if (server)
    status = await show(join(root, 'node_modules/.bin/playwright'), ['test', 'audit.spec.ts'], {
      BASE_URL: server.base,
      EVIDENTIA_AUDIT: 'full',
    });
  else say('The server did not start.');
} finally {
  stop();
}
process.exit(status);
