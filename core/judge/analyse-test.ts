/**
 * One test from its definition and raw files to result and findings: parse, correct, compare, judge.
 * The web application, the command line and the bench all call this one function. Pure: files come in
 * through `readFile`, nothing reads a clock.
 */
import { EvidentiaError, TestDefinitionError } from '../base/errors.ts';
import type { Guard } from '../base/guard.ts';
import type { Engine, Standard } from '../base/standards.ts';
import { powerW } from '../base/units.ts';
import type { ReadingOptions } from '../capture/reading-options.ts';
import { readPullFile, type ColumnChoices, type PullFile } from '../capture/pull-file.ts';
import { commonGrid } from '../compare/common-grid.ts';
import {
  analyseContrast,
  type ComparedPull,
  type Contrast,
  type RefusedContrast,
} from '../compare/contrast-analysis.ts';
import { smoothed } from '../compare/smoothing.ts';
import type { AirReading } from '../capture/air-reading.ts';
import { airState, type AirState } from '../correct/air.ts';
import { correctPull, type CorrectedPull } from '../correct/pull-correction.ts';
import type { Applied } from '../correct/standards.ts';
import { peakOf, rpmGrid } from '../correct/torque-curve.ts';
import { runsOf } from '../plan/design.ts';
import type { Metric } from '../plan/metrics.ts';
import { HISTORY_DF_CAP } from '../compare/history-prior.ts';
import type { KnownVariance, Repeatability } from '../register/repeatability.ts';
import {
  designGate,
  effectGate,
  factorGate,
  lossesGate,
  outcome,
  outcomeOf,
  mountingGate,
  planGate,
  repeatabilityGate,
  repeatsGate,
  sweepGate,
  warmUpGate,
  type Finding,
  type Grade,
  type PlanLock,
  type Verdict,
} from './gates.ts';
import { armScatterGate, noisyEndFinding } from './scatter-gates.ts';
import { accountedGate } from './accounted.ts';
import { plausibleFindings, type HeldPull } from './plausible.ts';
import { DEFAULT_POLICY, type Policy } from '../base/policy.ts';

export interface TestPull {
  readonly id: string;
  readonly arm: string;
  /** True position in the session, warm-up pulls included. */
  readonly order: number;
  readonly mount: number | string;
  readonly counted: boolean;
  readonly file?: string | undefined;
  readonly columns?: ColumnChoices | undefined;
  readonly air?: AirReading | undefined;
  readonly applied?:
    | {
        readonly standard: Standard;
        readonly factor?: number | undefined;
        readonly air?: AirReading | undefined;
      }
    | undefined;
  readonly excluded?: string | undefined;
  /** Whether it was left out after the result had been seen. */
  readonly excludedAfterResult?: boolean | undefined;
  /** The pull that this one repeats, at the end of its run. */
  readonly repeats?: string | undefined;
}

export interface TestArm {
  readonly id: string;
  readonly role: 'baseline' | 'part';
  /** What people call it; a file that names another arm by it is found. */
  readonly label?: string | undefined;
  /** The sold thing it is a setting or combination of; arms of one product are held together. None: a condition, no product. */
  readonly product?: string | undefined;
}

export interface TestDefinition {
  readonly title: string;
  readonly standard: Standard;
  readonly engine: Engine;
  readonly band: { readonly fromRpm: number; readonly toRpm: number; readonly stepRpm: number };
  readonly smoothingRpm?: number | undefined;
  readonly confidence?: number | undefined;
  /** Guard of the intervals of single numbers, as the locked plan names it. */
  readonly guard?: Guard | undefined;
  readonly model?:
    { readonly drift?: 'none' | 'linear' | undefined; readonly driftBound?: number | undefined } | undefined;
  readonly repeatability?: Repeatability | undefined;
  readonly arms: readonly TestArm[];
  /** What the register knows and a file may leave out. */
  readonly reading?: ReadingOptions | undefined;
  readonly pulls: readonly TestPull[];
  /** Metrics the plan names for the claim; every one pays for their number. `metric` alone names one. */
  readonly metric?: Metric | undefined;
  readonly metrics?: readonly Metric[] | undefined;
  readonly plan?: PlanLock | undefined;
}

export interface PullResult {
  readonly id: string;
  readonly counted: boolean;
  readonly factor: number;
  readonly undone: number;
  readonly samplesUsed: number;
  readonly sweep: { readonly fromRpm: number; readonly toRpm: number; readonly beganRpm: number };
  /** `atEdge`: the largest value lies at the end of the range, so the peak itself was not reached. */
  readonly peakPower: { readonly kw: number; readonly rpm: number; readonly atEdge: boolean } | null;
  readonly peakTorque: { readonly nm: number; readonly rpm: number; readonly atEdge: boolean } | null;
  readonly excluded?: string;
}

export { isRefused } from '../compare/contrast-analysis.ts';

export interface TestResult {
  readonly format: 'evidentia-result/1';
  readonly title: string;
  readonly standard: Standard;
  readonly smoothingRpm: number;
  readonly confidence: number;
  readonly policy: string;
  readonly pulls: readonly PullResult[];
  readonly contrasts: readonly (Contrast | RefusedContrast)[];
  readonly findings: readonly Finding[];
  readonly grade: Grade;
  readonly verdict: Verdict;
}

/** What charts draw beside the result: corrected curves on the analysis grid, null where there is no value. */
export interface PullCurve {
  readonly id: string;
  readonly arm: string;
  readonly counted: boolean;
  readonly excluded: boolean;
  readonly powerKw: readonly (number | null)[];
  readonly torqueNm: readonly (number | null)[];
}
export interface TestAnalysis {
  readonly result: TestResult;
  readonly curves: { readonly rpm: readonly number[]; readonly pulls: readonly PullCurve[] };
  readonly air: ReadonlyMap<string, AirState>;
  readonly files: ReadonlyMap<string, PullFile>;
}

export interface AnalyseOptions {
  readonly policy?: Policy;
  /** Parsed files by name, to save reading the same bytes again. */ readonly parsed?: ReadonlyMap<
    string,
    PullFile
  >;
}

/**
 * Analyses a test.
 * @param readFile bytes of a file named in the definition; undefined when it is not there
 * Throws `TestDefinitionError` for a definition that does not hold together, and the error of the
 * first counted pull that cannot be used, with its file. A contrast that cannot be analysed is no
 * error: it comes back with its code.
 */
export function analyseTest(
  test: TestDefinition,
  readFile: (file: string) => Uint8Array | undefined,
  options: AnalyseOptions = {},
): TestAnalysis {
  const policy = options.policy ?? DEFAULT_POLICY;
  const baseline = checkDefinition(test);
  const { fromRpm, toRpm, stepRpm } = test.band;
  const grid = rpmGrid(fromRpm, toRpm, stepRpm);
  const smoothingRpm = test.smoothingRpm ?? policy.smoothingRpm;
  const confidence = test.confidence ?? policy.confidence;
  const drift = test.model?.drift ?? 'none';
  const repeatability = cappedHistory(test.repeatability ?? {});
  const metrics: readonly Metric[] = test.metrics?.length ? test.metrics : [test.metric ?? 'upTo'];
  const findings: Finding[] = [planGate(test.plan)];

  const corrected = new Map<string, CorrectedPull>();
  const air = new Map<string, AirState>();
  const files = new Map<string, PullFile>();
  for (const pull of test.pulls) {
    if (!pull.file) {
      if (pull.counted && !pull.excluded)
        throw new TestDefinitionError(
          'FILE_MISSING',
          `Counted pull ${pull.id} has no file.`,
          'Attach its file, or exclude the pull with a reason.',
          { path: `pulls.${pull.id}` },
        );
      continue;
    }
    try {
      const file = options.parsed?.get(pull.file) ?? parse(pull, readFile);
      files.set(pull.id, file);
      const state = airOf(pull, test.standard);
      air.set(pull.id, state);
      corrected.set(
        pull.id,
        correctPull(file, state, test.engine, test.standard, appliedOf(pull), grid, stepRpm),
      );
      for (const finding of file.findings)
        if (finding.code !== 'NO_FINAL_LINE_END')
          findings.push({
            gate: 'pull file',
            state: 'caution',
            code: finding.code,
            message: `${pull.id}: ${finding.message}`,
          });
    } catch (error) {
      if (!(error instanceof EvidentiaError)) throw error;
      if (pull.counted && !pull.excluded) throw error.where.file ? error : error.at({ file: pull.file });
      findings.push({
        gate: 'pull file',
        state: 'caution',
        code: String(error.code),
        message: `${pull.id} (not counted): ${error.message}`,
      });
    }
  }
  if (test.standard !== 'none') {
    const doubled = test.pulls.find(
      (pull) =>
        pull.applied?.factor !== undefined && pull.applied.standard === 'none' && pull.applied.factor !== 1,
    );
    if (doubled)
      findings.push({
        gate: 'factor',
        state: 'caution',
        code: 'APPLIED_FACTOR_WITHOUT_STANDARD',
        message: `${doubled.id}: a factor is stated as applied, but no standard.`,
        mend: 'Say which standard the dyno applied.',
      });
  }

  const compared = (pull: TestPull): ComparedPull => ({
    id: pull.id,
    arm: pull.arm,
    order: pull.order,
    mount: pull.mount,
    counted: pull.counted,
    torqueNm: corrected.get(pull.id)?.torqueNm ?? new Float64Array(grid.length).fill(NaN),
  });
  const parts = test.arms.filter((arm) => arm.id !== baseline);
  const contrasts: (Contrast | RefusedContrast)[] = [];
  for (const { id: arm } of parts) {
    const contrastOf = (pulls: readonly TestPull[]) =>
      analyseContrast({
        arm,
        against: baseline,
        runs: runsOf(pulls.map(compared)).filter((run) => run.arm === arm || run.arm === baseline),
        grid,
        stepRpm,
        smoothingRpm,
        // Several parts against one baseline pay for their number, and so do several metrics.
        alpha: (1 - confidence) / 2 / parts.length / metrics.length,
        drift,
        bracketed: parts.length > 1,
        driftBound: test.model?.driftBound ?? policy.driftBoundLpPerPull,
        guard: test.guard ?? policy.guard,
        repeatability,
      });
    const outcome = contrastOf(test.pulls.filter((pull) => !pull.excluded));
    const about = parts.length > 1 ? { arm } : {};
    if (!outcome.ok) {
      contrasts.push(outcome.refused);
      findings.push({
        gate: gateOfCode(outcome.refused.code),
        state: 'fail',
        code: outcome.refused.code,
        message: outcome.refused.message,
        ...about,
      });
      continue;
    }
    const value = outcome.value;
    const restored = test.pulls.some((pull) => pull.excluded && pull.counted && corrected.has(pull.id))
      ? contrastOf(test.pulls.filter((pull) => !pull.excluded || corrected.has(pull.id)))
      : undefined;
    const both = [value.result, ...(restored?.ok ? [restored.value.result] : [])];
    contrasts.push({ ...value.result, ...(both[1] ? { withExcluded: both[1] } : {}) });
    const byArm = new Map(
      [baseline, arm].map((id) => [
        id,
        value.pulls.filter((pull) => pull.arm === id).map((pull) => corrected.get(pull.id)!),
      ]),
    );
    findings.push(
      ...[
        designGate(value, drift),
        mountingGate(value, repeatability),
        warmUpGate(value, policy),
        repeatsGate(value, policy),
        armScatterGate(value),
        repeatabilityGate(value, repeatability, policy),
        factorGate(byArm, test.standard, policy),
        sweepGate(value, grid, [...byArm.values()].flat(), policy),
        effectGate(both, metrics),
        lossesGate(both),
        ...[noisyEndFinding(value)].filter((finding) => finding !== undefined),
      ].map((finding) => ({ ...finding, ...about })),
    );
  }

  findings.push(
    ...accountedGate(
      test.pulls
        .filter((pull) => pull.counted && pull.excluded !== undefined)
        .map((pull) => ({
          id: pull.id,
          excluded: pull.excluded!,
          hasFile: pull.file !== undefined,
          hasAir: pull.air !== undefined || !needsAir(pull, test.standard),
          comparable: corrected.has(pull.id),
          afterResult: pull.excludedAfterResult ?? false,
        })),
    ),
    ...plausibleFindings(heldPulls(test.pulls, files), test.arms),
  );
  const pulls = pullResults(test, grid, corrected, smoothingRpm);
  const onGrid = (values: Float64Array): (number | null)[] =>
    Array.from(smoothedOwn(values, grid, smoothingRpm).values, (v) => (Number.isFinite(v) ? v : null));
  return {
    result: {
      format: 'evidentia-result/1',
      title: test.title,
      standard: test.standard,
      smoothingRpm,
      confidence,
      policy: policy.version,
      pulls,
      contrasts,
      findings,
      ...outcome(
        parts.map(({ id, product }) => ({
          ...outcomeOf(findings, id, product !== undefined),
          product,
        })),
      ),
    },
    curves: {
      rpm: grid,
      pulls: test.pulls
        .filter((pull) => corrected.has(pull.id))
        .map((pull) => {
          const torque = corrected.get(pull.id)!.torqueNm;
          return {
            id: pull.id,
            arm: pull.arm,
            counted: pull.counted,
            excluded: pull.excluded !== undefined,
            powerKw: onGrid(torque.map((t, j) => powerW(t, grid[j]) / 1000)),
            torqueNm: onGrid(torque),
          };
        }),
    },
    air,
    files,
  };
  function parse(pull: TestPull, read: (file: string) => Uint8Array | undefined): PullFile {
    const bytes = read(pull.file!);
    if (!bytes)
      throw new TestDefinitionError(
        'FILE_MISSING',
        `The file of pull ${pull.id} is not there.`,
        'Put the file beside the test file, or correct the path.',
        { file: pull.file! },
      );
    return readPullFile(bytes, {
      ...test.reading,
      file: pull.file,
      columns: pull.columns,
      channels: 'needed',
    });
  }
}

const gateOfCode = (code: RefusedContrast['code']): Finding['gate'] =>
  code === 'NO_CLAIM_MOUNT_UNKNOWN'
    ? 'mounting'
    : code === 'TOO_SHORT'
      ? 'same sweep'
      : code === 'DUPLICATE_PULLS'
        ? 'accounted'
        : code === 'DRIFT_CONFOUNDED'
          ? 'design'
          : 'repeats';

/** Past sessions stand for at most ten degrees of freedom, however many there were. */
const capped = (known: KnownVariance | undefined): KnownVariance | undefined =>
  known && { ...known, df: Math.min(known.df, HISTORY_DF_CAP) };
/** A registered history as the gates hold a session against it; mountings and days keep their own degrees of freedom. */
const cappedHistory = (r: Repeatability): Repeatability => ({
  ...r,
  curve: capped(r.curve),
  bandAverage: capped(r.bandAverage),
  peak: capped(r.peak),
});

/** Counted pulls with what their files say, excluded ones too: a copy is a copy. */
function heldPulls(pulls: readonly TestPull[], files: ReadonlyMap<string, PullFile>): HeldPull[] {
  return pulls.flatMap((pull) => {
    const file = files.get(pull.id);
    return pull.counted && file
      ? [{ id: pull.id, arm: pull.arm, mount: pull.mount, file, air: pull.air, applied: pull.applied }]
      : [];
  });
}

function appliedOf(pull: TestPull): Applied | undefined {
  return (
    pull.applied && {
      standard: pull.applied.standard,
      factor: pull.applied.factor,
      air: pull.applied.air && airState(pull.applied.air),
    }
  );
}

/** Whether anything is computed from the air of a pull. */
const needsAir = (pull: TestPull, standard: Standard): boolean =>
  !(
    standard === 'none' &&
    (pull.applied === undefined || pull.applied.standard === 'none' || pull.applied.factor !== undefined)
  );

/** ISA air stands in only where no standard needs a reading. */
function airOf(pull: TestPull, standard: Standard): AirState {
  if (pull.air) return airState(pull.air);
  if (!needsAir(pull, standard)) {
    return airState({ temperatureC: 15, pressureHpa: 1013.25, humidity: { kind: 'relative', percent: 0 } });
  }
  throw new TestDefinitionError(
    'TEST_FILE_INVALID',
    `Pull ${pull.id} has no air reading.`,
    'Enter temperature, pressure and humidity for it.',
    { path: `pulls.${pull.id}.air` },
  );
}

function checkDefinition(test: TestDefinition): string {
  const baselines = test.arms.filter((arm) => arm.role === 'baseline');
  if (baselines.length !== 1)
    throw new TestDefinitionError(
      'NO_BASELINE',
      `The test has ${baselines.length} baseline arms.`,
      'Give exactly one arm the role “baseline”.',
      { path: 'arms' },
    );
  const seen = new Set<string>();
  const orders = new Set<number>();
  for (const pull of test.pulls) {
    if (!test.arms.some((arm) => arm.id === pull.arm))
      throw new TestDefinitionError(
        'UNKNOWN_ARM',
        `Pull ${pull.id} names arm “${pull.arm}”, which the test does not have.`,
        `The arms are: ${test.arms.map((arm) => arm.id).join(', ')}.`,
        { path: `pulls.${pull.id}.arm` },
      );
    if (seen.has(pull.id))
      throw new TestDefinitionError(
        'DUPLICATE_ID',
        `Two pulls are called “${pull.id}”.`,
        'Give every pull an id of its own.',
        { path: 'pulls' },
      );
    if (orders.has(pull.order))
      throw new TestDefinitionError(
        'DUPLICATE_ID',
        `Two pulls stand at position ${pull.order} of the session.`,
        'Give every pull, warm-up pulls included, its true position.',
        { path: `pulls.${pull.id}.order` },
      );
    seen.add(pull.id);
    orders.add(pull.order);
  }
  const { fromRpm, toRpm, stepRpm } = test.band;
  if (!(toRpm > fromRpm && stepRpm > 0 && (toRpm - fromRpm) / stepRpm <= 2000)) {
    throw new TestDefinitionError(
      'BAD_BAND',
      `The band ${fromRpm} to ${toRpm} rpm in steps of ${stepRpm} cannot be used.`,
      'Give a lower end, a higher end and a step of 10 to 250 rpm.',
      { path: 'band' },
    );
  }
  return baselines[0].id;
}

/** A pull's own curve, bridged and smoothed over the longest stretch it covers; NaN elsewhere. */
function smoothedOwn(
  values: Float64Array,
  grid: readonly number[],
  widthRpm: number,
  within?: { from: number; to: number },
): { values: Float64Array } {
  const clipped = within ? values.map((v, j) => (j >= within.from && j < within.to ? v : NaN)) : values;
  const own = commonGrid([clipped], grid);
  const out = new Float64Array(grid.length).fill(NaN);
  if (own.rpm.length > 0)
    smoothed(own.rows[0], grid[1] - grid[0], widthRpm).forEach((v, j) => {
      out[own.from + j] = Math.exp(v / 100);
    });
  return { values: out };
}

function pullResults(
  test: TestDefinition,
  grid: readonly number[],
  corrected: ReadonlyMap<string, CorrectedPull>,
  widthRpm: number,
): PullResult[] {
  const analysed = test.pulls.filter((pull) => pull.counted && !pull.excluded && corrected.has(pull.id));
  const common = commonGrid(
    analysed.map((pull) => corrected.get(pull.id)!.torqueNm),
    grid,
  );
  const range = { from: common.from, to: common.from + common.rpm.length };
  return test.pulls.flatMap((pull): PullResult[] => {
    const own = corrected.get(pull.id);
    if (!own) return [];
    const within = analysed.includes(pull) && common.status === 'ok' ? range : undefined;
    const peak = (values: Float64Array) => peakOf(grid, smoothedOwn(values, grid, widthRpm, within).values);
    const power = peak(own.torqueNm.map((t, j) => powerW(t, grid[j])));
    const torque = peak(own.torqueNm);
    return [
      {
        id: pull.id,
        counted: pull.counted,
        factor: own.factor.factor,
        undone: own.undone,
        samplesUsed: own.sweep.indices.length,
        sweep: { fromRpm: own.sweep.fromRpm, toRpm: own.sweep.toRpm, beganRpm: own.sweep.beganRpm },
        peakPower: power ? { kw: power.value / 1000, rpm: power.rpm, atEdge: power.atEdge } : null,
        peakTorque: torque ? { nm: torque.value, rpm: torque.rpm, atEdge: torque.atEdge } : null,
        ...(pull.excluded === undefined ? {} : { excluded: pull.excluded }),
      },
    ];
  });
}
