/**
 * The `evidentia` command: everything it does rests on the core and files, never on a database. What one command alone
 * needs is loaded by it: most of the time of a short command is loading.
 */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Command } from 'commander';
import { policyOf, readTestFile } from '../contract/judge/test-file.ts';
import { EvidentiaError, PullFileError, TestDefinitionError } from '../core/base/errors.ts';
import { INTERNAL_UNIT, powerW } from '../core/base/units.ts';
import { QUANTITY_NAMES, DIMENSION_OF } from '../core/base/quantities.ts';
import type { PullFile } from '../core/capture/pull-file-types.ts';
import { readPullFile } from '../core/capture/pull-file.ts';
import { commonGrid } from '../core/compare/common-grid.ts';
import { smoothed, SMOOTHING_RPM } from '../core/compare/smoothing.ts';
import { doubtsIn } from '../core/capture/doubts/doubts-in.ts';
import { findSweep } from '../core/capture/sweep.ts';
import { peakOf, rpmGrid, torqueCurve } from '../core/correct/torque-curve.ts';
import { intervalText, signedGain } from '../core/base/rounding.ts';
import { sayingLess } from '../core/compare/result.ts';
import { analyseTest, isRefused, type TestResult } from '../core/judge/analyse-test.ts';
import type { ReferenceCase } from './reference/evaluate.ts';

const OK = 0,
  FINDING = 1,
  UNUSABLE = 2;
/** What a column was taken for, and into which unit it is read. */
function columnText({ quantity, unit }: PullFile['columns'][number]): string {
  if (!quantity) return 'not used';
  return `${QUANTITY_NAMES[quantity]}, ${unit ?? 'unit not stated'} → ${INTERNAL_UNIT[DIMENSION_OF[quantity][0]]}`;
}
/** How a group of reference cases came out. */
function groupText(g: {
  cases: number;
  notComputed: number;
  agree: number;
  numbers: number;
  worstRelative: number;
}): string {
  if (g.notComputed) return `${g.notComputed} of ${g.cases} not computed in this version`;
  const worst = `worst relative difference ${g.worstRelative.toExponential(1)}`;
  return `${g.agree} of ${g.cases} agree, ${g.numbers} numbers, ${worst}`;
}
const print = (text: string): void => {
  process.stdout.write(`${text}\n`);
};
const printJson = (value: unknown): void =>
  print(
    JSON.stringify(value, (_, v: unknown) => (typeof v === 'number' && !Number.isFinite(v) ? null : v), 2),
  );

function readJson(file: string): unknown {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    throw new TestDefinitionError('FILE_MISSING', 'The file cannot be read.', 'Check the path.', { file });
  }
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    throw new TestDefinitionError(
      'TEST_FILE_UNREADABLE',
      `The file is not JSON: ${(error as Error).message}.`,
      'Mend it at the place named.',
      { file },
    );
  }
}

const program = new Command('evidentia')
  .description(
    'Turns chassis-dyno pulls into claims anyone can trace. Exit status: 0 ok, 1 a finding or mismatch, 2 unusable input.',
  )
  .exitOverride((error) => {
    process.exitCode = error.exitCode === 0 ? OK : UNUSABLE;
    throw error;
  });

program
  .command('analyse')
  .argument('<test>', 'test file, evidentia-test/1')
  .option('--json', 'print evidentia-result/1')
  .description('computes the result of a test from its files alone')
  .action((testFile: string, options: { json?: boolean }) => {
    const folder = dirname(resolve(testFile));
    const json = readJson(testFile);
    const test = readTestFile(json, testFile);
    const { result } = analyseTest(
      test,
      (file) => {
        const path = resolve(folder, file);
        return existsSync(path) ? readFileSync(path) : undefined;
      },
      { policy: policyOf(json) },
    );
    if (options.json) printJson(result);
    else printResult(result);
    process.exitCode =
      result.contrasts.some(isRefused) || result.findings.some((f) => f.state === 'fail') ? FINDING : OK;
  });

program
  .command('inspect')
  .argument('<pull>', 'pull file')
  .option('--json', 'print as JSON')
  .description('says what it found in a pull file: encoding, delimiter, columns, units, sweep, peaks')
  // eslint-disable-next-line max-lines-per-function -- a table of commands
  .action((file: string, options: { json?: boolean }) => {
    let bytes: Uint8Array;
    try {
      bytes = readFileSync(file);
    } catch {
      throw new PullFileError('EMPTY_FILE', 'The file cannot be read.', 'Check the path.', { file });
    }
    const pull = readPullFile(bytes, { file });
    const sweep = findSweep({
      timeS: pull.channels.time,
      rpm: pull.rpm,
      throttlePct: pull.channels.throttle,
    });
    const step = 50;
    const grid = rpmGrid(Math.ceil(sweep.fromRpm / step) * step, sweep.toRpm, step);
    const torque = torqueCurve(pull.rpm, pull.torqueNm, sweep, grid, step);
    const own = commonGrid([torque], grid);
    const curve = own.rows[0]?.length
      ? smoothed(own.rows[0], step, SMOOTHING_RPM).map((v) => Math.exp(v / 100))
      : new Float64Array();
    const peakTorque = peakOf(own.rpm, curve);
    const peakPower = peakOf(
      own.rpm,
      curve.map((t, j) => powerW(t, own.rpm[j])),
    );
    const findings = [...pull.findings, ...doubtsIn(pull, sweep)];
    const found = {
      file,
      bytes: bytes.length,
      encoding: pull.encoding,
      delimiter: pull.delimiter,
      decimal: pull.decimal,
      lineEnd: pull.lineEnd,
      headerLine: pull.headerLine,
      unitsLine: pull.unitsLine,
      metadata: pull.metadata,
      columns: pull.columns,
      samples: pull.samples,
      torqueFrom: pull.torqueFrom,
      sweep: {
        fromRpm: sweep.fromRpm,
        toRpm: sweep.toRpm,
        beganRpm: sweep.beganRpm,
        samples: sweep.indices.length,
        rampRpmPerS: sweep.rampRpmPerS,
        medianSpacingRpm: sweep.medianSpacingRpm,
      },
      smoothingRpm: SMOOTHING_RPM,
      basis: 'observed, as in the file',
      peakPower: peakPower ? { kw: peakPower.value / 1000, rpm: peakPower.rpm } : null,
      peakTorque: peakTorque ? { nm: peakTorque.value, rpm: peakTorque.rpm } : null,
      findings,
    };
    process.exitCode = findings.some((f) => f.code !== 'NO_FINAL_LINE_END') ? FINDING : OK;
    if (options.json) return printJson(found);
    print(
      `${file}: ${found.encoding}, ${pull.lineEnd}, delimiter ${JSON.stringify(pull.delimiter)}, ` +
        `decimal “${pull.decimal}”, header on line ${pull.headerLine}, ${pull.samples} samples`,
    );
    for (const c of pull.columns) print(`  ${c.header.padEnd(28)} ${columnText(c)}`);
    print(
      `  sweep ${sweep.fromRpm.toFixed(0)} to ${sweep.toRpm.toFixed(0)} rpm, ` +
        `${sweep.indices.length} samples (pull began at ${sweep.beganRpm.toFixed(0)} rpm)`,
    );
    if (peakPower && peakTorque)
      print(
        `  observed peaks, ${SMOOTHING_RPM} rpm smoothing: ${(peakPower.value / 1000).toFixed(1)} kW ` +
          `at ${peakPower.rpm} rpm, ${peakTorque.value.toFixed(1)} N·m at ${peakTorque.rpm} rpm`,
      );
    for (const f of findings) print(`  ${f.code}${f.line ? `, line ${f.line}` : ''}: ${f.message}`);
  });

/** The reference files that come with the project: beside this file in the sources, in the sources' place when built. */
function ownReferences(): string[] {
  const here = dirname(fileURLToPath(import.meta.url));
  const beside = join(here, 'reference');
  const folder = existsSync(join(beside, 'r-results.json')) ? beside : join(here, '../../cli/reference');
  return ['r-results.json', 'rule-p.json', 'rules-s-t-d.json'].map((name) => join(folder, name));
}
function casesIn(source: string): ReferenceCase[] {
  const { cases } = readJson(source) as { cases?: ReferenceCase[] };
  if (!Array.isArray(cases))
    throw new TestDefinitionError(
      'TEST_FILE_INVALID',
      'There is no list of cases in the file.',
      'The layout is in docs/formats.md, “Reference cases”.',
      { file: source },
    );
  return cases;
}

program
  .command('reference')
  .argument('[cases]', 'reference file; the project’s own when left out')
  .option('--json', 'print as JSON')
  .option('--all', 'name every case')
  .description('runs reference cases through the core and prints agreement by group')
  .action(async (file: string | undefined, options: { json?: boolean; all?: boolean }) => {
    const { evaluateCase } = await import('./reference/evaluate.ts');
    const sources = file === undefined ? ownReferences() : [file];
    const results = sources.flatMap(casesIn).map(evaluateCase);
    process.exitCode = results.some((r) => r.state === 'differs') ? FINDING : OK;
    const groups = [...new Set(results.map((r) => r.group))].map((group) => {
      const of = results.filter((r) => r.group === group);
      return {
        group,
        cases: of.length,
        agree: of.filter((r) => r.state === 'agrees').length,
        differ: of.filter((r) => r.state === 'differs').length,
        notComputed: of.filter((r) => r.state === 'not computed').length,
        numbers: of.reduce((s, r) => s + r.compared, 0),
        worstRelative: Math.max(...of.map((r) => r.worst)),
      };
    });
    if (options.json) return printJson({ groups, cases: results });
    for (const g of groups) print(`${g.group.padEnd(22)} ${groupText(g)}`);
    for (const r of results)
      if (r.state === 'differs' || options.all)
        print(`  ${r.id}: ${r.state}${r.where ? ` at ${r.where}` : ''} (worst ${r.worst.toExponential(1)})`);
    print(
      `${results.filter((r) => r.state === 'agrees').length} agree, ${results.filter((r) => r.state === 'differs').length} differ, ` +
        `${results.filter((r) => r.state === 'not computed').length} not computed`,
    );
  });

program
  .command('fault')
  .description('switches a fault of a stand-in at the bench, or lists them')
  .argument('<host:port>', 'where the stand-in listens')
  .argument('[name]', 'fault, as “wheel slip”')
  .argument('[on|off]', 'on or off', 'on')
  .option('--json', 'as JSON')
  .action(async (place: string, name: string | undefined, how: string, options: { json?: boolean }) => {
    const { switchFault } = await import('./fault.ts');
    const result = await switchFault(place, name, how !== 'off');
    if (!result.ok) {
      process.stderr.write(`${result.why}\n`);
      process.exitCode = UNUSABLE;
      return;
    }
    process.stdout.write(
      options.json
        ? `${JSON.stringify(result.faults)}\n`
        : result.faults.map((f) => `${f.on ? 'on ' : 'off'}  ${f.name}\n`).join(''),
    );
    process.exitCode = OK;
  });

program
  .command('simulate')
  .argument('<scenario>', 'scenario file, evidentia-scenario/1')
  .requiredOption('--out <dir>', 'folder to write into')
  .description('writes pulls, air and a test file from the simulated bench, seeded')
  .action(async (file: string, options: { out: string }) => {
    const { ScenarioSchema } = await import('../bench/capture/scenario.ts');
    const { simulateSession } = await import('../bench/judge/simulate.ts');
    const parsed = ScenarioSchema.safeParse(readJson(file));
    if (!parsed.success)
      throw new TestDefinitionError(
        'TEST_FILE_INVALID',
        `The scenario does not fit the format: ${parsed.error.issues[0].message}`,
        'See docs/formats.md, “Scenario file”.',
        { file, path: parsed.error.issues[0].path.join('.') },
      );
    const session = simulateSession(parsed.data);
    mkdirSync(join(options.out, 'pulls'), { recursive: true });
    for (const { path, text } of session.files) writeFileSync(join(options.out, path), text);
    writeFileSync(join(options.out, 'test.json'), `${JSON.stringify(session.test, null, 2)}\n`);
    writeFileSync(join(options.out, 'truth.json'), `${JSON.stringify(session.truth)}\n`);
    print(
      `${session.files.length - 1} pull files, air.csv, test.json and truth.json written to ${options.out}`,
    );
  });

function printResult(result: TestResult): void {
  print(`${result.title} — wheel, ${result.standard}, ${result.smoothingRpm} rpm smoothing`);
  for (const contrast of result.contrasts) {
    if (isRefused(contrast)) {
      print(`${contrast.arm} against ${contrast.against}: ${contrast.code}. ${contrast.message}`);
      continue;
    }
    const { relative } = contrast;
    const upTo = sayingLess(contrast, (c) => c.power.upTo.gain).power.upTo;
    const average = sayingLess(contrast, (c) => c.relative.bandAverage.lower).relative.bandAverage;
    const peak = sayingLess(contrast, (c) => c.power.peakToPeak.lower).power.peakToPeak;
    print(`${contrast.arm} against ${contrast.against}, ${contrast.design}, rule: ${contrast.rule}`);
    print(
      `  up to             ${signedGain(upTo.gain)} kW at ${upTo.rpm} rpm (largest lower limit of the band)`,
    );
    print(`  band average      ${intervalText(average, '%')}`);
    print(
      `  peak to peak      ${intervalText(peak, 'kW')}, ${peak.armRpm} rpm against ` +
        `${peak.againstRpm} rpm${peak.atEdge ? ', at the edge of the window: no peak' : ''}`,
    );
    print(`  worst             ${intervalText(relative.worst, '%')} at ${relative.worst.rpm} rpm`);
    print(
      `  substantiated     ${relative.substantiated.map((s) => `${s.fromRpm} to ${s.toRpm} rpm`).join(', ') || 'nowhere'}`,
    );
    print(
      `  proven loss       ` +
        `${relative.losses.map((s) => `${signedGain(s.gain)} % at ${s.rpm} rpm, ${s.fromRpm} to ${s.toRpm} rpm`).join(', ') || 'none'}`,
    );
  }
  for (const f of result.findings) print(`  ${f.state.padEnd(8)} ${f.gate.padEnd(20)} ${f.message}`);
  print(`verdict: ${result.verdict}, grade: ${result.grade}`);
}

program.parseAsync().catch((error: unknown) => {
  if (error instanceof EvidentiaError) {
    process.stderr.write(`${error.code}: ${error.message}\n`);
    process.exitCode = UNUSABLE;
  } else if (!(error instanceof Error && 'exitCode' in error)) {
    process.stderr.write(`${error instanceof Error ? error.stack : String(error)}\n`);
    process.exitCode = UNUSABLE;
  }
});
