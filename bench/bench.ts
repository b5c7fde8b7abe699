/**
 * `npm run bench`: time and memory of parse-to-verdict, the share spent in parsing, growth at ten times
 * the samples, and coverage over simulated tests. Prints a table; nothing here is asserted by tests.
 */
import { spawnSync } from 'node:child_process';
import { analyseTest } from '../core/judge/analyse-test.ts';
import { readPullFile } from '../core/capture/pull-file.ts';
import { ruleSpeed } from './compare/rule-speed.ts';
import { coverage, type CoverageInput } from './judge/coverage.ts';
import { eightPulls as input } from './judge/eight-pulls.ts';

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1];
function timed(work: () => unknown, rounds: number): number {
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const t = performance.now();
    work();
    times.push(performance.now() - t);
  }
  return median(times);
}

function measure(samples: number, rounds: number) {
  const { test, files } = input(samples);
  const pulls = [...files].filter(([path]) => path.startsWith('pulls/'));
  const rows = readPullFile(pulls[0][1]).samples;
  const firstRun = timed(() => analyseTest(test, (f) => files.get(f)), 1);
  const whole = timed(() => analyseTest(test, (f) => files.get(f)), rounds);
  const parsing = timed(() => pulls.map(([, bytes]) => readPullFile(bytes, { channels: 'needed' })), rounds);
  return { pulls: pulls.length, rows, firstRun, whole, parsing };
}

const argument = process.argv[2];
if (argument === '--memory') {
  const { test, files } = input(2000);
  analyseTest(test, (f) => files.get(f));
  process.stdout.write(String(process.resourceUsage().maxRSS));
} else {
  const print = (text: string): void => {
    process.stdout.write(`${text}\n`);
  };
  measure(500, 3); // warms the compiler: the figures below are of steady runs, the first one is told beside them
  const one = measure(2000, 15);
  const ten = measure(20000, 5);
  const peak =
    Number(spawnSync(process.execPath, [process.argv[1], '--memory'], { encoding: 'utf8' }).stdout) / 1024;
  const idle =
    Number(
      spawnSync(process.execPath, ['-e', 'process.stdout.write(String(process.resourceUsage().maxRSS))'], {
        encoding: 'utf8',
      }).stdout,
    ) / 1024;
  print(`parse to verdict, ${one.pulls} pulls × ${one.rows} samples × 8 channels`);
  print(
    `  computing            ${one.whole.toFixed(0)} ms (target under 150); first run in a warm process ${one.firstRun.toFixed(0)} ms`,
  );
  print(
    `  of which parsing     ${one.parsing.toFixed(0)} ms, ${((100 * one.parsing) / one.whole).toFixed(0)} %`,
  );
  print(
    `  ten times the rows   ${ten.whole.toFixed(0)} ms for ${ten.rows} samples a ` +
      `pull: ${(ten.whole / one.whole / (ten.rows / one.rows)).toFixed(2)} × linear`,
  );
  print(
    `  peak memory          ${peak.toFixed(0)} MB of the process, ${(peak - idle).toFixed(0)} MB above an idle Node`,
  );
  const speed = ruleSpeed();
  print('\none contrast (band, band average, peak), nine pulls × 81 points, in one run');
  print(`  rules P and S        ${speed.pAndS.toFixed(2)} ms (target under 2)`);
  print(
    `  the rules before     ${speed.old.toFixed(2)} ms without history, ${speed.oldHistory.toFixed(2)} ms with`,
  );
  const tests = Number(process.env.EVIDENTIA_BENCH_TESTS ?? 2000);
  print(
    `\nfiles to claim, A-B-A, three pulls a run, ${tests} simulated tests each, seed 20260: two-sided 95 % band and “up to”`,
  );
  print('  mounting    true gain   band holds all   up to > truth   up to > 0   half-width, lp');
  for (const remount of [false, true])
    for (const effect of ['none', 'constant', 'bump'] as const satisfies CoverageInput['effect'][]) {
      const r = coverage({ tests, remount, effect, seed: 20260 });
      print(
        `  ${(remount ? 're-mounted' : 'one mount').padEnd(11)} ${effect.padEnd(11)} ${r.coveredPct.toFixed(1).padStart(12)} %  ` +
          `${r.overclaimedPct.toFixed(2).padStart(12)} %  ` +
          `${r.claimedPct.toFixed(1).padStart(8)} %  ${r.meanHalfWidthLp.toFixed(2).padStart(12)}`,
      );
    }
}
