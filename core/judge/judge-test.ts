/** Third step of an analysis: what every gate finds, from facts alone. */
import type { Policy } from '../base/policy.ts';
import type { BoostedSchool } from '../base/standards.ts';
import type { PullFile } from '../capture/pull-file-types.ts';
import type { TestDefinition } from '../capture/test-definition.ts';
import type { ComparedPair, ContrastPair } from '../compare/compare-test.ts';
import type { AnalysedContrast } from '../compare/contrast-analysis.ts';
import type { Refusal } from '../compare/result.ts';
import type { CorrectedPull } from '../correct/pull-correction.ts';
import { needsAir, type FileRemark, type PreparedTest } from '../correct/prepare-test.ts';
import type { Metric } from '../plan/metrics.ts';
import type { TemperatureSlope } from '../register/temperature-slope.ts';
import type { Repeatability } from '../register/repeatability.ts';
import { found, quoted, told, type Finding, type Found, type GateName } from './finding.ts';
import { accountedGate } from './gates/accounted.ts';
import { asDoneGates } from './gates/as-done.ts';
import { beyondEngine } from './gates/beyond-engine.ts';
import { controlVehicleGate } from './gates/control-vehicle.ts';
import { designGate } from './gates/design.ts';
import { effectGate } from './gates/effect.ts';
import { engineStateGate } from './gates/engine-state.ts';
import { factorGate } from './gates/factor.ts';
import type { HeldPull } from './gates/held-pull.ts';
import { logAgreesGate } from './gates/log-agrees.ts';
import { lossesGate } from './gates/losses-told.ts';
import { mountingGate } from './gates/mounting.ts';
import { outsideWindow } from './gates/outside-window.ts';
import { planGate } from './gates/plan-locked.ts';
import { plausibleGate } from './gates/plausible.ts';
import { flyerFinding, noisyEndFinding, repeatabilityGate } from './gates/repeatability.ts';
import { readingsGate } from './gates/readings.ts';
import { repeatsGate } from './gates/repeats.ts';
import { safeMixtureGate } from './gates/safe-mixture.ts';
import { sameGear } from './gates/same-gear.ts';
import { sweepGate } from './gates/same-sweep.ts';
import { armScatterGate } from './gates/scatter-of-the-arms.ts';
import { settledGate } from './gates/settled.ts';
import { startTemperaturesGate, type StartFacts } from './gates/start-temperatures.ts';
import { warmUpGate } from './gates/warm-up.ts';

export interface Facts {
  readonly test: TestDefinition;
  readonly prepared: PreparedTest;
  readonly compared: readonly ComparedPair[];
  readonly metrics: readonly Metric[];
  readonly drift: 'none' | 'linear';
  /** Nothing took the air out where boosted engines are not corrected. */ readonly school: BoostedSchool;
  /** The dyno's history as a session is held against it. */
  readonly repeatability: Repeatability;
  readonly slope: TemperatureSlope | null;
  readonly policy: Policy;
}

export function judgeTest(facts: Facts): Finding[] {
  const { test, prepared, compared } = facts;
  const several = compared.length > 1;
  return [
    told(planGate(test.plan)),
    ...asDoneGates(test.done).map((f) => told(f)),
    ...prepared.remarks.map((remark) => told(fileFinding(remark))),
    ...controlVehicleGate(test).map((f) => told(f)),
    ...readings(test, prepared).map((f) => told(f)),
    ...doubledFactor(test).map((f) => told(f)),
    ...compared.flatMap((one) => {
      const about = several ? one.pair.arm : undefined;
      return contrastFindings(facts, one).map((f) => told(f, about));
    }),
    ...placedLoosely(test).map((f) => told(f)),
    ...sameGear(loggedPulls(test, prepared)).map((f) => told(f)),
    ...safeMixtureGate(loggedPulls(test, prepared), prepared.grid, test.engine).map((f) => told(f)),
    ...accountedGate(leftOut(test, prepared)).map((f) => told(f)),
    ...plausibleGate(heldPulls(test, prepared.files), test.arms).map((f) => told(f)),
  ];
}

function readings(
  { pulls, band, ratedPowerKw }: TestDefinition,
  { doubts, corrected, grid }: PreparedTest,
): Found[] {
  const used = new Set(pulls.filter((pull) => pull.counted && !pull.excluded).map((pull) => pull.id));
  const curves = [...used].flatMap((id) => {
    const curve = corrected.get(id);
    return curve ? [{ id, torqueNm: curve.torqueNm }] : [];
  });
  const beyond = beyondEngine(curves, grid, ratedPowerKw);
  const samples = readingsGate(doubts, band, used);
  return beyond.length > 0 ? [...beyond, ...samples.filter((f) => f.state !== 'pass')] : samples;
}

/** Power and torque further apart than any correction of one of them: one is in another unit. Common practice: 5 %. */
const OTHER_UNIT = 0.05;
const fileFinding = ({ pull, code, message, usable, share }: FileRemark): Found =>
  usable && share !== undefined && share > OTHER_UNIT
    ? quoted('readings', 'fail', code, `${pull}: ${message}`, SAY_WHICH)
    : quoted('pull file', 'caution', code, `${pull}${usable ? '' : ' (not counted)'}: ${message}`);
const SAY_WHICH =
  'One of the two is in another unit than its header says. Say on the page of the pulls which column is right ' +
  'and in what unit, or export again.';

/** A factor stated as applied where no standard is: it is taken off, and what it was is not known. */
function doubledFactor({ standard, pulls }: TestDefinition): Found[] {
  const pull = pulls.find(
    ({ applied }) => applied?.factor !== undefined && applied.standard === 'none' && applied.factor !== 1,
  );
  return standard !== 'none' && pull
    ? [found('factor', 'caution', 'APPLIED_FACTOR_WITHOUT_STANDARD', pull.id)]
    : [];
}

function contrastFindings(facts: Facts, { pair, outcome, withExcluded }: ComparedPair): Found[] {
  if (!outcome.ok) return [refused(outcome.refused)];
  const { value } = outcome;
  const { policy, repeatability } = facts;
  const both = [value.result, ...(withExcluded ? [withExcluded.result] : [])];
  const byArm = correctedByArm(facts.prepared, value, [pair.against, pair.arm]);
  return [
    designGate(value, facts.drift),
    mountingGate(value, repeatability),
    warmUpGate(value, policy),
    repeatsGate(value, policy),
    armScatterGate(value),
    repeatabilityGate(value, repeatability, policy),
    ...settledGate(value, repeatability),
    factorGate(byArm, facts.school === 'do not correct' ? 'none' : facts.test.standard, policy),
    sweepGate(value, facts.prepared.grid, [...byArm.values()].flat(), policy),
    ...startTemperaturesGate(value, startFacts(facts)),
    ...engineFindings(facts, value, pair),
    effectGate(both, facts.metrics),
    lossesGate(both),
    ...outsideWindow(value, facts.prepared, facts.test.band.stepRpm),
    ...noisyEndFinding(value),
    ...flyerFinding(value, repeatability),
  ];
}

const startFacts = ({ test, prepared, slope }: Facts): StartFacts => ({
  named: test.startTemperature?.sensor ?? null,
  slope,
  startsOf: (pull) => prepared.starts.get(pull) ?? {},
});

/** Logs that lie otherwise than the engine speeds would have them: what they say may be of another moment. */
function placedLoosely({ pulls }: TestDefinition): Found[] {
  const used = pulls.filter((pull) => pull.counted && !pull.excluded);
  const [shifted, byClock] = [used.filter((p) => p.log?.byHand), used.filter((p) => p.log?.byClock)];
  const tell = (code: 'LOG_SHIFTED_BY_HAND' | 'LOG_BY_CLOCK', which: typeof used): Found[] =>
    which.length > 0
      ? [
          found(
            'engine state',
            'caution',
            code,
            which.map((pull) => pull.id),
          ),
        ]
      : [];
  return [...tell('LOG_SHIFTED_BY_HAND', shifted), ...tell('LOG_BY_CLOCK', byClock)];
}

/** Pulls that are used, with what their logs say. */
const loggedPulls = ({ pulls }: TestDefinition, { logs }: PreparedTest) =>
  pulls.flatMap(({ id, arm, counted }) => {
    const log = logs.get(id);
    return counted && log ? [{ id, arm, ...log }] : [];
  });

function engineFindings({ test, prepared }: Facts, { pulls }: AnalysedContrast, pair: ContrastPair): Found[] {
  const { grid } = prepared;
  const { stepRpm } = test.band;
  const used = new Set(pulls.map((pull) => pull.id));
  const own = loggedPulls(test, prepared).filter((pull) => used.has(pull.id));
  return [
    ...engineStateGate({ ...pair, pulls: own, grid, stepRpm, aspiration: test.engine.aspiration }),
    ...logAgreesGate(own, pair, observedRatio(prepared, pulls, pair), grid, stepRpm),
  ];
}

/** Power of an arm over the other's, geometric mean over rpm and pulls, as it was observed. */
function observedRatio(
  { corrected }: PreparedTest,
  pulls: AnalysedContrast['pulls'],
  pair: ContrastPair,
): number {
  const curves = pulls.map(({ id, arm }) => ({ arm, ...corrected.get(id)! }));
  const at = [...curves[0].torqueNm.keys()].filter((j) => curves.every((c) => c.torqueNm[j] > 0));
  const level = (arm: string): number => {
    const own = curves.filter((c) => c.arm === arm);
    const logs = own.flatMap((c) => at.map((j) => Math.log(c.torqueNm[j] / c.factor.factor)));
    return logs.reduce((sum, v) => sum + v, 0) / logs.length;
  };
  return Math.exp(level(pair.arm) - level(pair.against));
}

/** Which gate a contrast that cannot be analysed fails. */
const REFUSING: Record<Refusal['code'], GateName> = {
  NO_CLAIM_MOUNT_UNKNOWN: 'mounting',
  TOO_SHORT: 'same sweep',
  DUPLICATE_PULLS: 'accounted',
  DRIFT_CONFOUNDED: 'design',
  ERROR_NO_DATA: 'repeats',
  NOT_ENOUGH_PULLS: 'repeats',
};
/** A refusal as a finding; its words are those of the contrast itself. */
export function refused(refusal: Refusal): Found {
  const gate = REFUSING[refusal.code];
  return refusal.code === 'ERROR_NO_DATA'
    ? found(gate, 'fail', refusal.code, refusal.pulls.arm === 0 ? refusal.arm : refusal.against)
    : found(gate, 'fail', refusal.code);
}

const correctedByArm = (
  { corrected }: PreparedTest,
  { pulls }: AnalysedContrast,
  arms: readonly string[],
): ReadonlyMap<string, readonly CorrectedPull[]> =>
  new Map(
    arms.map((id) => [id, pulls.filter((pull) => pull.arm === id).map((pull) => corrected.get(pull.id)!)]),
  );

const leftOut = (test: TestDefinition, { corrected }: PreparedTest) =>
  test.pulls
    .filter((pull) => pull.counted && pull.excluded !== undefined)
    .map((pull) => ({
      id: pull.id,
      excluded: pull.excluded!,
      hasFile: pull.file !== undefined,
      hasAir: pull.air !== undefined || !needsAir(pull, test.standard),
      comparable: corrected.has(pull.id),
      afterResult: pull.excludedAfterResult ?? false,
    }));

/** Counted pulls with what their files say, excluded ones too: a copy is a copy. */
const heldPulls = ({ pulls }: TestDefinition, files: ReadonlyMap<string, PullFile>): HeldPull[] =>
  pulls.flatMap((pull) => {
    const file = files.get(pull.id);
    return pull.counted && file
      ? [{ id: pull.id, arm: pull.arm, mount: pull.mount, file, air: pull.air, applied: pull.applied }]
      : [];
  });
