/**
 * Coverage and search at 5 000 fitments × 400 parts, and at a tenth of it: server time p95 and growth.
 * Started by scripts/bench.mjs, which brings the servers.
 */
import { fillRegister, timeAnswers, type Size } from './register/scale.ts';

const FULL: Size = { fitments: 5000, parts: 400, density: 0.1, tests: 2000 };
const TENTH: Size = { fitments: 500, parts: 400, density: 0.1, tests: 200 };
const SEED = 5000;
const ROUNDS = 40;

const [step, ...args] = process.argv.slice(2);
if (step === 'fill') {
  const [url, which] = args as [string, 'full' | 'tenth'];
  process.stdout.write(await fillRegister(url, which === 'full' ? FULL : TENTH, SEED));
} else {
  const [fullBase, fullPerson, tenthBase, tenthPerson] = args as [string, string, string, string];
  const tenth = await timeAnswers(tenthBase, tenthPerson, ROUNDS, SEED);
  const full = await timeAnswers(fullBase, fullPerson, ROUNDS, SEED);
  process.stdout.write(
    `\nCoverage and search, ${FULL.fitments} fitments × ${FULL.parts} parts (${FULL.fitments * FULL.parts * FULL.density} applications, ${FULL.tests} tests), seed ${SEED}, ${ROUNDS} rounds\n`,
  );
  process.stdout.write(
    `${'question'.padEnd(36)}${'p50 ms'.padStart(9)}${'p95 ms'.padStart(9)}${'a tenth, p95'.padStart(14)}${'growth'.padStart(9)}${'kB'.padStart(8)}\n`,
  );
  full.forEach((f, i) =>
    process.stdout.write(
      `${f.what.padEnd(36)}${f.p50.toFixed(1).padStart(9)}${f.p95.toFixed(1).padStart(9)}${tenth[i].p95.toFixed(1).padStart(14)}${`${(f.p50 / tenth[i].p50).toFixed(1)}×`.padStart(9)}${(f.bytes / 1024).toFixed(0).padStart(8)}\n`,
    ),
  );
}
