/**
 * `npm test`: set-up, types, lint, unit and server tests, browser tests; ends with `N passed, N failed`
 * from the runners' own counts. A step that could not run counts as one failure. `npm test -- unit` or `-- e2e`
 * runs that part alone.
 */
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { CHROMIUM, ensureDebian, ensureModules, POSTGRES, root, say, show, startPostgres } from './lib.mjs';
import { startDemoServer } from './demo-server.mjs';

const only = process.argv[2];
const wants = (part) => !only || only === part;
const tally = { passed: 0, failed: 0 };
const results = join(root, 'test-results');
let postgres;
let server;

const count = (passed, failed) => {
  tally.passed += passed;
  tally.failed += failed;
};
/** A check that has no count of its own is one that passed or failed. */
async function step(name, command, args) {
  say(`\n── ${name}`);
  const status = await show(command, args);
  count(status === 0 ? 1 : 0, status === 0 ? 0 : 1);
  return status === 0;
}
function read(file) {
  try {
    return JSON.parse(readFileSync(join(results, file), 'utf8'));
  } catch {
    return undefined;
  }
}
const bin = (name) => join(root, 'node_modules/.bin', name);

async function main() {
  ensureModules();
  ensureDebian([POSTGRES, CHROMIUM]);
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });
  if (!only) {
    await step('types', bin('tsc'), ['--noEmit', '-p', 'tsconfig.json']);
    await step('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
    await step('lint', bin('eslint'), ['.', '--max-warnings', '0']);
    await step('imports go one way', bin('depcruise'), [
      '--config',
      '.dependency-cruiser.cjs',
      'core',
      'contract',
      'server',
      'web',
      'bench',
      'cli',
      'demo',
      'e2e',
    ]);
  }
  if (!(await step('build', process.execPath, ['scripts/build.mjs']))) return;
  postgres = await startPostgres('test-postgres', { throwaway: true });

  if (wants('unit')) {
    say('\n── unit and server tests');
    const status = await show(
      bin('vitest'),
      ['run', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/unit.json'],
      { TEST_DATABASE_URL: postgres.url('postgres') },
    );
    const unit = read('unit.json');
    if (unit)
      count(
        unit.numPassedTests,
        unit.numFailedTests +
          unit.testResults.filter(
            (f) => f.status === 'failed' && f.assertionResults.every((a) => a.status === 'passed'),
          ).length,
      );
    if (!unit || (status !== 0 && unit.numFailedTests === 0)) count(0, 1);
  }
  if (wants('e2e')) {
    say('\n── browser tests');
    server = await startDemoServer(postgres, 'e2e');
    if (!server) {
      say('The server did not start.');
      count(0, 1);
      return;
    }
    const status = await show(bin('playwright'), ['test'], {
      BASE_URL: server.base,
      SERVER_PID_FILE: server.pidFile,
    });
    const e2e = read('e2e.json');
    if (e2e) count(e2e.stats.expected, e2e.stats.unexpected + e2e.stats.flaky);
    if (!e2e || (status !== 0 && e2e.stats.unexpected === 0)) count(0, 1);
  }
}

let stopped = false;
function stop() {
  if (!stopped) {
    stopped = true;
    server?.stop();
    postgres?.stop();
  }
}
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    stop();
    process.exit(130);
  });
try {
  await main();
} catch (error) {
  process.stderr.write(`${error.stack ?? error}\n`);
  count(0, 1);
} finally {
  stop();
}
if (!existsSync(results)) mkdirSync(results);
say(`\n${tally.passed} passed, ${tally.failed} failed`);
process.exit(tally.failed > 0 || tally.passed === 0 ? 1 : 0);
