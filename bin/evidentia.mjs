#!/usr/bin/env node
import { existsSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const main = join(root, 'dist/cli/main.js');
if (!existsSync(main)) {
  if (!existsSync(join(root, 'node_modules/esbuild'))) {
    process.stderr.write(
      'The command is not built and its packages are not installed. Run `npm ci` first.\n',
    );
    process.exit(2);
  }
  const built = spawnSync(process.execPath, [join(root, 'scripts/build.mjs'), '--cli-only'], {
    stdio: ['ignore', 2, 2],
  });
  if (built.status !== 0) process.exit(2);
}
await import(pathToFileURL(main).href);
