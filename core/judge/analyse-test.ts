/**
 * One test from its definition and raw files to result and findings, in three steps: prepare (files to curves),
 * compare (curves only), judge (facts only). The web application, the command line and the bench all call this one
 * function. Pure: files come in through `readFile`, nothing reads a clock.
 */
import { DEFAULT_POLICY, type Policy } from '../base/policy.ts';
import { schoolFor, type BoostedSchool, type Standard } from '../base/standards.ts';
import { powerW } from '../base/units.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import { baselineOf, type TestDefinition } from '../capture/test-definition.ts';
import { pairsBetween, pairTold, type BetweenArms } from '../compare/between-arms.ts';
import {
  compareTest,
  type Comparison,
  type ComparedPair,
  type ContrastPair,
  type CurvePull,
} from '../compare/compare-test.ts';
import { HISTORY_DF_CAP } from '../compare/history-prior.ts';
import { NO_SLOPE } from '../compare/start-temperature.ts';
import { pullResults, smoothedOwn, type PullResult, type PullCurve } from '../compare/pull-results.ts';
import type { SettingTrend } from '../compare/setting-trend.ts';
import type { Contrast, Refusal, RefusedContrast } from '../compare/result.ts';
import type { AirState } from '../correct/air.ts';
import type { OnStep } from '../base/on-step.ts';
import { prepareTest, type PreparedTest } from '../correct/prepare-test.ts';
import type { Metric } from '../plan/metrics.ts';
import type { TemperatureSlope } from '../register/temperature-slope.ts';
import type { KnownVariance, Repeatability } from '../register/repeatability.ts';
import { correctionLeft } from './correction-left.ts';
import { logEvidence } from './log-evidence.ts';
import type { UsePoint } from '../register/use-profile.ts';
import { trendOf } from './trend.ts';
import { withAnswers } from './answered.ts';
import { told, type Finding } from './finding.ts';
import { judgeTest, refused } from './judge-test.ts';
import { outcome, outcomeOf, type Grade, type Verdict } from './verdict.ts';

export type { TestArm, TestDefinition, TestPull } from '../capture/test-definition.ts';
export type { PullResult } from '../compare/pull-results.ts';
export { isRefused } from '../compare/result.ts';

export interface TestResult {
  readonly format: 'evidentia-result/1';
  readonly title: string;
  readonly standard: Standard;
  /** How a boosted engine’s air was corrected, where that is not the plain rule of the standard. */
  readonly school?: BoostedSchool;
  readonly smoothingRpm: number;
  readonly confidence: number;
  readonly policy: string;
  readonly pulls: readonly PullResult[];
  readonly contrasts: readonly (Contrast | RefusedContrast)[];
  /** Parts against each other, where there are several. */
  readonly between?: BetweenArms;
  /** Over an ordered setting, where arms are a sweep of one. */
  readonly trend?: SettingTrend;
  readonly findings: readonly Finding[];
  readonly grade: Grade;
  readonly verdict: Verdict;
}

export interface TestAnalysis {
  readonly result: TestResult;
  readonly curves: { readonly rpm: readonly number[]; readonly pulls: readonly PullCurve[] };
  readonly air: ReadonlyMap<string, AirState>;
  readonly files: ReadonlyMap<string, PullFile>;
}

export interface AnalyseOptions {
  readonly policy?: Policy;
  /** Files as they were parsed before, by pull, to save reading the same bytes again. */
  readonly parsed?: ReadonlyMap<string, PullFile>;
  /** Told how far it is: steps done, of how many. */
  readonly onStep?: OnStep;
  /** Weights over engine speed to average the gain by, beside the result. */
  readonly uses?: readonly (readonly UsePoint[])[];
}

/** What of the definition or the policy decides how it is analysed. */
interface Settings {
  readonly smoothingRpm: number;
  readonly confidence: number;
  readonly drift: 'none' | 'linear';
  readonly school: BoostedSchool;
  readonly metrics: readonly Metric[];
  readonly repeatability: Repeatability;
  /** Slope that arms are compared by; null where the plan names no start temperature. */
  readonly slope: TemperatureSlope | null;
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
  const baseline = baselineOf(test);
  const settings = settingsOf(test, policy);
  const prepared = prepareTest(
    test,
    { readFile, parsed: options.parsed, onStep: options.onStep },
    settings.school,
  );
  const compared = compareParts(test, baseline, prepared, settings, policy);
  const findings = withAnswers(judgeTest({ test, prepared, compared, policy, ...settings }), test.answers);
  const parts = test.arms.filter((arm) => arm.id !== baseline);
  const { smoothingRpm, repeatability, confidence } = settings;
  const pulls = pullResults(
    test,
    prepared.grid,
    prepared.corrected,
    smoothingRpm,
    (pull) => prepared.starts.get(pull) ?? {},
  );
  const trend = trendOf(test, pulls, repeatability, {
    alpha: (1 - confidence) / 2,
    driftBound: test.model?.driftBound ?? policy.driftBoundLpPerPull,
  });
  return {
    result: {
      format: 'evidentia-result/1',
      title: test.title,
      standard: test.standard,
      ...(settings.school === 'correct' ? {} : { school: settings.school }),
      smoothingRpm: settings.smoothingRpm,
      confidence: settings.confidence,
      policy: policy.version,
      pulls,
      contrasts: compared.map((one) => contrastOf(one, test, prepared, settings, options.uses)),
      ...between(test, baseline, prepared, settings, policy),
      ...(trend ? { trend } : {}),
      findings,
      ...outcome(
        parts.map(({ id, product }) => ({
          ...outcomeOf(findings, id, product !== undefined),
          product,
        })),
      ),
    },
    curves: curvesOf(test, prepared, settings.smoothingRpm),
    air: prepared.air,
    files: prepared.files,
  };
}

/** The school that makes a difference to this engine: as the plan names it, else as policy does. */
const schoolOf = ({ engine, standard, boostedSchool }: TestDefinition, policy: Policy): BoostedSchool =>
  schoolFor(engine, { standard, school: boostedSchool ?? policy.boostedSchool });

const settingsOf = (test: TestDefinition, policy: Policy): Settings => ({
  smoothingRpm: test.smoothingRpm ?? policy.smoothingRpm,
  confidence: test.confidence ?? policy.confidence,
  drift: test.model?.drift ?? 'none',
  school: schoolOf(test, policy),
  metrics: test.metrics?.length ? test.metrics : [test.metric ?? 'upTo'],
  repeatability: cappedHistory(test.repeatability ?? {}),
  slope: test.startTemperature ? (test.startTemperature.slope ?? NO_SLOPE) : null,
});

/** Every part against the baseline: several parts pay for their number, and so do several metrics. */
function compareParts(
  test: TestDefinition,
  baseline: string,
  prepared: PreparedTest,
  settings: Settings,
  policy: Policy,
): ComparedPair[] {
  const pairs = test.arms
    .filter((arm) => arm.id !== baseline)
    .map((arm) => ({ arm: arm.id, against: baseline }));
  return comparePairs(test, pairs, 'many to one', prepared, settings, policy);
}

function between(
  test: TestDefinition,
  baseline: string,
  prepared: PreparedTest,
  settings: Settings,
  policy: Policy,
): Pick<TestResult, 'between'> {
  const asked = pairsBetween(test, baseline);
  if (!asked) return {};
  const compared = comparePairs(test, asked.pairs, asked.kind, prepared, settings, policy);
  return { between: { kind: asked.kind, pairs: compared.map((one) => pairTold(one, inWords)) } };
}

function comparePairs(
  test: TestDefinition,
  pairs: readonly ContrastPair[],
  together: Comparison['together'],
  prepared: PreparedTest,
  settings: Settings,
  policy: Policy,
): ComparedPair[] {
  return compareTest(
    { pulls: curvePulls(test, prepared), grid: prepared.grid, stepRpm: test.band.stepRpm },
    pairs,
    {
      smoothingRpm: settings.smoothingRpm,
      alpha: (1 - settings.confidence) / 2 / settings.metrics.length,
      together,
      drift: settings.drift,
      driftBound: test.model?.driftBound ?? policy.driftBoundLpPerPull,
      // Between two parts, or with several, drift does not cancel.
      bracketed: test.arms.length > 2,
      guard: test.guard ?? policy.guard,
      repeatability: settings.repeatability,
      oneWay: test.oneWay,
      slope: settings.slope,
    },
  );
}

const curvePulls = (test: TestDefinition, { grid, corrected, starts, logged }: PreparedTest): CurvePull[] =>
  test.pulls.map((pull) => ({
    startC: test.startTemperature && starts.get(pull.id)?.[test.startTemperature.sensor],
    logged: logged.get(pull.id),
    id: pull.id,
    arm: pull.arm,
    order: pull.order,
    mount: pull.mount,
    counted: pull.counted,
    excluded: pull.excluded !== undefined && pull.excluded !== '',
    comparable: corrected.has(pull.id),
    torqueNm: corrected.get(pull.id)?.torqueNm ?? new Float64Array(grid.length).fill(NaN),
  }));

const inWords = (refusal: Refusal): string => told(refused(refusal)).message;
function contrastOf(
  { outcome: one, withExcluded }: ComparedPair,
  test: TestDefinition,
  prepared: PreparedTest,
  { school, drift }: Settings,
  uses?: AnalyseOptions['uses'],
): Contrast | RefusedContrast {
  if (!one.ok) return { ...one.refused, message: inWords(one.refused) };
  const { result, further, buys, pulls, oneWay } = one.value;
  const log = logEvidence(test, prepared, one.value);
  const correction = correctionLeft(test, pulls, result, {
    engine: prepared.engine,
    school,
    covariate: drift === 'linear',
  });
  return {
    ...result,
    ...(correction ? { correction } : {}),
    ...(log ? { log } : {}),
    further: further(),
    ...(oneWay ? {} : { buys: buys() }),
    ...(uses ? { uses: uses.map(one.value.byUse) } : {}),
    ...(withExcluded ? { withExcluded: withExcluded.result } : {}),
  };
}

function curvesOf(
  test: TestDefinition,
  { grid, corrected }: PreparedTest,
  smoothingRpm: number,
): TestAnalysis['curves'] {
  const onGrid = (values: Float64Array): (number | null)[] =>
    Array.from(smoothedOwn(values, grid, smoothingRpm).values, (v) => (Number.isFinite(v) ? v : null));
  return {
    rpm: grid,
    pulls: test.pulls.flatMap((pull) => {
      const torque = corrected.get(pull.id)?.torqueNm;
      return torque
        ? [
            {
              id: pull.id,
              arm: pull.arm,
              counted: pull.counted,
              excluded: pull.excluded !== undefined,
              powerKw: onGrid(torque.map((t, j) => powerW(t, grid[j]) / 1000)),
              torqueNm: onGrid(torque),
            },
          ]
        : [];
    }),
  };
}

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
