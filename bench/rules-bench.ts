/**
 * `npm run bench -- rules`: the interval rules beside those they replaced, on the same simulated pulls, in as many
 * processes as the machine has cores. `-- planning`: the table of what their guards cost a plan. `-- shortcuts`: what common practice finds
 * when the part does nothing. `-- families`: several parts that do nothing. `-- hard`: days on which everything goes
 * wrong at once. `-- one-way`: what cannot be undone. `-- flaws`: sessions with known
 * flaws and the verdict wanted of each. `-- tables`: the
 * rules that were weighed before, designs, start temperatures and days. All are seeded.
 */
import { spawn } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { CELLS, keyOf, report } from './compare/rules-report.ts';
import { study, type StudyRates } from './compare/rules-study.ts';
import { designsReport } from './compare/designs-study.ts';
import { heatAndDaysReport } from './compare/heat-and-days-study.ts';
import { oldClaimsReport } from './compare/old-claims-study.ts';
import { varianceRulesReport } from './compare/variance-rules-study.ts';
import { flawsReport } from './judge/flaws-report.ts';
import { familyReport } from './compare/family-study.ts';
import { oneWayReport } from './compare/one-way-study.ts';
import { hardDaysReport } from './compare/hard-days-study.ts';
import { shortcutsReport } from './compare/shortcuts-study.ts';
import { PLANNED_DESIGNS, PLANNED_PULLS, planningFactors } from './compare/planning-factors.ts';

const SEED = 20262;
const [what, part, parts] = process.argv.slice(2);
const print = (text: string): void => {
  process.stdout.write(`${text}\n`);
};

/** Every so many-th cell, a line of JSON each; the seed of a cell does not depend on who computes it. */
function computeShare(share: number, shares: number, tests: number): void {
  CELLS.forEach((cell, i) => {
    if (i % shares === share) print(JSON.stringify([keyOf(cell), study(cell, tests, SEED + i)]));
  });
}

function shareOf(share: number, shares: number): Promise<[string, StudyRates][]> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [process.argv[1], 'share', String(share), String(shares)], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let out = '';
    child.stdout.on('data', (chunk) => (out += chunk));
    child.on('close', (status) =>
      status === 0
        ? resolve(
            out
              .trim()
              .split('\n')
              .map((line) => JSON.parse(line) as [string, StudyRates]),
          )
        : reject(new Error(`A share of the study ended with status ${status}.`)),
    );
  });
}

const tests = Number(process.env.EVIDENTIA_BENCH_TESTS ?? 4000);
if (what === 'share') computeShare(Number(part), Number(parts), tests);
else if (what === 'families') print(familyReport(tests));
else if (what === 'flaws') print(flawsReport(Number(process.env.EVIDENTIA_BENCH_TESTS ?? 10)));
else if (what === 'one-way') print(oneWayReport(tests));
else if (what === 'hard') {
  print(
    `Everything wrong at once: claimed too much % / covered % / half-width, lp; ${tests} sessions a cell\n`,
  );
  print(hardDaysReport(tests));
} else if (what === 'tables') {
  print(
    `Variance rules before rule P, A-B on one mounting, no smoothing: coverage % / mean half-width, lp; ${tests} sessions a cell\n`,
  );
  print(varianceRulesReport(tests));
  print(
    `\nWhat rules O and B would have let people claim as “up to”, A-B on one mounting: claim > 0 / ≥ 1 % / mean claim % (claim > truth)\n`,
  );
  print(oldClaimsReport(tests));
  print(
    `\nDesigns re-mounted at every change of runs, the scalar rule before rule S, ${5 * tests} sessions\n`,
  );
  print(designsReport(5 * tests));
  print(`\nStart temperatures and days, rule S strict, ${tests} sessions\n`);
  print(heatAndDaysReport(tests));
} else if (what === 'shortcuts') print(shortcutsReport(5 * tests));
else if (what === 'planning') {
  print(
    `design  pulls  strict  usual  curve  (variance of a curve, of an average; lp²), ${tests} sessions each`,
  );
  for (const design of PLANNED_DESIGNS)
    for (let n = PLANNED_PULLS.least; n <= PLANNED_PULLS.most; n++) {
      const f = planningFactors(design, n, tests);
      print(
        `${design.padEnd(7)} ${String(n).padStart(5)}  ${f.strict.toFixed(3).padStart(6)}  ${f.usual.toFixed(3)}  ` +
          `${f.curve.toFixed(3)}  (${f.curveVariance.toFixed(3)}, ${f.averageVariance.toFixed(3)})`,
      );
    }
} else {
  const shares = availableParallelism();
  const results = await Promise.all(Array.from({ length: shares }, (_, k) => shareOf(k, shares)));
  print(report(new Map(results.flat()), tests));
}
