/** Builds command line, server and web application into dist/. `--cli-only` builds the command line alone. */
import { copyFileSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
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

/** Left out of the command line: words of errors in forty languages, and what starts other programs. */
const onlyWhatIsUsed = {
  name: 'only what is used',
  setup(esbuild) {
    esbuild.onLoad({ filter: /zod\/v4\/locales\/index\.js$/ }, () => ({
      contents: "export { default as en } from './en.js';",
    }));
    esbuild.onResolve({ filter: /^node:child_process$/ }, ({ importer }) =>
      importer.includes('/commander/') ? { path: 'child_process', namespace: 'when-asked' } : undefined,
    );
    esbuild.onLoad({ filter: /.*/, namespace: 'when-asked' }, () => ({
      contents: "exports.spawn = (...args) => require('child_process').spawn(...args);",
      loader: 'js',
    }));
  },
};
// One file that a compile cache can be kept of (bin/evidentia.mjs): most of the time of a short command is loading it.
await build({
  ...common,
  entryPoints: ['cli/main.ts'],
  outfile: 'dist/cli/main.cjs',
  format: 'cjs',
  minify: true,
  plugins: [onlyWhatIsUsed],
  sourcemap: 'linked',
  define: { 'import.meta.url': '__here' },
  banner: { js: "const __here = require('node:url').pathToFileURL(__filename).href;" },
});
for (const left of readdirSync('dist/cli'))
  if (/\.cache(\.\d+)?$|^main\.js/.test(left)) rmSync(`dist/cli/${left}`, { force: true });
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
