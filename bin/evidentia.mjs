#!/usr/bin/env node
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Script } from 'node:vm';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const main = join(root, 'dist/cli/main.cjs');
if (!existsSync(main)) {
  if (!existsSync(join(root, 'node_modules/esbuild'))) {
    process.stderr.write(
      'The command is not built and its packages are not installed. Run `npm ci` first.\n',
    );
    process.exit(2);
  }
  const { spawnSync } = await import('node:child_process');
  const built = spawnSync(process.execPath, [join(root, 'scripts/build.mjs'), '--cli-only'], {
    stdio: ['ignore', 2, 2],
  });
  if (built.status !== 0) process.exit(2);
}

// What V8 made of the file is kept beside it, for each command by itself: one needs functions that another does not.
// It refuses what another version of Node or of the file left there.
const COMMANDS = ['analyse', 'inspect', 'reference', 'simulate', 'fault'];
const command = COMMANDS.includes(process.argv[2]) ? process.argv[2] : 'help';
const cache = join(root, `dist/cli/${command}.cache`);
const cachedData = existsSync(cache) ? readFileSync(cache) : undefined;
const source = `(function (exports, require, module, __filename, __dirname) {${readFileSync(main, 'utf8')}\n})`;
const script = new Script(source, { filename: main, cachedData });
if (!cachedData || script.cachedDataRejected)
  process.on('exit', () => {
    try {
      // Kept after the work, with the functions it needed; whole or not at all.
      writeFileSync(`${cache}.${process.pid}`, script.createCachedData());
      renameSync(`${cache}.${process.pid}`, cache);
    } catch {
      // A folder that cannot be written to costs time, nothing else.
    }
  });
const module = { exports: {} };
script.runInThisContext()(module.exports, createRequire(main), module, main, dirname(main));
