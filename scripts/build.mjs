/** Builds command line, server and web application into dist/. `--cli-only` builds the command line alone. */
import { copyFileSync, mkdirSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

import { packAssets } from './pack-assets.mjs';
import { cutFonts } from './fonts.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
process.chdir(root);
const cliOnly = process.argv.includes('--cli-only');
const { build } = await import('esbuild');

// Packages with CommonJS parts ask for `require` inside an ES module bundle.
const banner = {
  js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
};
const common = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  banner,
  logLevel: 'warning',
  sourcemap: true,
};

// One file that a compile cache can be kept of (bin/evidentia.mjs): most of the time of a short command is loading it.
await build({
  ...common,
  entryPoints: ['cli/main.ts'],
  outfile: 'dist/cli/main.cjs',
  format: 'cjs',
  minify: true,
  sourcemap: 'linked',
  define: { 'import.meta.url': '__here' },
  banner: { js: "const __here = require('node:url').pathToFileURL(__filename).href;" },
});
for (const stale of ['main.cache', 'main.js', 'main.js.map']) rmSync(`dist/cli/${stale}`, { force: true });
mkdirSync('dist/cli/reference', { recursive: true });
for (const name of ['r-results', 'rule-p', 'rules-s-t-d'])
  copyFileSync(`cli/reference/${name}.json`, `dist/cli/reference/${name}.json`);
if (!cliOnly) {
  await build({
    ...common,
    entryPoints: {
      main: 'server/main.ts',
      migrate: 'server/migrate.ts',
      tasks: 'server/tasks.ts',
      demo: 'demo/load.ts',
      'stand-ins': 'bench/stand-ins.ts',
    },
    outdir: 'dist/server',
    packages: 'external',
  });
  await cutFonts();
  const vite = await import('vite');
  await vite.build({ configFile: 'vite.config.ts', logLevel: 'warn' });
  await packAssets(join(root, 'dist/web/assets'));
}
