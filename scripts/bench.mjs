/** `npm run bench`: builds and runs the benchmarks in bench/. */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { ensureModules, root, show } from './lib.mjs';

ensureModules();
const { build } = await import('esbuild');
mkdirSync(join(root, 'dist/bench'), { recursive: true });
await build({ entryPoints: [join(root, 'bench/bench.ts')], bundle: true, platform: 'node', format: 'esm', target: 'node20', outfile: join(root, 'dist/bench/bench.js'), logLevel: 'warning', banner: { js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);" } });
process.exit(await show(process.execPath, ['dist/bench/bench.js']));
