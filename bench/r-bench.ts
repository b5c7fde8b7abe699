/**
 * `npm run bench -- r`: the analysis of one test as a process and from curves alone, beside the same analysis in R
 * (bench/r/analyse.R, base R from Debian), in one run and by turns. Without R it says so and measures ours alone.
 * Also whether the two agree, and 200 tests on one core.
 */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runsOf } from '../core/plan/design.ts';
import { analyseContrast } from '../core/compare/contrast-analysis.ts';
import { prepareTest } from '../core/correct/prepare-test.ts';
import { analyseTest, isRefused, type TestResult } from '../core/judge/analyse-test.ts';
import { eightPulls } from './judge/eight-pulls.ts';

const ROUNDS = 9;
const root = process.cwd();
const folder = mkdtempSync(join(tmpdir(), 'evidentia-r-'));
const print = (text: string): void => void process.stdout.write(`${text}\n`);
const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1];
const clocked = (work: () => unknown): number => {
  const from = performance.now();
  work();
  return performance.now() - from;
};

const { definition, test, files } = eightPulls(2000);
mkdirSync(join(folder, 'pulls'));
for (const [path, bytes] of files) writeFileSync(join(folder, path), bytes);
const testFile = join(folder, 'test.json');
writeFileSync(testFile, JSON.stringify(definition));
const manifest = join(folder, 'manifest.csv');
writeFileSync(manifest, manifestOf());

/** What R reads: one row a counted pull, runs numbered as they were driven. */
function manifestOf(): string {
  const rows = runsOf(test.pulls).flatMap((run, k) =>
    run.counted.map(({ id, arm }) => {
      const { file, air } = test.pulls.find((p) => p.id === id)!;
      const humidity = air!.humidity.kind === 'relative' ? air!.humidity.percent : NaN;
      const at = [join(folder, file!), arm === 'part' ? 1 : 0, k];
      return [...at, air!.temperatureC, air!.pressureHpa, humidity].join(',');
    }),
  );
  return `${['file,arm,run,temperatureC,pressureHpa,humidityPct', ...rows].join('\n')}\n`;
}

const ours = (): TestResult => {
  const { status, stdout } = spawnSync(
    process.execPath,
    [join(root, 'bin/evidentia.mjs'), 'analyse', testFile, '--json'],
    { encoding: 'utf8', maxBuffer: 1 << 26 },
  );
  if (status === null || status > 1) throw new Error('The command could not analyse the bench’s test.');
  return JSON.parse(stdout) as TestResult;
};
const { fromRpm, toRpm, stepRpm } = test.band;
const inR = (): Record<string, number> | null => {
  const script = join(root, 'bench/r/analyse.R');
  const args = ['--vanilla', script, manifest, fromRpm, toRpm, stepRpm].map(String);
  const { status, stdout } = spawnSync('Rscript', args, { encoding: 'utf8' });
  if (status !== 0) return null;
  const pairs = stdout
    .trim()
    .split('\n')
    .map((line) => line.split(','));
  return Object.fromEntries(pairs.map(([name, value]) => [name, Number(value)]));
};

/** One contrast from curves on a grid to all metrics, power and torque, ms. */
function contrastMs(points: number): number {
  const step = (toRpm - fromRpm) / (points - 1);
  const at = { ...test, band: { fromRpm, toRpm, stepRpm: step } };
  const { corrected, grid } = prepareTest(at, { readFile: (f) => files.get(f) });
  const pulls = test.pulls.map((pull) => ({
    ...pull,
    excluded: false,
    comparable: true,
    torqueNm: corrected.get(pull.id)?.torqueNm ?? new Float64Array(grid.length),
  }));
  const work = (): void => {
    const outcome = analyseContrast({
      arm: 'part',
      against: 'stock',
      grid,
      stepRpm: step,
      runs: runsOf(pulls),
      smoothingRpm: 200,
      alpha: 0.025,
      drift: 'none',
      driftBound: 0.3,
      bracketed: false,
      guard: 'strict',
      repeatability: {},
    });
    if (!outcome.ok) throw new Error(outcome.refused.code);
    outcome.value.further();
    outcome.value.buys();
  };
  for (let k = 0; k < 50; k++) work();
  return median(Array.from({ length: 200 }, () => clocked(work)));
}

ours(); // makes the compile cache, as the first use of the command does
const [own, others]: [number[], number[]] = [[], []];
let result = ours();
let theirs = inR();
for (let k = 0; k < ROUNDS; k++) {
  own.push(clocked(() => (result = ours())));
  if (theirs) others.push(clocked(() => (theirs = inR())));
}
const whole = Array.from({ length: 25 }, () => clocked(() => analyseTest(test, (f) => files.get(f))));
const contrast = contrastMs(101);
const many = clocked(() => {
  for (let k = 0; k < 200; k++) analyseTest(test, (f) => files.get(f));
});
const node = median(
  Array.from({ length: ROUNDS }, () => clocked(() => spawnSync(process.execPath, ['-e', '0']))),
);

print('one test, 8 pulls × 2,000 samples × 8 channels, files to result');
print(
  `  evidentia analyse    ${median(own).toFixed(0)} ms as a whole process (an idle Node: ${node.toFixed(0)} ms)`,
);
if (theirs) {
  print(`  R, base              ${median(others).toFixed(0)} ms as a whole process`);
  print(`  ratio                ${(median(own) / median(others)).toFixed(2)} (asked: at most 0.5)`);
} else print('  R                    not here: install r-base-core to compare');
print(`  in a warm process    ${median(whole).toFixed(0)} ms (asked: at most 80)`);
if (theirs)
  print(
    `  R, files to curves   ${(1000 * theirs.filesSeconds).toFixed(0)} ms, ` +
      `curves to result ${(1000 * theirs.contrastSeconds).toFixed(0)} ms`,
  );
print(
  `  one contrast         ${contrast.toFixed(2)} ms from curves to all metrics, 101 rpm (asked: at most 5)`,
);
print(`  200 tests, one core  ${(many / 1000).toFixed(1)} s (asked: at most 20)`);
if (theirs) print(`  largest difference   ${apart(result, theirs).toExponential(1)}, relative`);
rmSync(folder, { recursive: true });

/** Largest relative difference of the numbers both have. */
function apart({ contrasts: [c] }: TestResult, r: Record<string, number>): number {
  if (isRefused(c)) throw new Error(c.code);
  const pairs: [number, number][] = [
    [c.relative.upTo.gain, r.upToPct],
    [c.relative.upTo.rpm, r.upToRpm],
    [c.relative.worst.gain, r.worstPct],
    [c.relative.bandAverage.gain, r.averagePct],
    [c.relative.bandAverage.lower, r.averageLower],
    [c.relative.bandAverage.upper, r.averageUpper],
    [c.power.peakToPeak.lowerPct, r.peakLowerPct],
    [c.power.peakToPeak.upperPct, r.peakUpperPct],
    [c.torque.peakToPeak.lowerPct, r.peakTorqueLowerPct],
  ];
  return Math.max(...pairs.map(([a, b]) => Math.abs(a - b) / Math.abs(b)));
}
